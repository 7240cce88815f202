import type { Series } from "#core/series/series";
import { alternating } from "#core/structure/legs";
import { nested } from "#core/structure/nested";
import type { Swing } from "#core/structure/swings";

/** Turns of a series that a count is made of: alternating highs and lows in order, as columns. */
export interface Turns {
  /** Index and time (ms UTC) of each turn's bar. */
  index: Int32Array;
  time: Float64Array;
  price: Float64Array;
  /**
   * Size (price units) up to which each stands when smaller legs are merged; the last one, still running, may yet move.
   */
  size: Float64Array;
}

/**
 * The `most` most prominent turns of a series: its first extreme, then highs and lows that alternate, and last the
 * extreme that has been reached since. With `k` only symmetric swings of k bars on each side are turns inside, with 0
 * every bar that turns the way. Which of a bar's two extremes came first is not known: the one away from its close is
 * taken. Turns at the times of `keep` stay however small they are. `ends` are the prices of the first and, if it is
 * said, of the last one: what their bars did before and after does not count. O(n log n).
 */
export function turnsOf(series: Series, most: number, k = 0, keep: readonly number[] = [], ends?: Ends): Turns {
  const all = nested(between(zigzag(series, k), ends));
  const last = all.length - 1;
  const ranked = all
    .slice(1, last)
    .map(({ size }) => size)
    .sort((a, b) => b - a);
  const least = ranked.length > most - 2 ? ranked[most - 2] : -Infinity;
  const wanted = new Set(
    keep.map((time) =>
      turnAt(
        all.map((swing) => swing.time),
        all.map(({ size }) => size),
        time,
      ),
    ),
  );
  const asked = all.map(({ size }, i) => i === 0 || i === last || size > least || wanted.has(i));
  // Turns leave in pairs: one that is kept keeps the other, so that highs and lows still alternate.
  all.forEach(({ size }, i) => {
    if (!wanted.has(i) || size > least) return;
    const partner =
      [i - 1, i + 1].find((j) => all[j]?.size === size) ?? all.findIndex((other, j) => j !== i && other.size === size);
    if (partner >= 0) asked[partner] = true;
  });
  const kept = alternating(all.filter((_, i) => asked[i]));
  return {
    index: Int32Array.from(kept, ({ index }) => index),
    time: Float64Array.from(kept, ({ time }) => time),
    price: Float64Array.from(kept, ({ price }) => price),
    size: Float64Array.from(kept, ({ size }) => size),
  };
}

/**
 * The same with sizes taken in natural logs, so that a turn of long ago counts by its share of the price of then:
 * `value` are the logs of the prices. Prices are above zero; `from` is that of the first turn, where it is known.
 */
export function turnsInLogs(series: Series, most: number, from?: number): Turns & { value: Float64Array } {
  const on = (column: Float64Array) => column.map(Math.log);
  const { open, high, low, close } = series;
  const logs = { ...series, open: on(open), high: on(high), low: on(low), close: on(close) };
  const {
    price: value,
    index,
    ...turns
  } = turnsOf(...([logs, most, 0, [], from === undefined ? undefined : { from: Math.log(from) }] as const));
  const isHigh = (n: number) => (n > 0 ? value[n] > value[n - 1] : value[n] > value[n + 1]);
  return { ...turns, index, value, price: Float64Array.from(index, (i, n) => (isHigh(n) ? high[i] : low[i])) };
}

/** The turn at a time: of a bar's high and low, where both are turns, the more prominent; -1 where there is none. */
export function turnAt(times: ArrayLike<number>, sizes: ArrayLike<number>, time: number): number {
  let best = -1;
  for (let i = 0; i < times.length; i++) if (times[i] === time && (best < 0 || sizes[i] > sizes[best])) best = i;
  return best;
}

export interface Ends {
  from: number;
  to?: number | undefined;
}

function between(swings: readonly Swing[], ends: Ends | undefined): readonly Swing[] {
  if (!ends) return swings;
  const first = swings.findIndex(({ price }) => price === ends.from);
  const last = ends.to === undefined ? -1 : swings.findLastIndex(({ price }) => price === ends.to);
  return swings.slice(Math.max(0, first), last < 0 ? undefined : last + 1);
}

function zigzag({ length, time, high, low, open, close }: Series, k: number): Swing[] {
  const all: Swing[] = [];
  const add = (index: number, side: "high" | "low") =>
    all.push({ index, time: time[index], side, price: side === "high" ? high[index] : low[index], knownAt: index });
  for (let i = 0; i < length; i++) {
    const inner = i >= k && i < length - k;
    const isHigh = !inner || k === 0 || extreme(high, i, k, 1);
    const isLow = !inner || k === 0 || extreme(low, i, k, -1);
    const lowFirst = close[i] >= open[i];
    if (lowFirst && isLow) add(i, "low");
    if (isHigh) add(i, "high");
    if (!lowFirst && isLow) add(i, "low");
  }
  return alternating(all);
}

function extreme(values: Float64Array, i: number, k: number, sign: number): boolean {
  for (let step = 1; step <= k; step++)
    if (sign * values[i + step] >= sign * values[i] || sign * values[i - step] > sign * values[i]) return false;
  return true;
}
