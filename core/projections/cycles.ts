import type { Series } from "#core/series/series";
import { medianOf } from "#core/statistics/median";

export type OnTime = "early" | "on time" | "late";

/** A trough of a cycle; what is known of it from the second and from the third on. */
export interface Trough {
  time: number;
  price: number;
  knownAt: number;
  /** Bars since the one before, and the peak between. */
  bars?: number;
  peak?: { time: number; price: number; bars: number; state: "early" | "middle" | "late" };
  /** The usual span before this one, and how far off this one was: in bars and as a share of it. */
  period?: number;
  error?: number;
  share?: number;
  state?: OnTime;
}

export interface Cycle {
  troughs: Trough[];
  /** Spans between troughs, and the usual one. */
  n: number;
  period?: number;
  /** The next trough, in bars after the last one: the window about its ideal place, and how far ahead that is. */
  next?: { from: number; ideal: number; to: number; ahead: number; state: "ahead" | "due" | "overdue" };
}

/**
 * The cycle from trough to trough: equal spans (J. M. Hurst, 1970; from memory), the window about them by common
 * practice. `troughs` are indices of bars, rising, each with the bar it is known at. `window` in bars. O(n).
 */
export function cycleOf(series: Series, troughs: readonly { index: number; knownAt: number }[], window: number): Cycle {
  const spans: number[] = [];
  const told = troughs.map(({ index, knownAt }, n): Trough => {
    const trough = { time: series.time[index], price: series.low[index], knownAt: series.time[knownAt] };
    if (n === 0) return trough;
    const from = troughs[n - 1].index;
    const bars = index - from;
    const usual = medianOf(spans);
    spans.push(bars);
    const peak = peakBetween(series, from, index);
    if (Number.isNaN(usual)) return { ...trough, bars, peak };
    const error = bars - usual;
    const state = error < -window ? "early" : error > window ? "late" : "on time";
    return { ...trough, bars, peak, period: usual, error, share: error / usual, state };
  });
  const last = troughs.at(-1);
  if (spans.length === 0 || !last) return { troughs: told, n: 0 };
  const period = medianOf(spans);
  const passed = series.length - 1 - last.index;
  const [from, to] = [period - window, period + window];
  const state = passed < from ? "ahead" : passed > to ? "overdue" : "due";
  return {
    troughs: told,
    n: spans.length,
    period,
    next: { from, ideal: period, to, ahead: period - passed, state },
  };
}

/** The highest high from one trough to the next, both included, the first of equals. */
function peakBetween({ high, time }: Series, from: number, to: number): NonNullable<Trough["peak"]> {
  let at = from;
  for (let i = from + 1; i <= to; i++) if (high[i] > high[at]) at = i;
  const bars = at - from;
  const side = Math.sign(2 * bars - (to - from));
  return { time: time[at], price: high[at], bars, state: side < 0 ? "early" : side > 0 ? "late" : "middle" };
}
