import type { Anchor } from "#core/marks/kind";
import { firstAtOrAfter, lastAtOrBefore, type Series } from "#core/series/series";
import { bucketOfBar } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { isIntraday, nominalLength, type Timeframe } from "#core/time/timeframe";

/** Prices of two rungs are the same when they differ by less than this share. */
const SAME = 1e-9;

/**
 * Index of the bar of a finer rung that made an extreme of a longer one: the first within that bar with the same high or
 * low; where there is none (bars that are not held so far back), the one the longer bar begins in. -1 before the first.
 */
export function pivotBar(series: Series, { time, price }: Anchor, own: Timeframe, shown: Timeframe, calendar: Calendar): number {
  const [from, to] = span(time, own, shown, calendar);
  const near = Math.abs(price) * SAME;
  for (let i = firstAtOrAfter(series, from); i < series.length && series.time[i] < to; i++) if (Math.abs(series.high[i] - price) <= near || Math.abs(series.low[i] - price) <= near) return i;
  return lastAtOrBefore(series, from);
}

/** The times of bars of the finer rung within one of the longer: instants within a day, labels from a day up. */
function span(time: number, own: Timeframe, shown: Timeframe, calendar: Calendar): [number, number] {
  if (isIntraday(shown)) {
    const { from, to } = bucketOfBar(time, own, calendar);
    return [from, to];
  }
  return [time, time + nominalLength(own)];
}
