import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fitLevel, type FitOptions } from "#core/levels/fitted";
import type { Series } from "#core/series/series";
import { days, sp500, walk } from "#core/testing/openData";

/** The same by looking at every bar for every candidate: in whole ticks, so that nothing hangs on rounding. */
function plainly(
  { open, high, low, close }: Series,
  from: number,
  to: number,
  rough: number,
  { reach, near, tick }: FitOptions,
) {
  const n = (price: number) => Math.round(price / tick);
  const candidates = new Set<number>();
  for (let i = from; i <= to; i++)
    for (const price of [high[i], low[i]])
      if (Math.abs(n(price) - n(rough)) <= Math.round(reach / tick)) candidates.add(n(price));
  const found = [...candidates]
    .sort((a, b) => a - b)
    .map((at) => {
      let [touches, through] = [0, 0];
      for (let i = from; i <= to; i++) {
        if (Math.min(Math.abs(n(high[i]) - at), Math.abs(n(low[i]) - at)) <= Math.round(near / tick)) touches++;
        else if (n(high[i]) - n(low[i]) <= 2 * Math.round(near / tick) && at > n(low[i]) && at < n(high[i])) touches++;
        const before = n(i > from ? close[i - 1] : open[i]);
        if (Math.min(before, n(close[i])) < at && Math.max(before, n(close[i])) > at) through++;
      }
      return { at, touches, through };
    });
  return found.sort(
    (a, b) => b.touches - b.through - (a.touches - a.through) || Math.abs(a.at - n(rough)) - Math.abs(b.at - n(rough)),
  )[0];
}

describe("the price that wicks respect", () => {
  const options = { reach: 4, near: 0.25, tick: 0.25 };
  it("has the most wick ends and the fewest closes through it", () => {
    const series = days(
      [10, 12, 9, 11],
      [11, 12.25, 10, 10.5],
      [10.5, 12, 10, 11],
      [11, 14, 11, 13.5],
      [13.5, 14, 10, 10.5],
    );
    expect(fitLevel(series, 0, 2, 11.5, options)).toEqual({ price: 12, touches: 3, through: 0 });
    expect(fitLevel(series, 0, 4, 11.5, options)).toMatchObject({ price: 10, touches: 3 });
  });
  it("is none where no wick ends in reach", () => {
    expect(fitLevel(days([10, 12, 9, 11]), 0, 0, 50, options)).toBeUndefined();
  });
  it("is what looking at every bar for every candidate finds", () => {
    const steps = fc.array(
      fc.tuple(fc.integer({ min: -6, max: 6 }), fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 3 })),
      { minLength: 4, maxLength: 60 },
    );
    fc.assert(
      fc.property(steps, fc.integer({ min: 380, max: 420 }), (drawn, quarter) => {
        const series = walk(drawn);
        const rough = quarter / 4;
        const fast = fitLevel(series, 1, series.length - 1, rough, options);
        const slow = plainly(series, 1, series.length - 1, rough, options);
        expect(fast && [fast.touches, fast.through]).toEqual(slow && [slow.touches, slow.through]);
        if (fast) expect(Math.abs(fast.price - rough)).toBeCloseTo(Math.abs(slow.at * 0.25 - rough));
      }),
      { numRuns: 300 },
    );
  });
  it("holds on real prices with two decimals (S&P 500, 2000 to 2010, vega-datasets)", () => {
    const series = sp500();
    for (const at of [300, 900, 1500]) {
      const rough = series.high[at - 50];
      const real = { reach: 25, near: 1.5, tick: 0.01 };
      const slow = plainly(series, at - 200, at, rough, real);
      expect(fitLevel(series, at - 200, at, rough, real)).toMatchObject({
        price: expect.closeTo(slow.at / 100, 6) as number,
        touches: slow.touches,
        through: slow.through,
      });
    }
  });
});
