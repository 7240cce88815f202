import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { mean, quantileSorted, sampleStandardDeviation } from "simple-statistics";

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

/** Student's t, two-sided 95 %, for 1 to 18 degrees of freedom (W. S. Gosset 1908; any handbook's table). */
const STUDENT = [
  ...[12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262],
  ...[2.228, 2.201, 2.179, 2.16, 2.145, 2.131, 2.12, 2.11, 2.101],
];

/**
 * The 95 % interval of a mean of few, skewed values such as results of trades. Up to 19 of them Student's; from 20 on
 * the studentised bootstrap (B. Efron and R. Tibshirani, An Introduction to the Bootstrap, 1993, chapter 12), which
 * covers where the percentile one is too narrow. With fewer than two there is none to tell.
 */
export function meanInterval(values: readonly number[], seed: number): Interval | undefined {
  const n = values.length;
  if (n < 2) return undefined;
  const [middle, error] = [mean([...values]), sampleStandardDeviation([...values]) / Math.sqrt(n)];
  if (n - 2 < STUDENT.length) return [middle - STUDENT[n - 2] * error, middle + STUDENT[n - 2] * error];
  const draw = drawsOf(seed);
  const scaled: number[] = [];
  for (let r = 0; r < RESAMPLES; r++) {
    let [sum, squares] = [0, 0];
    for (let i = 0; i < n; i++) {
      const off = values[draw(n)] - middle;
      sum += off;
      squares += off * off;
    }
    const own = Math.sqrt(Math.max(0, (squares - (sum * sum) / n) / (n - 1) / n));
    // A draw of one value over and over says nothing of its own spread.
    if (own > 1e-9 * error) scaled.push(sum / n / own);
  }
  if (scaled.length === 0) return [middle, middle];
  scaled.sort((a, b) => a - b);
  return [middle - quantileSorted(scaled, 0.975) * error, middle - quantileSorted(scaled, 0.025) * error];
}
