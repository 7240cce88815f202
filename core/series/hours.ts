import { concat, slice, type Series } from "#core/series/series";
import type { Layer } from "#core/series/layers";
import type { Calendar } from "#core/time/calendar";
import { type CalendarSpec } from "#core/time/calendar";
import { isIntraday, nominalLength } from "#core/time/timeframe";

/** Which of a market's hours are looked at. */
export type Hours = "all" | "regular";

export function hasOvernight({ sessions }: CalendarSpec): boolean {
  return sessions.some(({ kind }) => kind === "overnight");
}

/** The same trading dates without what is traded overnight. */
export function regularCalendar(spec: CalendarSpec): CalendarSpec {
  return { ...spec, sessions: spec.sessions.filter(({ kind }) => kind !== "overnight") };
}

/**
 * What of a market's bars lies wholly within its regular sessions. Bars of a day or longer are left out where the
 * market trades overnight, for the night cannot be taken out of them: days are then made of the finer bars alone.
 */
export function regularLayers(layers: readonly Layer[], calendar: Calendar): Layer[] {
  if (!hasOvernight(calendar.spec)) return [...layers];
  return layers
    .filter(({ base }) => isIntraday(base))
    .map(({ base, series }) => ({ base, series: regularBars(series, nominalLength(base), calendar) }));
}

function regularBars(series: Series, length: number, calendar: Calendar): Series {
  const parts: Series[] = [];
  let i = 0;
  while (i < series.length) {
    const session = calendar.sessionAt(series.time[i]);
    // Outside every session bars are looked at one by one: strays are few.
    const until = session?.close ?? series.time[i] + 1;
    const from = i;
    while (i < series.length && series.time[i] < until) i++;
    let to = i;
    while (session && to > from && series.time[to - 1] + length > until) to--;
    if (session?.kind === "regular" && to > from) parts.push(slice(series, from, to));
  }
  return concat(parts);
}
