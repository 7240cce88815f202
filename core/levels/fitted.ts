import { bisectLeft } from "d3-array";
import type { Series } from "#core/series/series";

export interface FitOptions {
  /** Farthest the level may lie from the rough price. */
  reach: number;
  /** How near a wick's end must come to count as a touch, and a body to count as passed through. */
  near: number;
  tick: number;
}

export interface FittedLevel {
  price: number;
  /** Bars whose wick ends at the level, within `near`. */
  touches: number;
  /** Times one close stood on one side of the level and the next on the other. */
  through: number;
}

/**
 * The price near a rough one that the wicks of bars `from` to `to` (inclusive) respect best: touches less closes
 * through, the most of them; of equals the one nearest to the rough price. Candidates are the ends of the wicks
 * themselves, on the tick grid. Cost: n log n of the bars in the window. `undefined` when no wick ends in reach.
 * Definition: our own; a touch and a close through are counted as common practice has them.
 */
export function fitLevel(
  series: Series,
  from: number,
  to: number,
  rough: number,
  { reach, near, tick }: FitOptions,
): FittedLevel | undefined {
  const { open, high, low, close } = series;
  const onGrid = (price: number) => Math.round(price / tick);
  const [lowest, highest] = [onGrid(rough - reach), onGrid(rough + reach)];
  const found = new Set<number>();
  for (let i = from; i <= to; i++)
    for (const price of [high[i], low[i]])
      if (onGrid(price) >= lowest && onGrid(price) <= highest) found.add(onGrid(price));
  const ticks = Float64Array.from(found).sort();
  if (ticks.length === 0) return undefined;
  const prices = ticks.map((n) => n * tick);
  const touched = new Int32Array(ticks.length + 1);
  const passed = new Int32Array(ticks.length + 1);
  // Every bar speaks about one stretch of the sorted candidates: its ends are counted up and summed afterwards.
  const count = (counts: Int32Array, bottom: number, top: number) => {
    const first = bisectLeft(prices, bottom - tick / 4);
    const after = bisectLeft(prices, top + tick / 4);
    if (after <= first) return;
    counts[first]++;
    counts[after]--;
  };
  for (let i = from; i <= to; i++) {
    // A bar whose ends lie close together touches once.
    if (high[i] - low[i] <= 2 * near) count(touched, low[i] - near, high[i] + near);
    else for (const end of [high[i], low[i]]) count(touched, end - near, end + near);
    const before = i > from ? close[i - 1] : open[i];
    const [bottom, top] = before < close[i] ? [before, close[i]] : [close[i], before];
    if (top - bottom > tick) count(passed, bottom + tick, top - tick);
  }
  let best: FittedLevel | undefined;
  let [touches, through] = [0, 0];
  for (let i = 0; i < prices.length; i++) {
    touches += touched[i];
    through += passed[i];
    const one = { price: prices[i], touches, through };
    if (!best || isBetter(one, best, rough)) best = one;
  }
  return best;
}

function isBetter(a: FittedLevel, b: FittedLevel, rough: number): boolean {
  const more = a.touches - a.through - (b.touches - b.through);
  return more > 0 || (more === 0 && Math.abs(a.price - rough) < Math.abs(b.price - rough));
}
