import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { quantileSorted } from "simple-statistics";

export type Interval = readonly [low: number, high: number];

/** Two-sided 95 % point of the normal distribution. */
export const Z = 1.959963984540054;

/**
 * The 95 % interval of a share of `n` cases (E. B. Wilson, Probable Inference, the Law of Succession, and Statistical
 * Inference, 1927): honest for few cases and for shares near 0 and 1. All of 0 to 1 without any case.
 */
export function wilson(hits: number, n: number): Interval {
  if (n === 0) return [0, 1];
  const share = hits / n;
  const square = (Z * Z) / n;
  const middle = (share + square / 2) / (1 + square);
  const half = (Z / (1 + square)) * Math.sqrt((share * (1 - share)) / n + (Z * Z) / (4 * n * n));
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}

/**
 * The 95 % interval of the difference of two independent shares (R. G. Newcombe, Interval Estimation for the Difference
 * between Independent Proportions, 1998, method 10): from the Wilson interval of each.
 */
export function newcombe(a: { share: number; interval: Interval }, b: { share: number; interval: Interval }): Interval {
  const [[l1, u1], [l2, u2], difference] = [a.interval, b.interval, a.share - b.share];
  return [difference - Math.hypot(a.share - l1, u2 - b.share), difference + Math.hypot(u1 - a.share, b.share - l2)];
}

/** Whole numbers from 0 to `below` - 1, the same for the same seed (xoroshiro128+, D. Blackman and S. Vigna, 2018). */
export function drawsOf(seed: number): (below: number) => number {
  const generator = xoroshiro128plus(seed);
  return (below) => uniformInt(generator, 0, below - 1);
}

/** Times that a sample is drawn anew. */
const RESAMPLES = 2_000;

/**
 * The 95 % interval of a mean by drawing the sample anew with replacement (percentile bootstrap, B. Efron, 1979). With
 * fewer than two values there is none to tell.
 */
export function bootstrapMean(values: readonly number[], seed: number): Interval | undefined {
  if (values.length < 2) return undefined;
  const draw = drawsOf(seed);
  const means = new Float64Array(RESAMPLES);
  for (let n = 0; n < RESAMPLES; n++) {
    let sum = 0;
    for (let i = 0; i < values.length; i++) sum += values[draw(values.length)];
    means[n] = sum / values.length;
  }
  means.sort();
  return [quantileSorted([...means], 0.025), quantileSorted([...means], 0.975)];
}
