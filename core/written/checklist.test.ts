import { describe, expect, it } from "vitest";
import { checklistOf, RULES, type CheckFacts, type Rule } from "#core/written/checklist";
import { figuresOf } from "#core/written/figures";
import { termsOfWritten } from "#core/written/read";
import { separableOf, separates, setOf, setProblem } from "#core/written/sets";
import { aWritten } from "#core/testing/written";

const HOUR = 3_600_000;
const figures = figuresOf(termsOfWritten(aWritten()), { pip: 0.1 }, { close: 102, atr: 2 });
const facts: CheckFacts = {
  ...{ direction: "long", figures, close: 102, atr: 2, mean: 99, rung: "P1D" },
  ...{
    higher: { rung: "P1W", direction: "up" },
    range: { bottom: 99, top: 119 },
    events: [],
    holidays: 0,
    halfDays: 0,
  },
  ...{ countDied: "", touches: 1, overnight: false, others: [] },
};
const lineOf = (rule: Rule, change: Partial<CheckFacts> = {}) =>
  checklistOf({ ...facts, ...change }).find((line) => line.rule === rule);
const figuresWith = (stop: number, target = 104) =>
  figuresOf(
    termsOfWritten(aWritten({}, { stop, targets: [{ price: target, share: 1 }] })),
    { pip: 0.1 },
    { close: 102, atr: 2 },
  );
const event = (kind: "release" | "speech" | "expiry", impact: 1 | 2 | 3, hour: number) => ({
  ...{ kind, title: `${kind} ${hour}`, at: hour * HOUR, allDay: false, impact },
});

describe("the checklist", () => {
  it("says nothing against a scenario that goes with everything, and knows a sentence for every rule", () => {
    const lines = checklistOf(facts);
    expect(lines.filter(({ against }) => against !== false)).toEqual([]);
    expect(lines.map(({ rule }) => rule).sort()).toEqual(Object.keys(RULES).sort());
  });
  it.each<[string, Rule, Partial<CheckFacts>, RegExp]>([
    [
      "against the higher bearing",
      "bearing",
      { higher: { rung: "P1W", direction: "down" } },
      /Week bears down; this is a long/,
    ],
    ["in the middle of the range", "middle", { range: { bottom: 98, top: 102 } }, /at 50 % of the range of Day/],
    ["far from its mean", "mean", { mean: 95 }, /2\.5 ATR from the average of 20/],
    ["a stop that is wide", "wideStop", { figures: figuresWith(93) }, /3\.5 ATR/],
    ["a stop inside the noise", "noise", { figures: figuresWith(99.5) }, /0\.3 ATR/],
    ["a reward below the risk", "reward", { figures: figuresWith(98, 101) }, /0\.50 : 1/],
    ["a heavy release", "events", { events: [event("release", 3, 1)] }, /release 1/],
    ["an expiry, whatever it weighs", "events", { events: [event("expiry", 1, 1)] }, /expiry 1/],
    [
      "several at once",
      "events",
      { events: [event("release", 3, 1), event("speech", 3, 1.1)] },
      /1 time several at once/,
    ],
    ["half days", "closed", { halfDays: 2 }, /2 half days/],
    ["a target that is met", "reached", { close: 104 }, /first target or beyond/],
    ["a count that is dead", "count", { countDied: "The count died." }, /died/],
    ["an area that is used up", "touched", { touches: 4 }, /4 times/],
    ["thin hours", "thin", { overnight: true }, /overnight/],
  ])("%s", (_what, rule, change, sentence) => {
    const found = lineOf(rule, change);
    expect(found).toMatchObject({ against: true });
    expect(found?.sentence).toMatch(sentence);
  });
  it("releases that move little are none", () =>
    expect(lineOf("events", { events: [event("release", 2, 1)] })?.against).toBe(false));
  it("one risk taken twice: the same way with a correlation, the other way against one", () => {
    const other = { title: "B", market: "Tin", direction: "long" as const, correlation: 0.8, n: 60 };
    expect(lineOf("twice", { others: [other] })?.sentence).toBe("Tin: B; daily returns go together by 0.80 (60 days).");
    expect(lineOf("twice", { others: [{ ...other, direction: "short" }] })?.against).toBe(false);
    expect(lineOf("twice", { others: [{ ...other, direction: "short", correlation: -0.7 }] })?.against).toBe(true);
    expect(lineOf("twice", { others: [{ ...other, correlation: 0.5 }] })?.against).toBe(false);
  });
  it("what cannot be known is said to be unknown, never counted for or against", () => {
    const unknown = figuresOf(
      termsOfWritten(
        aWritten(
          {},
          { stop: { bind: "barLow", step: 1 }, entry: { order: "limit", price: { bind: "barHigh", step: 1 } } },
        ),
      ),
      { pip: 0.1 },
      { close: 102, atr: 2 },
    );
    const none = { ...unknown, orders: [undefined], blended: undefined, waitsFor: 1 };
    for (const rule of ["middle", "mean", "wideStop", "reward", "reached"] as const)
      expect(lineOf(rule, { figures: none })?.against, rule).toBeUndefined();
    expect(lineOf("bearing", { higher: undefined })?.against).toBeUndefined();
  });
});

describe("a market's scenarios as a set", () => {
  const one = (id: string, role: "preferred" | "alternate", weight: number, pair?: string) => ({
    ...{ id, role, weight },
    ...(pair ? { pair } : {}),
  });
  it("has the preferred first, then by weight; what is left is for neither", () => {
    const { members, neither, pairs } = setOf([
      one("a", "alternate", 20),
      one("b", "alternate", 25),
      one("c", "preferred", 40),
    ]);
    expect(members.map(({ id }) => id)).toEqual(["c", "b", "a"]);
    expect([neither, pairs]).toEqual([15, []]);
  });
  it("either-or is one thing of two", () => {
    const { pairs } = setOf([one("a", "preferred", 40, "b"), one("b", "alternate", 40, "a")]);
    expect(pairs.map((pair) => pair.map(({ id }) => id))).toEqual([["a", "b"]]);
  });
  it("weights beyond all, and two preferred ones, are said", () => {
    expect(setProblem([one("a", "preferred", 60), one("b", "alternate", 50)])).toMatch(/sum to 110 %/);
    expect(setProblem([one("a", "preferred", 30), one("b", "preferred", 30)])).toMatch(/Only one/);
    expect(setProblem([one("a", "preferred", 60), one("b", "alternate", 40)])).toBeUndefined();
  });
  it("what tells two apart is where the first is wrong; two of one way are not told apart by a price", () => {
    const long = separableOf(aWritten());
    const short = separableOf(aWritten({ direction: "short", wrong: 110 }));
    expect([separates(long, short), separates(long, long)]).toEqual([97, undefined]);
    expect(separates({ ...long, wrong: undefined }, short)).toBe(110);
  });
});
