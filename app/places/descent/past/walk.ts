import { closeOfBar } from "#core/series/resample";
import type { Series } from "#core/series/series";
import { bucketAt, nextTimes } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import type { Timeframe } from "#core/time/timeframe";

/**
 * The instant one bar later or earlier than `asOf` on a rung, from the bars that are known then: the close of the bar
 * that runs or comes next, or the last close before. Closed hours are stepped over. Before the first bar it stays.
 */
export function stepFrom(
  asOf: number,
  direction: 1 | -1,
  series: Pick<Series, "time" | "length">,
  timeframe: Timeframe,
  calendar: Calendar,
): number {
  const closeOf = (i: number) => closeOfBar(series.time[i], timeframe, calendar);
  const last = series.length - 1;
  if (direction < 0) {
    for (let i = last; i >= 0; i--) if (closeOf(i) < asOf) return closeOf(i);
    return asOf;
  }
  if (last < 0) return bucketAt(asOf, timeframe, calendar).to;
  let next: number | undefined;
  for (let i = last; i >= 0 && closeOf(i) > asOf; i--) next = closeOf(i);
  if (next !== undefined) return next;
  // While bars are still on their way the last one at hand may be more than one close behind.
  for (let time = series.time[last]; ;) {
    [time] = nextTimes(time, timeframe, calendar, 1);
    const close = closeOfBar(time, timeframe, calendar);
    if (close > asOf) return close;
  }
}
