import type { Series } from "#core/series/series";

export type Side = "high" | "low";

export interface Swing {
  index: number;
  time: number;
  side: Side;
  price: number;
  /** Index of the bar at whose close the swing is confirmed: k bars later. */
  knownAt: number;
}

/**
 * Symmetric swings: the extreme of `k` bars on each side. With ties "last" a swing must be strictly beyond the k
 * later bars but only at least equal to the k earlier ones, so that of equal highs the last stands; with ties
 * "none" it is strict on both sides. In order of time, a bar that is both gives its high first. O(n k), in
 * practice near O(n): most bars fail at their first neighbour.
 */
export function swings(series: Series, k = 3, ties: "last" | "none" = "last"): Swing[] {
  const out: Swing[] = [];
  for (let i = k; i < series.length - k; i++) {
    if (isExtreme(series.high, i, k, 1, ties))
      out.push({ index: i, time: series.time[i], side: "high", price: series.high[i], knownAt: i + k });
    if (isExtreme(series.low, i, k, -1, ties))
      out.push({ index: i, time: series.time[i], side: "low", price: series.low[i], knownAt: i + k });
  }
  return out;
}

function isExtreme(values: Float64Array, i: number, k: number, sign: 1 | -1, ties: "last" | "none"): boolean {
  const value = sign * values[i];
  for (let step = 1; step <= k; step++) {
    const earlier = sign * values[i - step];
    if (sign * values[i + step] >= value || earlier > value || (ties === "none" && earlier === value)) return false;
  }
  return true;
}
