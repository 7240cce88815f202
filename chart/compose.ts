import { MOST_DRAWN, nearestMarks } from "#core/marks/nearest";
import { isShown, type Shown } from "#core/marks/shown";
import { closeOfBar } from "#core/series/resample";
import type { Series } from "#core/series/series";
import { nextTimes } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import type { Timeframe } from "#core/time/timeframe";
import type { LivedMark } from "./picture.ts";

/**
 * What a picture of a rung shows, said once: the page's charts, files of a view and sections of editions are all put
 * together of these.
 */
export interface OnRung {
  series: Series;
  timeframe: Timeframe;
  calendar: Calendar;
}

/** Which of a market's marks a chart of `rung` draws; what is chosen is drawn in any case. */
export function shownMarks<T extends LivedMark>(
  lived: readonly T[],
  rung: string,
  { close }: Series,
  shown: Shown,
  selected: readonly string[] = [],
): readonly T[] {
  const seen = lived.filter(({ mark, life }) => isShown(mark, life.dead, rung, shown) || selected.includes(mark.id));
  return nearestMarks(seen, close[close.length - 1] ?? 0, MOST_DRAWN, selected);
}

/** Times of the bars to come, for so many of them. */
export function ahead({ series, timeframe, calendar }: OnRung, bars: number): number[] {
  return series.length === 0 ? [] : nextTimes(series.time[series.length - 1], timeframe, calendar, bars);
}

/** Whether the last bar is still being made at a moment. */
export function isUnfinished({ series, timeframe, calendar }: OnRung, now: number): boolean {
  return series.length > 0 && closeOfBar(series.time[series.length - 1], timeframe, calendar) > now;
}
