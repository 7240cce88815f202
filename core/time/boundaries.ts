import type { Calendar, Session } from "#core/time/calendar";
import { DAY, dayNumber } from "#core/time/dates";
import { isIntraday, labelOf, nominalLength, type Timeframe } from "#core/time/timeframe";

/** A stretch of instants that make one bar of a timeframe. */
export interface Bucket {
  /** The bar's `time`: its open for intraday bars, midnight UTC of its label from a day up. */
  time: number;
  /** First instant, inclusive. */
  from: number;
  /** Last instant, exclusive: the bar is closed, and what it says known, from here on. */
  to: number;
}

/**
 * The bucket of `timeframe` that holds the instant `time`. Intraday bars are cut by elapsed time from the open
 * of each unbroken run of sessions, so that none straddles a day's boundary and the last of a day may be short.
 */
export function bucketAt(time: number, timeframe: Timeframe, calendar: Calendar): Bucket {
  return bucketOfDate(calendar.tradingDate(time), timeframe, calendar, time);
}

function bucketOfDate(date: number, timeframe: Timeframe, calendar: Calendar, time: number): Bucket {
  if (!isIntraday(timeframe)) return labelBucket(date, timeframe, calendar);
  const run = runAt(calendar.sessions(date), time);
  const length = nominalLength(timeframe);
  const from = run.open + Math.floor((time - run.open) / length) * length;
  return { time: from, from, to: time < run.close ? Math.min(from + length, run.close) : from + length };
}

/** The unbroken run of sessions (one opens as the other closes) around `time`, or the next one after it. */
function runAt(sessions: readonly Session[], time: number): { open: number; close: number } {
  let run: { open: number; close: number } | undefined;
  for (const session of sessions) {
    if (run && session.open === run.close) run = { open: run.open, close: session.close };
    else if (run && time < run.close) break;
    else run = { open: session.open, close: session.close };
  }
  return run ?? { open: Math.floor(time / DAY) * DAY, close: Infinity };
}

/** The unbroken run of sessions that holds an instant; none outside of all. */
export function runAround(time: number, calendar: Calendar): { open: number; close: number } | undefined {
  const run = runAt(calendar.sessions(calendar.tradingDate(time)), time);
  return time >= run.open && time < run.close && Number.isFinite(run.close) ? run : undefined;
}

/** The bucket of the bar from a day up that trading date `date` belongs to. */
export function labelBucket(date: number, timeframe: Timeframe, calendar: Calendar): Bucket {
  const label = labelOf(date, timeframe);
  let last = date;
  // The bar is over with its last trading date, not at the calendar's midnight.
  for (let day = lastDayOf(label, timeframe); day > date; day--)
    if (calendar.trades(day)) {
      last = day;
      break;
    }
  let first = label;
  while (first < date && !calendar.trades(first)) first++;
  return { time: label * DAY, from: calendar.open(first) ?? calendar.midnight(first), to: calendar.close(last) };
}

function lastDayOf(label: number, timeframe: Timeframe): number {
  const span = { day: 1, week: 7, month: 31, year: 366, minute: 0, hour: 0 }[timeframe.unit] * timeframe.count;
  let day = label + span;
  while (day > label && labelOf(day, timeframe) !== label) day--;
  return day;
}

/** The bucket of an existing bar, from its `time`. */
export function bucketOfBar(time: number, timeframe: Timeframe, calendar: Calendar): Bucket {
  if (isIntraday(timeframe)) return bucketAt(time, timeframe, calendar);
  const label = dayNumber(time);
  let date = label;
  for (const end = lastDayOf(label, timeframe); date < end && !calendar.trades(date);) date++;
  return labelBucket(date, timeframe, calendar);
}

/** Times of the next `count` bars after the bar that opened at `time`: how the future's room is dated. */
export function nextTimes(time: number, timeframe: Timeframe, calendar: Calendar, count: number): number[] {
  const out: number[] = [];
  let bucket = bucketOfBar(time, timeframe, calendar);
  while (out.length < count) {
    bucket = nextBucket(bucket, timeframe, calendar);
    out.push(bucket.time);
  }
  return out;
}

function nextBucket(bucket: Bucket, timeframe: Timeframe, calendar: Calendar): Bucket {
  if (isIntraday(timeframe)) {
    const date = calendar.tradingDate(bucket.to);
    const session = calendar.sessions(date).find((one) => one.close > bucket.to);
    return bucketAt(Math.max(bucket.to, session?.open ?? bucket.to), timeframe, calendar);
  }
  let date = dayNumber(bucket.time) + 1;
  while (labelOf(date, timeframe) * DAY === bucket.time) date++;
  if (!calendar.trades(date)) {
    const label = labelOf(date, timeframe);
    const next = calendar.nextTradingDate(date);
    // A period without any trading date still gets its place, otherwise a long closure would end the axis.
    date = timeframe.unit === "day" || labelOf(next, timeframe) === label ? next : date;
  }
  return labelBucket(date, timeframe, calendar);
}
