import { closeOfBar } from "#core/series/resample";
import type { Series } from "#core/series/series";
import type { TimeframeClose } from "#core/scenarios/follow";
import { bucketAt } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { divides, isIntraday, type Timeframe } from "#core/time/timeframe";

/**
 * For bar `i` of `series` (bars of `base`): the close of `timeframe` that this bar completes, if it does: it ends
 * where the timeframe's bar ends. A timeframe finer than the base cannot be seen and counts at each base bar.
 */
export function completedClose(
  series: Series,
  i: number,
  base: Timeframe,
  timeframe: Timeframe,
  calendar: Calendar,
): TimeframeClose | undefined {
  const end = closeOfBar(series.time[i], base, calendar);
  const close = { time: end, close: series.close[i] };
  if (!divides(base, timeframe)) return close;
  if (!isIntraday(base) && !isIntraday(timeframe)) {
    const own = bucketAt(end - 1, timeframe, calendar);
    return own.to <= end ? close : undefined;
  }
  return bucketAt(series.time[i], timeframe, calendar).to <= end ? close : undefined;
}
