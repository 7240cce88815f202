import { atr } from "#core/studies/atr";
import type { Series } from "#core/series/series";
import type { Calendar } from "#core/time/calendar";
import { DAY, dayNumber } from "#core/time/dates";
import { isIntraday, nominalLength, type Timeframe } from "#core/time/timeframe";

/** Something in a file that may be right and is worth a look: it stops nothing. */
export interface Remark {
  /** `time` of the bar it is about. */
  time: number;
  /** A jump's size in ATR; bars missing before the bar of a gap. */
  size: number;
}

export interface Remarks {
  count: number;
  /** The largest ones, in order of time. */
  listed: Remark[];
}

const LISTED = 5;

/**
 * Opens that lie more than `limit` times ATR(14) from the close before: a wrong decimal mark, a split, or real. O(n).
 */
export function jumpsOf(series: Series, limit = 10): Remarks {
  const range = atr(series);
  const found: Remark[] = [];
  for (let i = 15; i < series.length; i++) {
    const size = Math.abs(series.open[i] - series.close[i - 1]) / range[i - 1];
    if (size > limit) found.push({ time: series.time[i], size });
  }
  return largest(found);
}

/**
 * Bars that a market's sessions had room for and the file has not: between two bars of one session of intraday bars,
 * between two trading dates of daily ones. Longer bars are not looked at. O(n).
 */
export function gapsOf(series: Series, base: Timeframe, calendar: Calendar): Remarks {
  const found: Remark[] = [];
  if (isIntraday(base)) {
    const length = nominalLength(base);
    let session = calendar.sessionAt(series.time[0] ?? 0);
    for (let i = 1; i < series.length; i++) {
      const time = series.time[i];
      if (!session || time >= session.close) session = calendar.sessionAt(time);
      const missing = Math.round((time - series.time[i - 1]) / length) - 1;
      if (missing > 0 && session && series.time[i - 1] >= session.open) found.push({ time, size: missing });
    }
  } else if (base.unit === "day" && base.count === 1)
    for (let i = 1; i < series.length; i++) {
      let missing = 0;
      for (let day = dayNumber(series.time[i - 1]) + 1; day * DAY < series.time[i]; day++)
        if (calendar.trades(day)) missing++;
      if (missing > 0) found.push({ time: series.time[i], size: missing });
    }
  return largest(found);
}

/**
 * Trading dates (day numbers) that lie within a file of daily bars and have none in it. Longer and shorter bars are not
 * looked at. O(n).
 */
export function missingDates(series: Series, base: Timeframe, calendar: Calendar): number[] {
  if (base.unit !== "day" || base.count !== 1) return [];
  const out: number[] = [];
  for (let i = 1; i < series.length; i++)
    for (let day = dayNumber(series.time[i - 1]) + 1; day * DAY < series.time[i]; day++)
      if (calendar.trades(day)) out.push(day);
  return out;
}

function largest(found: readonly Remark[]): Remarks {
  const listed = [...found].sort((a, b) => b.size - a.size).slice(0, LISTED);
  return { count: found.length, listed: listed.sort((a, b) => a.time - b.time) };
}
