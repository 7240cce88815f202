import { describe, expect, it } from "vitest";
import { channelsOf } from "#core/waves/channel";
import { guidelinesOf, keptOf } from "#core/waves/guidelines";
import { labelText, USUAL_NOTATION } from "#core/waves/notation";
import { DEGREES } from "#core/waves/degrees";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import { targetAreas } from "#core/waves/targetAreas";
import { targetsOf, timeTargetsOf } from "#core/waves/targets";
import { STRICT } from "#core/waves/rules";
import type { Wave } from "#core/waves/wave";

const wave = (
  pattern: Pattern,
  prices: readonly number[],
  times = prices.map((_, i) => i),
  inner: Record<number, Wave> = {},
): Wave => ({
  pattern,
  pivots: prices.map((price, i) => ({ time: times[i], price })),
  inner: PATTERNS[pattern].labels.map((_, i) => inner[i]),
});
const priced = (pattern: Pattern, prices: readonly number[], scale: "arithmetic" | "log" = "arithmetic") =>
  targetsOf(wave(pattern, prices), { ...STRICT, scale }).map(({ ratio, price }) => [
    ratio,
    Math.round(price * 1000) / 1000,
  ]);

// Ratios: Frost and Prechter, chapter 4, "Ratio analysis", and chapter 2; from memory, without page. Prices worked by
// hand.
describe("targets of the wave in progress", () => {
  it.each<[string, Pattern, number[], [number, number][]]>([
    [
      "B of a zigzag",
      "zigzag",
      [200, 100],
      [
        [0.382, 138.2],
        [0.5, 150],
        [0.618, 161.8],
      ],
    ],
    [
      "C of a zigzag",
      "zigzag",
      [200, 100, 150],
      [
        [0.618, 88.2],
        [1, 50],
        [1.618, -11.8],
      ],
    ],
    [
      "B of a flat",
      "flat",
      [200, 100],
      [
        [0.9, 190],
        [1, 200],
        [1.236, 223.6],
        [1.382, 238.2],
      ],
    ],
    [
      "C of a regular flat",
      "flat",
      [200, 100, 195],
      [
        [0.618, 133.2],
        [1, 95],
        [1.618, 33.2],
      ],
    ],
    [
      "C of an expanded flat reaches further",
      "flat",
      [300, 200, 310],
      [
        [0.618, 248.2],
        [1, 210],
        [1.618, 148.2],
        [2.618, 48.2],
      ],
    ],
    [
      "D of a triangle",
      "triangle",
      [100, 60, 90, 66],
      [
        [0.618, 80.832],
        [0.786, 84.864],
      ],
    ],
    ["the thrust out of a triangle", "triangle", [100, 60, 90, 66, 85, 70], [[1, 110]]],
    [
      "3 of a converging diagonal",
      "endingDiagonal",
      [200, 160, 185],
      [
        [0.618, 160.28],
        [0.786, 153.56],
      ],
    ],
    [
      "Y of a double zigzag",
      "doubleZigzag",
      [200, 160, 185],
      [
        [0.618, 160.28],
        [1, 145],
        [1.618, 120.28],
      ],
    ],
  ])("%s", (_name, pattern, prices, targets) => expect(priced(pattern, prices)).toEqual(targets));
  it("no target lies where going on to would break a rule", () => {
    // A fifth that is longer than a third which is shorter than the first: wave 3 would be the shortest.
    const targets = targetsOf(wave("impulse", [100, 130, 110, 135, 132]));
    expect(targets.length).toBeGreaterThan(2);
    expect(Math.max(...targets.map(({ price }) => price))).toBe(157);
    // A fourth that comes back into the first.
    expect(targetsOf(wave("impulse", [100, 200, 150, 240])).every(({ price }) => price >= 200)).toBe(true);
  });
  it("a fifth under a short third carries its cap", () => {
    const cap = targetsOf(wave("impulse", [100, 130, 110, 135, 132])).find(({ basis }) => basis.includes("cap"));
    expect(cap?.price).toBe(157);
  });
  it("on the log scale a leg that doubles is matched by one that doubles", () =>
    expect(priced("zigzag", [400, 200, 300], "log").find(([ratio]) => ratio === 1)).toEqual([1, 150]));
  it("times repeat those of the waves before", () =>
    expect(
      timeTargetsOf(wave("impulse", [100, 120, 110], [0, 10, 16])).map(({ ratio, time }) => [ratio, time]),
    ).toEqual([
      [0.618, 16 + 0.618 * 6],
      [1, 22],
      [1.618, 16 + 1.618 * 6],
      [0.618, 16 + 6.18],
      [1, 26],
      [1.618, 16 + 16.18],
    ]));
});

describe("channels", () => {
  const at = (prices: number[], scale: "arithmetic" | "log" = "arithmetic") =>
    channelsOf(wave("impulse", prices, [0, 10, 20, 30, 40]), (time) => time, scale);
  // Frost and Prechter, chapter 2, "Channeling", from memory; values worked by hand on straight lines.
  it("the line through 2 and 4, laid through 3, at the bar the fifth may end", () => {
    const [channel] = at([100, 120, 110, 150, 130]);
    expect([channel.base(20), channel.base(40), channel.parallel(30), channel.parallel(50)]).toEqual([
      110, 130, 150, 170,
    ]);
  });
  it("with 3 running, the line from the start through 2, laid through 1", () =>
    expect(at([100, 120, 110])[0].parallel(20)).toBe(125));
  it("after a steep third the parallel runs through 1 as well", () =>
    expect(at([100, 120, 110, 200, 150]).map(({ name }) => name)).toEqual(["2-4 through 3", "2-4 through 1"]));
  it("on the log scale a line that doubles in ten bars doubles in the next ten", () =>
    expect(at([10, 40, 20, 160, 80], "log")[0].base(60)).toBeCloseTo(320, 9));
  it("of other patterns there are none", () =>
    expect(channelsOf(wave("zigzag", [150, 120, 140]), (time) => time)).toEqual([]));
});

describe("guidelines", () => {
  const textbook = wave("impulse", [100, 120, 107.64, 140, 127.64, 147.64], [0, 10, 16, 30, 38, 48]);
  it("a textbook impulse meets nearly all, a crooked one few", () => {
    const crooked = wave("impulse", [100, 120, 119, 125, 124, 150], [0, 10, 11, 40, 41, 42]);
    expect(keptOf(guidelinesOf(textbook))).toEqual({ kept: 12, of: 12 });
    expect(keptOf(guidelinesOf(crooked))).toEqual({ kept: 4, of: 11 });
  });
  it("judge only what has come", () => {
    expect(guidelinesOf(wave("impulse", [100, 120]))).toEqual([]);
    expect(keptOf([])).toEqual({ kept: 0, of: 0 });
    expect(guidelinesOf(wave("impulse", [100, 120, 110])).map(({ guideline }) => guideline)).toEqual([
      "length of wave 2 to wave 1",
      "time of wave 2 to wave 1",
    ]);
  });
  it("a sharp second and a sideways fourth alternate", () => {
    const inside = (pattern: Pattern): Wave => wave(pattern, [1, 2, 1.5, 3]);
    const alternates = (two: Pattern, four: Pattern) =>
      guidelinesOf(wave("impulse", [100, 120, 110, 150, 135], undefined, { 1: inside(two), 3: inside(four) })).find(
        ({ guideline }) => guideline.includes("in form"),
      )?.score;
    expect([alternates("zigzag", "flat"), alternates("zigzag", "doubleZigzag"), alternates("flat", "zigzag")]).toEqual([
      1, 0, 1,
    ]);
  });
  it("momentum and volume are judged where bars tell them", () => {
    const lines = guidelinesOf(textbook, "arithmetic", { rsi: [30, 60, 45, 75, 55, 68], volume: [5, 4, 9, 3, 6] });
    const of = (start: string) => lines.find(({ guideline }) => guideline.startsWith(start))?.score;
    expect([of("momentum"), of("volume")]).toEqual([1, 1]);
  });
  it("momentum of a flat's B is judged against that of the fifth before it, falling and rising alike", () => {
    const scoreOf = (prices: number[], rsi: (number | undefined)[]) =>
      guidelinesOf(wave("flat", prices), "arithmetic", { rsi }).find(({ guideline }) =>
        guideline.startsWith("momentum"),
      )?.score;
    expect(scoreOf([120, 100, 121], [78, 40, 64])).toBe(1);
    expect(scoreOf([120, 100, 121], [64, 40, 78])).toBe(0);
    expect(scoreOf([100, 120, 99], [22, 60, 36])).toBe(1);
    expect(scoreOf([100, 120, 99], [22, 60, 18])).toBe(0);
    expect(scoreOf([100, 120, 99], [undefined, 60, 18])).toBeUndefined();
  });
});

describe("where targets agree", () => {
  const target = (price: number, from: string, method: string) => ({ price, from, method });
  it("two degrees or methods within a quarter of ATR make an area, one alone does not", () => {
    const areas = targetAreas(
      [
        target(100, "Minor", "1 x A"),
        target(100.2, "Minute", "0.618 x 1"),
        target(104, "Minor", "1.618 x A"),
        target(104.1, "Minor", "1.618 x A"),
      ],
      1,
    );
    expect(areas.map(({ bottom, top, reasons }) => [bottom, top, reasons.length])).toEqual([[100, 100.2, 2]]);
  });
  it("a chain of neighbours is not drawn out beyond it", () => {
    const areas = targetAreas(
      [0, 0.2, 0.4, 0.6].map((off, i) => target(100 + off, `degree ${i}`, "m")),
      1,
    );
    expect(areas.every(({ bottom, top }) => top - bottom <= 0.25)).toBe(true);
    expect(areas).toHaveLength(2);
  });
});

// Frost and Prechter, chapter 1, "Notation and nomenclature", from memory.
describe("notation", () => {
  it("no two degrees write a label alike", () => {
    for (const label of ["1", "3", "5", "A", "C", "W"])
      expect(new Set(DEGREES.map((degree) => labelText(label, degree))).size).toBeGreaterThanOrEqual(
        label < "A" ? 9 : 6,
      );
  });
  it("circles that the fonts hold are circles, others square brackets", () =>
    expect(["0", "1", "5", "A"].map((label) => labelText(label, "Primary"))).toEqual([
      "[0]",
      "\u2460",
      "\u2464",
      "[A]",
    ]));
  it("can be changed for a degree", () =>
    expect(
      labelText("3", "Minor", { ...USUAL_NOTATION, Minor: { figures: "roman", letters: "small", around: "brackets" } }),
    ).toBe("(III)"));
});
