import { describe, expect, it } from "vitest";
import type { Pattern } from "#core/waves/patterns";
import type { SpanCount } from "#core/waves/odds";
import { insideOfCount, separationOf } from "#core/waves/spanSays";
import type { Wave } from "#core/waves/wave";

const wave = (pattern: Pattern, prices: readonly number[], from = 0, inner: Wave["inner"] = []): Wave => ({
  pattern,
  pivots: prices.map((price, i) => ({ time: from + i, price })),
  inner,
});
const count = (odds: number, parts?: number) => ({ odds, ...(parts === undefined ? {} : { parts }) }) as SpanCount;

describe("what a span's odds come to", () => {
  it("counts within half of the first's odds more are not told apart, and the price that parts them is", () => {
    expect(separationOf({ counts: [count(0.3, 2741), count(0.25), count(0.2), count(0.1)], none: 0.15 })).toEqual({
      alike: 3,
      at: 2741,
      noneFirst: false,
    });
    expect(separationOf({ counts: [count(0.4, 90), count(0.2)], none: 0.4 })).toMatchObject({
      alike: 1,
      noneFirst: false,
    });
  });
  it("none of them may be likelier than the first; without a count there is nothing else", () => {
    expect(separationOf({ counts: [count(0.1)], none: 0.9 })).toEqual({ alike: 1, noneFirst: true });
    expect(separationOf({ counts: [], none: 1 })).toEqual({ alike: 0, noneFirst: true });
  });
});

describe("a count of a smaller span", () => {
  // 1 to 4 are done: wave 5 began at 130, at instant 4.
  const larger = wave("impulse", [100, 120, 110, 150, 130]);
  it("is the inside of the wave in progress where it begins with it and is of a pattern it may have", () => {
    expect(insideOfCount(larger, wave("impulse", [130, 140, 135], 4))).toEqual(["5"]);
    expect(insideOfCount(larger, wave("endingDiagonal", [130, 140, 135], 4))).toEqual(["5"]);
    expect(insideOfCount(larger, wave("zigzag", [130, 140, 135], 4))).toBeUndefined();
    expect(insideOfCount(larger, wave("impulse", [130, 140, 135], 3))).toBeUndefined();
    expect(insideOfCount(larger, wave("impulse", [131, 140, 135], 4))).toBeUndefined();
  });
  it("is looked for down the waves in progress, and nowhere in a count that is complete", () => {
    const running = wave("impulse", [130, 138, 133], 4);
    const nested = { ...larger, inner: [undefined, undefined, undefined, undefined, running] };
    expect(insideOfCount(nested, wave("impulse", [133, 137, 135], 6))).toEqual(["5", "3"]);
    const complete = wave("zigzag", [100, 120, 110, 130]);
    expect(insideOfCount(complete, wave("impulse", [130, 140], 3))).toBeUndefined();
  });
});
