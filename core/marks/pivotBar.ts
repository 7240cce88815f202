import type { Anchor, Mark } from "#core/marks/kind";
import { firstAtOrAfter, lastAtOrBefore, type Series } from "#core/series/series";
import { bucketOfBar } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { isIntraday, nominalLength, parseTimeframe, type Timeframe } from "#core/time/timeframe";

/** Prices of two rungs are the same when they differ by less than this share. */
const SAME = 1e-9;

/**
 * Index of the bar of a finer rung that made an extreme of a longer one: the first within that bar with the same high
 * or low; where there is none (bars that are not held so far back), the one the longer bar begins in. -1 before the
 * first.
 */
export function pivotBar(
  series: Series,
  { time, price }: Anchor,
  own: Timeframe,
  shown: Timeframe,
  calendar: Calendar,
): number {
  const [from, to] = span(time, own, shown, calendar);
  const near = Math.abs(price) * SAME;
  for (let i = firstAtOrAfter(series, from); i < series.length && series.time[i] < to; i++)
    if (Math.abs(series.high[i] - price) <= near || Math.abs(series.low[i] - price) <= near) return i;
  return lastAtOrBefore(series, from);
}

/**
 * A mark whose anchors stand at the very bars of a finer rung that made them, where those bars are held: so what is
 * labelled there can be put in order with them. On its own rung it is drawn as before.
 */
export function atFinerBars<T extends Pick<Mark, "anchors" | "rung">>(
  mark: T,
  series: Series,
  shown: Timeframe,
  calendar: Calendar,
): T {
  const own = parseTimeframe(mark.rung);
  if (!own || nominalLength(shown) >= nominalLength(own) || series.length === 0) return mark;
  return {
    ...mark,
    anchors: mark.anchors.map((anchor) => {
      if (anchor.time < series.time[0]) return anchor;
      const at = pivotBar(series, anchor, own, shown, calendar);
      const made =
        at >= 0 &&
        [series.high[at], series.low[at]].some((price) => Math.abs(price - anchor.price) <= Math.abs(price) * SAME);
      return made ? { ...anchor, time: series.time[at] } : anchor;
    }),
  };
}

/** The times of bars of the finer rung within one of the longer: instants within a day, labels from a day up. */
function span(time: number, own: Timeframe, shown: Timeframe, calendar: Calendar): [number, number] {
  const bucket = bucketOfBar(time, own, calendar);
  return isIntraday(shown) ? [bucket.from, bucket.to] : [bucket.time, bucket.time + nominalLength(own)];
}
