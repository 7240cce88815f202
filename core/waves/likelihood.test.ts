import { describe, expect, it } from "vitest";
import {
  bareLikelihood,
  exponentialIntegral,
  FITS,
  noiseLikelihood,
  placeLikelihood,
  quietLikelihood,
  ratioLikelihood,
  seenLikelihood,
  timeLikelihood,
} from "#core/waves/likelihood";
import { momentumOf } from "#core/waves/momentum";
import { partsOf, PART_NAMES } from "#core/waves/explain";
import { CountingMachine } from "#core/waves/machine";
import { PATTERN_NAMES, PATTERNS } from "#core/waves/patterns";
import { sp500 } from "#core/testing/openData";
import { slice } from "#core/series/series";
import { turnsOf } from "#core/waves/turns";

/** Sum of a density of the natural log of a ratio, in steps. */
const integral = (lnDensity: (x: number) => number) => {
  let sum = 0;
  for (let i = -300; i <= 300; i++) sum += Math.exp(lnDensity(i / 64)) / 64;
  return sum;
};

describe("likelihoods", () => {
  it("the density of every ratio sums to one, as far as the machine proposes it", () => {
    for (const pattern of PATTERN_NAMES)
      FITS[pattern].forEach(({ of, most }) => {
        const sum = integral((x) => ratioLikelihood(pattern, of, x, true));
        expect(sum, `${pattern} ${of}`).toBeLessThan(1.01);
        expect(sum, `${pattern} ${of}`).toBeGreaterThan(most === undefined ? 0.98 : 0.85);
      });
    expect(integral((x) => timeLikelihood(x, true))).toBeCloseTo(1, 1);
  });
  it("of a wave in progress: sure to grow past nothing, ever less likely to grow past more", () => {
    for (const pattern of PATTERN_NAMES) {
      expect(Math.exp(ratioLikelihood(pattern, 2, -4, false))).toBeCloseTo(1, 2);
      const grown = [-1, 0, 0.3, 1, 2].map((x) => ratioLikelihood(pattern, 2, x, false));
      expect(grown).toEqual([...grown].sort((a, b) => b - a));
    }
  });
  it("usual ratios are likelier than odd ones", () => {
    // Frost and Prechter, chapter 4, from memory: 3 is most often 1.618 times 1, C as long as A.
    const at = (pattern: "impulse" | "zigzag", wave: number, ratio: number) =>
      ratioLikelihood(pattern, wave, Math.log(ratio), true);
    expect(at("impulse", 3, 1.618)).toBeGreaterThan(at("impulse", 3, 1.1));
    expect(at("impulse", 3, 1.618)).toBeGreaterThan(at("impulse", 3, 4));
    expect(at("zigzag", 3, 1)).toBeGreaterThan(at("zigzag", 3, 0.4));
    expect(at("zigzag", 2, 0.5)).toBeGreaterThan(at("zigzag", 2, 0.9));
  });
  it("no flat is proposed whose B takes back more than 1.618 of A", () => {
    expect(ratioLikelihood("flat", 2, Math.log(1.6), true)).toBeGreaterThan(-20);
    expect(ratioLikelihood("flat", 2, Math.log(1.7), true)).toBe(-Infinity);
  });
  it("noise is small: the larger a pair the less likely, and the more of it the less quiet a leg", () => {
    const sizes = [0.01, 0.05, 0.1, 0.3, 1].map(noiseLikelihood);
    expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
    expect(quietLikelihood(0.01)).toBeLessThan(quietLikelihood(0.1));
    expect(quietLikelihood(1)).toBeLessThanOrEqual(0);
  });
  // Abramowitz and Stegun (1964), table 5.1, values from memory: E1(0.1), E1(0.5), E1(1), E1(2).
  it.each([
    [0.1, 1.822923958],
    [0.5, 0.559773595],
    [1, 0.219383934],
    [2, 0.048900511],
  ])("the exponential integral of %d is %d", (x, value) => expect(exponentialIntegral(x)).toBeCloseTo(value, 4));
  it("a leg's waves are seen or not; shares of a place sum to one", () => {
    for (const share of [0.01, 0.12, 0.9])
      expect(Math.exp(seenLikelihood(share)) + Math.exp(bareLikelihood(share))).toBeCloseTo(1, 12);
    for (const { children } of Object.values(PATTERNS))
      for (const among of children)
        expect(among.reduce((sum, one) => sum + Math.exp(placeLikelihood(one, among)), 0)).toBeCloseTo(1, 12);
  });
});

describe("what a score is made of", () => {
  const turns = turnsOf(slice(sp500(), 0, 1200), 40);
  const machine = new CountingMachine({ time: turns.time, value: turns.price, size: turns.size });
  while (machine.fill() < 1);
  it("the parts of every root sum to its score, whatever pattern it has", () => {
    const roots = machine.roots({ best: 12 });
    expect(roots.length).toBeGreaterThan(4);
    for (const root of roots) {
      const parts = partsOf(root, machine.tree(root, 20), machine.data);
      expect(Object.keys(parts)).toEqual(Object.keys(PART_NAMES));
      expect(Object.values(parts).reduce((sum: number, part: number) => sum + part, 0)).toBeCloseTo(root.score, 8);
    }
  });
  it("each call fills a part of the work; roots asked for twice are the same", () => {
    const again = new CountingMachine(machine.data);
    const shares = [];
    for (let share = again.fill(); share < 1; share = again.fill()) shares.push(share);
    expect(shares.length).toBeGreaterThan(10);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(again.roots({ best: 5 })).toEqual(machine.roots({ best: 5 }));
  });
});

describe("momentum at the pivots", () => {
  const series = slice(sp500(), 0, 300);
  const wave = (...bars: number[]) => ({ pivots: bars.map((bar) => ({ time: series.time[bar] ?? 0, price: 1 })) });
  it(
    "is the RSI of the pivot's bar and the mean volume between, unknown before the warm-up and outside " + "the bars",
    () => {
      const { rsi, volume } = momentumOf(wave(5, 40, 90), series);
      expect(rsi?.[0]).toBeUndefined();
      expect(rsi?.[1]).toBeGreaterThan(0);
      expect(volume).toHaveLength(2);
      let sum = 0;
      for (let i = 41; i <= 90; i++) sum += series.volume[i];
      expect(volume?.[1]).toBeCloseTo(sum / 50, 6);
      expect(
        momentumOf(
          {
            pivots: [
              { time: 0, price: 1 },
              { time: 1, price: 2 },
            ],
          },
          series,
        ),
      ).toEqual({ rsi: [undefined, undefined], volume: [undefined] });
    },
  );
});
