import { describe, expect, it } from "vitest";
import { bootstrapMean, drawsOf, meanInterval, wilson } from "#core/statistics/intervals";

describe("Wilson's interval", () => {
  // R. G. Newcombe, Two-sided confidence intervals for the single proportion (1998), table I, method 3.
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])("of %d in %d is as published", (hits, n, low, high) => {
    const [from, to] = wilson(hits, n);
    expect(from).toBeCloseTo(low, 4);
    expect(to).toBeCloseTo(high, 4);
  });
  it("of nothing is everything", () => expect(wilson(0, 0)).toEqual([0, 1]));
});

describe("what is drawn", () => {
  it("is the same for the same seed, another for another, and even", () => {
    const [a, b, c] = [1, 1, 2].map((seed) => {
      const draw = drawsOf(seed);
      return Array.from({ length: 600 }, () => draw(6));
    });
    expect(a).toEqual(b);
    expect(a).not.toEqual(c);
    // Each of six faces about a hundred times; five standard deviations are 46.
    for (let face = 0; face < 6; face++)
      expect(Math.abs(a.filter((one) => one === face).length - 100)).toBeLessThan(46);
  });
  it("gives a mean's interval close to what the normal law says", () => {
    const values = Array.from({ length: 400 }, (_, i) => (i % 2 === 0 ? 1 : -1));
    const [low, high] = bootstrapMean(values, 7) ?? [NaN, NaN];
    // Standard error 1 / 20: about 0.098 on each side.
    expect(low).toBeGreaterThan(-0.115);
    expect(low).toBeLessThan(-0.08);
    expect(high).toBeGreaterThan(0.08);
    expect(high).toBeLessThan(0.115);
  });
  it("of one value gives no interval", () => expect(bootstrapMean([1], 1)).toBeUndefined());
});

describe("the interval of a mean of few values", () => {
  it("is Student's below twenty: five of them by hand", () => {
    // 1 to 5: mean 3, deviation sqrt(2.5), 2.776 x sqrt(2.5) / sqrt(5) = 1.963.
    const [low, high] = meanInterval([1, 2, 3, 4, 5], 1) ?? [NaN, NaN];
    expect([low, high]).toEqual([expect.closeTo(1.037, 3), expect.closeTo(4.963, 3)]);
  });

  it("of one value there is none, of equal ones it is the value", () => {
    expect(meanInterval([1], 1)).toBeUndefined();
    expect(meanInterval(new Array<number>(30).fill(2), 1)).toEqual([2, 2]);
  });

  /** Results of a rule that loses 1 R or wins 3 R, so often that it comes to nothing. */
  const covered = (n: number, interval: typeof meanInterval) => {
    const draw = drawsOf(97 + n);
    let hits = 0;
    for (let series = 0; series < 400; series++) {
      const values = Array.from({ length: n }, () => (draw(4) === 0 ? 3 : -1) + (draw(1000) - 499.5) / 10_000);
      const [low, high] = interval(values, series + 1) ?? [NaN, NaN];
      if (low <= 0 && high >= 0) hits++;
    }
    return hits / 400;
  };

  it("covers the truth of skewed results about as often as it says, where the percentile one does not", () => {
    // 400 series: two standard errors of 95 % are 2.2 %.
    expect(covered(24, meanInterval)).toBeGreaterThan(0.92);
    expect(covered(24, bootstrapMean)).toBeLessThan(covered(24, meanInterval));
  });
});
