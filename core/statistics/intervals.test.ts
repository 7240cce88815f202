import { describe, expect, it } from "vitest";
import { bootstrapMean, drawsOf, wilson } from "#core/statistics/intervals";

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
