import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { SaveScenarioDto, type ScenarioDto } from "#contracts/scenario";
import { StepsDto, type StepDto } from "#contracts/mark";
import { readDto } from "#contracts/read";
import { aFormer } from "#core/testing/written";
import { StepRow } from "../database/models.ts";
import { appendBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { aMarket, anAnalyst, failureOf, minutes, setClock, withTables } from "../testing.ts";
import { applySteps, markedMarket, marksOf } from "./marks.ts";
import { saveScenario, scenariosOf } from "./scenarios.ts";

withTables();

const level = (id: string, price: number) => ({
  id,
  kind: "level",
  rung: "P1D",
  anchors: [{ time: 0, price }],
  props: { label: "" },
  note: "",
});
const step = (mark: StepDto["mark"], version: number, kind: StepDto["step"] = "set"): StepDto => ({
  id: randomUUID(),
  step: kind,
  version,
  mark,
});

const scenarioOf = (id: string) => aFormer({ id });

describe("steps of marks", () => {
  it("place, move, remove and bring back a mark; each is logged", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const id = randomUUID();
    await applySteps(market, [step(level(id, 5), 0)], author);
    await applySteps(market, [step(level(id, 6), 1)], author);
    expect((await marksOf(market)).map(({ anchors, version }) => [anchors[0].price, version])).toEqual([[6, 2]]);
    const { versions } = await applySteps(market, [step(level(id, 6), 2, "remove")], author);
    expect(versions[id]).toBe(3);
    expect(await marksOf(market)).toEqual([]);
    await applySteps(market, [step(level(id, 6), 3)], author);
    expect(await marksOf(market)).toHaveLength(1);
    expect(await StepRow.count({ where: { markId: id } })).toBe(4);
  });
  it("another's change is not overwritten: the group is refused whole and theirs is shown", async () => {
    const [{ id: market }, { id: one }, { id: two }] = [await aMarket(), await anAnalyst(), await anAnalyst()];
    const [a, b] = [randomUUID(), randomUUID()];
    await applySteps(market, [step(level(a, 5), 0)], one);
    await applySteps(market, [step(level(a, 6), 1)], two);
    const outcome = await applySteps(market, [step(level(b, 1), 0), step(level(a, 7), 1)], one);
    expect(outcome.conflicts).toEqual([a]);
    expect(outcome.marks.find(({ id }) => id === a)?.anchors[0].price).toBe(6);
    expect((await marksOf(market)).map(({ id }) => id)).toEqual([a]);
  });
  it("a group sent twice, because an answer was lost, changes nothing the second time", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const steps = [step(level(randomUUID(), 5), 0)];
    await applySteps(market, steps, author);
    const again = await applySteps(market, steps, author);
    expect(again.conflicts).toEqual([]);
    expect((await marksOf(market))[0].version).toBe(1);
  });
  it("a group sent five times at one moment is applied once, and each is told so", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const group = [step(level(randomUUID(), 5), 0), step(level(randomUUID(), 6), 0)];
    const outcomes = await Promise.all(Array.from({ length: 5 }, () => applySteps(market, group, author)));
    expect(outcomes.map(({ conflicts, marked }) => [conflicts, marked])).toEqual(outcomes.map(() => [[], 1]));
    expect(await marksOf(market)).toHaveLength(2);
    expect(await StepRow.count({ where: { marketId: market } })).toBe(2);
  });
  it("what is sent again with more after it goes on where it was, unless somebody came in between", async () => {
    const [{ id: market }, { id: one }, { id: two }] = [await aMarket(), await anAnalyst(), await anAnalyst()];
    const id = randomUUID();
    const lost = step(level(id, 5), 0);
    await applySteps(market, [lost], one);
    // The answer was lost: the page sends the step again, and what was done since, on the version it knew.
    expect((await applySteps(market, [lost, step(level(id, 6), 0)], one)).conflicts).toEqual([]);
    expect((await marksOf(market))[0]).toMatchObject({ version: 2, anchors: [{ price: 6 }] });
    await applySteps(market, [step(level(id, 9), 2)], two);
    expect((await applySteps(market, [lost, step(level(id, 7), 0)], one)).conflicts).toEqual([id]);
  });
  it("a mark one took away oneself is set anew without a conflict, a colleague's removal is one", async () => {
    const [{ id: market }, { id: one }, { id: two }] = [await aMarket(), await anAnalyst(), await anAnalyst()];
    const id = randomUUID();
    const removal = (version: number) => ({ ...step(level(id, 5), version), step: "remove" as const });
    await applySteps(market, [step(level(id, 5), 0)], one);
    await applySteps(market, [removal(1)], one);
    // Ctrl Z, a reload, Ctrl Y: the page knows no version of a mark that was not there when it was loaded.
    expect((await applySteps(market, [step(level(id, 5), 0)], one)).conflicts).toEqual([]);
    expect(await marksOf(market)).toMatchObject([{ id, version: 3 }]);
    await applySteps(market, [removal(3)], two);
    expect((await applySteps(market, [step(level(id, 5), 0)], one)).conflicts).toEqual([id]);
    expect(await marksOf(market)).toEqual([]);
  });
  it("a group in which two steps have one id is refused, and nothing of it is done", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const one = step(level(randomUUID(), 5), 0);
    const other = { ...step(level(randomUUID(), 6), 0), id: one.id };
    expect(await failureOf(applySteps(market, [one, other], author))).toMatchObject({ code: "fields" });
    expect(await marksOf(market)).toEqual([]);
  });
  it("lock, hide and name where a mark was copied from; each group counts once", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const id = randomUUID();
    const copied = { market: "tin", mark: randomUUID(), by: "ratio" as const, at: 5, value: 2 };
    expect((await applySteps(market, [step({ ...level(id, 5), locked: true, copied }, 0)], author)).marked).toBe(1);
    expect((await marksOf(market))[0]).toMatchObject({ locked: true, copied });
    expect((await applySteps(market, [step({ ...level(id, 5), hidden: true }, 1)], author)).marked).toBe(2);
    const [mark] = (await markedMarket(market)).marks;
    expect(mark).toMatchObject({ hidden: true });
    expect(mark).not.toHaveProperty("locked");
    expect(mark).not.toHaveProperty("copied");
    const forged = { ...copied, value: -1 };
    expect(await failureOf(applySteps(market, [step({ ...level(id, 5), copied: forged }, 2)], author))).toMatchObject({
      code: "mark",
    });
  });
  it("a locked mark is neither moved nor removed by anybody, until it is unlocked", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const id = randomUUID();
    const locked = (price: number) => ({ ...level(id, price), locked: true });
    await applySteps(market, [step(locked(5), 0)], author);
    for (const refused of [step(locked(6), 1), step(locked(5), 1, "remove"), step({ ...locked(5), rung: "P1W" }, 1)])
      expect(await failureOf(applySteps(market, [refused], author))).toMatchObject({
        code: "locked",
        details: { status: 400, kept: "Nothing was changed." },
      });
    // What does not move it may be said: a note, or that it is hidden.
    await applySteps(market, [step({ ...locked(5), note: "a word", hidden: true }, 1)], author);
    await applySteps(market, [step({ ...level(id, 6), locked: false }, 2)], author);
    expect((await marksOf(market))[0].anchors[0].price).toBe(6);
  });
  it("a market named in capitals, or with an accent or a space more, is another one", async () => {
    const [{ id }, { id: author }] = [await aMarket(`tin-${randomUUID().slice(0, 8)}`), await anAnalyst()];
    for (const other of [id.toUpperCase(), id.replace("i", "\u00ed"), `${id} `])
      expect((await failureOf(applySteps(other, [step(level(randomUUID(), 1), 0)], author))).code, other).toBe(
        "not-found",
      );
  });
  it("a forged id of another market's mark reaches nothing", async () => {
    const [{ id: here }, { id: there }, { id: author }] = [await aMarket(), await aMarket(), await anAnalyst()];
    const id = randomUUID();
    await applySteps(there, [step(level(id, 5), 0)], author);
    expect(await failureOf(applySteps(here, [step(level(id, 9), 1)], author))).toMatchObject({ code: "mark" });
    expect((await marksOf(there))[0].anchors[0].price).toBe(5);
  });
  it("a kind or props that cannot be read are refused, and nothing of the group is stored", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const bad = { ...level(randomUUID(), 5), kind: "scribble" };
    await failureOf(applySteps(market, [step(level(randomUUID(), 1), 0), step(bad, 0)], author));
    expect(await marksOf(market)).toEqual([]);
  });
});

const aScenario = (): ScenarioDto =>
  aFormer({
    trigger: { event: "closeAbove", price: 10, timeframe: "PT1H" },
    entry: { order: "market", price: 10 },
    stop: 9,
    targets: [
      { price: 12, share: 0.5 },
      { price: 14, share: 0.5 },
    ],
    invalidation: 8,
    expiry: 1e13,
  });

describe("scenarios", () => {
  it("are saved, and a stale save is refused with what was kept", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const scenario = aScenario();
    await saveScenario(market, { version: 0, step: "save", scenario }, author);
    const failure = await failureOf(saveScenario(market, { version: 0, step: "save", scenario }, author));
    expect(failure).toMatchObject({ code: "stale", details: { status: 409 } });
    expect((await scenariosOf(market))[0].scenario.terms.orders[0].targets.map(({ share }) => share)).toEqual([
      0.5, 0.5,
    ]);
  });
});

describe("when a scenario was written", () => {
  const dated = (writtenAt: number) => ({
    version: 0,
    step: "save" as const,
    writtenAt,
    scenario: scenarioOf(randomUUID()),
  });
  it("is now, or a moment the market has bars of: never 1970 by hand, never the future", async () => {
    const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
    const [start, now] = [Date.UTC(2024, 0, 2), Date.UTC(2024, 0, 3)];
    await setClock(now);
    await transact((transaction) =>
      appendBars({ marketId: market, base: "PT1M", shelf: "live" }, minutes(start, [1, 1, 1]), transaction),
    );
    expect(await failureOf(saveScenario(market, dated(0), author))).toMatchObject({
      code: "moment",
      details: { status: 400 },
    });
    expect((await saveScenario(market, dated(start + 60_000), author)).writtenAt).toBe(start + 60_000);
    expect((await saveScenario(market, dated(now + 1e9), author)).writtenAt).toBe(now);
  });
});

describe("what comes over the border", () => {
  const fields = (value: unknown) => {
    const read = readDto(SaveScenarioDto, value);
    return read.ok ? [] : Object.keys(read.fields);
  };
  const whole = () => ({ version: 0, step: "save", scenario: aScenario() });
  const terms = (change: object) => (value: ReturnType<typeof whole>) => ({
    ...value,
    scenario: { ...value.scenario, terms: { ...value.scenario.terms, ...change } },
  });
  const order = (change: object) => ({ ...aScenario().terms.orders[0], ...change });
  it("a whole scenario passes", () => expect(fields(whole())).toEqual([]));
  it.each<[string, (value: ReturnType<typeof whole>) => unknown, string]>([
    ["an empty title", (value) => ({ ...value, scenario: { ...value.scenario, title: "" } }), "scenario.title"],
    [
      "a title of 81 letters",
      (value) => ({ ...value, scenario: { ...value.scenario, title: "x".repeat(81) } }),
      "scenario.title",
    ],
    ["a stop that is text", terms({ orders: [order({ stop: "9" })] }), "scenario.terms"],
    [
      "a price that is no number",
      terms({ orders: [order({ entry: { order: "limit", price: NaN } })] }),
      "scenario.terms",
    ],
    ["no targets", terms({ orders: [order({ targets: [] })] }), "scenario.terms"],
    ["no order", terms({ orders: [] }), "scenario.terms"],
    ["orders that are none", terms({ orders: [null] }), "scenario.terms"],
    [
      "a rung in words",
      terms({ if: [{ when: { on: "close", side: "above", price: 1, rung: "daily" } }] }),
      "scenario.terms",
    ],
    [
      "a rung of 999 years",
      terms({ if: [{ when: { on: "close", side: "above", price: 1, rung: "P999Y" } }] }),
      "scenario.terms",
    ],
    ["a condition nobody knows", terms({ while: [{ on: "hope" }] }), "scenario.terms"],
    ["a price that follows nothing", terms({ wrong: { follows: "", part: "at level", value: 1 } }), "scenario.terms"],
    [
      "terms longer than they can be",
      terms({ while: [{ on: "time", from: "x".repeat(50_000), to: "1" }] }),
      "scenario.terms",
    ],
    [
      "a rule that is no rule, waived",
      (value) => ({ ...value, scenario: { ...value.scenario, waived: { luck: "I feel it" } } }),
      "scenario.waived",
    ],
    ["a weight beyond all", (value) => ({ ...value, scenario: { ...value.scenario, weight: 101 } }), "scenario.weight"],
    [
      "a field nobody asked for",
      (value) => ({ ...value, scenario: { ...value.scenario, owner: "me" } }),
      "scenario.owner",
    ],
    ["an id that is none", (value) => ({ ...value, scenario: { ...value.scenario, id: "1' OR 1=1" } }), "scenario.id"],
    ["no scenario", ({ version, step }) => ({ version, step }), "scenario"],
    ["a list", () => [], ""],
    ["nothing", () => null, ""],
  ])("%s is refused at its field", (_name, change, field) => expect(fields(change(whole()))).toContain(field));
  it("five hundred steps at most", () => {
    const many = { steps: Array.from({ length: 501 }, () => step(level(randomUUID(), 1), 0)) };
    const read = readDto(StepsDto, many);
    expect(read.ok).toBe(false);
  });
});
