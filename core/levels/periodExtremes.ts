import { Heap } from "#core/levels/heap";
import type { Series } from "#core/series/series";
import { bucketAt } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { DAY, dayNumber } from "#core/time/dates";
import { isIntraday, labelOf, type Timeframe } from "#core/time/timeframe";

/** Untouched until a later wick goes strictly beyond; swept while no close has; taken by a close strictly beyond. */
export type ExtremeState = "untouched" | "swept" | "taken";

export interface PeriodExtremes {
  /** Midnight UTC of the period's label. */
  time: number;
  high: number;
  /** `time` of the first bar at the extreme. */
  highTime: number;
  low: number;
  lowTime: number;
  /** Whether the period went beyond neither extreme of the one before; not known of the first. */
  insidePrevious?: boolean;
  highState: ExtremeState;
  lowState: ExtremeState;
}

type Side = "high" | "low";

/**
 * Highs and lows of every period of a series (the last may be running), and what bars after the period did to them.
 * Extremes wait in heaps by price, so a bar costs O(log periods) and only those it reaches are looked at.
 */
export function periodExtremes(
  series: Series,
  base: Timeframe,
  period: Timeframe,
  calendar: Calendar,
): PeriodExtremes[] {
  const out: PeriodExtremes[] = [];
  // Highs wait for a higher price: the lowest is reached first. Lows are kept with their sign turned.
  const untouched = { high: new Heap<PeriodExtremes>(), low: new Heap<PeriodExtremes>() };
  const swept = { high: new Heap<PeriodExtremes>(), low: new Heap<PeriodExtremes>() };
  let until = -Infinity;
  for (let i = 0; i < series.length; i++) {
    const time = series.time[i];
    if (time >= until) {
      const label = labelAt(time, base, period, calendar);
      until = label.until;
      if (out.length === 0 || out[out.length - 1].time !== label.time) {
        const before = out.at(-1);
        if (before) {
          untouched.high.push(before.high, before);
          untouched.low.push(-before.low, before);
        }
        const [high, low] = [series.high[i], series.low[i]];
        out.push({
          time: label.time,
          high,
          highTime: time,
          low,
          lowTime: time,
          highState: "untouched",
          lowState: "untouched",
        });
      }
    }
    const now = out[out.length - 1];
    if (series.high[i] > now.high) [now.high, now.highTime] = [series.high[i], time];
    if (series.low[i] < now.low) [now.low, now.lowTime] = [series.low[i], time];
    reach("high", series.high[i], series.close[i]);
    reach("low", -series.low[i], -series.close[i]);
  }
  for (let n = 1; n < out.length; n++)
    out[n].insidePrevious = out[n].high <= out[n - 1].high && out[n].low >= out[n - 1].low;
  return out;

  function reach(side: Side, wick: number, close: number): void {
    const state = side === "high" ? "highState" : "lowState";
    const sign = side === "high" ? 1 : -1;
    while (untouched[side].least < wick) {
      const found = untouched[side].pop();
      if (!found) break;
      found[state] = "swept";
      swept[side].push(sign * found[side], found);
    }
    while (swept[side].least < close) {
      const found = swept[side].pop();
      if (found) found[state] = "taken";
    }
  }
}

/** The period a bar belongs to, and the instant from which another one may begin. */
export function labelAt(
  time: number,
  base: Timeframe,
  period: Timeframe,
  calendar: Calendar,
): { time: number; until: number } {
  if (!isIntraday(base)) return { time: labelOf(dayNumber(time), period) * DAY, until: time + DAY };
  const bucket = bucketAt(time, period, calendar);
  return { time: bucket.time, until: bucket.to };
}
