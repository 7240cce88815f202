import type { Layer } from "#core/series/layers";
import { closeOfBar } from "#core/series/resample";
import { lastAtOrBefore, slice } from "#core/series/series";
import type { Calendar } from "#core/time/calendar";

/**
 * What of stored bars was known at an instant: those that were over by then. Whatever is derived from the result,
 * its running bar included, is what would have been derived at that instant. O(log n).
 */
export function knownAt(layers: readonly Layer[], instant: number, calendar: Calendar): Layer[] {
  return layers.map(({ base, series }) => {
    let n = lastAtOrBefore(series, instant) + 1;
    while (n > 0 && closeOfBar(series.time[n - 1], base, calendar) > instant) n--;
    return { base, series: slice(series, 0, n) };
  });
}
