import { describe, expect, it } from "vitest";
import { PATTERNS, type PatternName } from "#core/patterns/registry";
import type { PatternPoint, PatternShape } from "#core/patterns/shape";
import { broken, CASES, CUP, straight, SYMMETRICAL, type Points } from "#core/testing/patternCases";

/** A hollow that is round: closes spend most of their time below its middle. */
function round([[from, rim], [, low], [to], [end, handle]]: Points): Float64Array {
  const close = new Float64Array(end + 1).fill(rim);
  for (let i = from; i <= to; i++) close[i] = low + (rim - low) * Math.abs((2 * (i - from)) / (to - from) - 1) ** 3;
  close[end] = handle;
  return close;
}
const closesOf = (name: string, points: Points) => (name === "cup" ? round(points) : straight(points));

describe.each(Object.entries(CASES))("%s", (name, { good, bad }) => {
  const judged = (points: Points) => broken(name as PatternName, points, { close: closesOf(name, points) });
  it("textbook points keep every rule", () => expect(judged(good)).toEqual([]));
  it.each(bad)("%s", (rule, points, kept) => {
    expect(judged(points)).toEqual([rule]);
    if (kept) expect(judged(kept)).toEqual([]);
  });
});

describe("what closes tell", () => {
  it("closes beyond the lines of a triangle", () => {
    const close = straight(SYMMETRICAL);
    close[7] = 112;
    expect(broken("symmetricalTriangle", SYMMETRICAL, { close })).toEqual([]);
    close[8] = 112;
    expect(broken("symmetricalTriangle", SYMMETRICAL, { close })).toEqual([
      "closes beyond its lines, share of its bars",
    ]);
  });
  it("a pointed hollow is no cup", () =>
    expect(broken("cup", CUP, { close: straight(CUP) })).toEqual(["closes in the lower half, share of the bars"]));
});

// Ratios by common practice, no source: B and D as shares of XA, C as one of AB. XA is 100 high, so shares read off.
describe("five points", () => {
  const at = (b: number, c: number, d: number, a = 200): Points => [
    [0, 100],
    [10, a],
    [15, a - b],
    [20, a - b + (c * b) / 100],
    [30, a - d],
  ];
  it.each<[PatternName, number, number, string[]]>([
    ["fivePoints786", 61.8, 78.6, []],
    ["fivePoints786", 66.8, 83.6, []],
    ["fivePoints786", 66.9, 78.6, ["B, share of XA"]],
    ["fivePoints786", 56.7, 78.6, ["B, share of XA"]],
    ["fivePoints786", 61.8, 83.7, ["D, share of XA"]],
    ["fivePoints886", 45, 88.6, []],
    ["fivePoints886", 45, 78.6, ["D, share of XA"]],
    ["fivePoints1272", 78.6, 127.2, []],
    ["fivePoints1272", 61.8, 127.2, ["B, share of XA"]],
    ["fivePoints1618", 50, 161.8, []],
    ["fivePoints1618", 50, 155, ["D, share of XA"]],
  ])("%s with B at %s %% and D at %s %%: %j", (name, b, d, expected) =>
    expect(broken(name, at(b, 60, d))).toEqual(expected),
  );
  it("C gives back 38.2 to 88.6 % of AB, within 5", () => {
    expect(broken("fivePoints786", at(61.8, 33.2, 78.6))).toEqual([]);
    expect(broken("fivePoints786", at(61.8, 33.1, 78.6))).toEqual(["C, share of AB"]);
    expect(broken("fivePoints786", at(61.8, 94, 78.6))).toEqual(["C, share of AB"]);
  });
  it("and the first leg is three ATR high", () =>
    expect(broken("fivePoints786", at(61.8, 60, 78.6), { atr: 34 })).toEqual(["first leg in ATR"]));
});

it("every pattern has a case for each of its rules that can be broken alone", () => {
  const rulesOf = (name: PatternName, points: Points) => {
    const shape: PatternShape = PATTERNS[name];
    const read = points.map(([index, price]): PatternPoint => ({ index, price }));
    const ground = {
      atr: 1,
      bars: { close: straight(points) },
      sign: 1 as const,
      measured: new Map<string, unknown>(),
    };
    return shape.judge(read, ground).rules.map(({ rule }) => rule);
  };
  // Rules of lines and poles are shared: one pattern of the family shows each.
  const shown = new Set(Object.values(CASES).flatMap(({ bad }) => bad.map(([rule]) => rule)));
  shown.add("closes beyond its lines, share of its bars").add("closes in the lower half, share of the bars");
  const missing = Object.entries(CASES).flatMap(([name, { good }]) =>
    rulesOf(name as PatternName, good).filter((rule) => !shown.has(rule)),
  );
  // Lines that have met at their end break the share of the width as well.
  expect([...new Set(missing)]).toEqual(["width at its end in ATR"]);
});
