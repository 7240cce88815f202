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
    if (isSwing(series.high, i, k, "high", ties))
      out.push({ index: i, time: series.time[i], side: "high", price: series.high[i], knownAt: i + k });
    if (isSwing(series.low, i, k, "low", ties))
      out.push({ index: i, time: series.time[i], side: "low", price: series.low[i], knownAt: i + k });
  }
  return out;
}

/** Whether the bar at `i`, with k bars on each side of it, is an extreme of them. */
export function isSwing(values: Float64Array, i: number, k: number, side: Side, ties: "last" | "none"): boolean {
  const sign = side === "high" ? 1 : -1;
  const value = sign * values[i];
  for (let step = 1; step <= k; step++) {
    const earlier = sign * values[i - step];
    if (sign * values[i + step] >= value || earlier > value || (ties === "none" && earlier === value)) return false;
  }
  return true;
}
