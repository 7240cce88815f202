/**
 * Dates as whole days since 1970-01-01 ("day numbers"), in the proleptic Gregorian calendar of ISO 8601.
 */
export const DAY = 86_400_000;
export const MINUTE = 60_000;

/** Whether a number is an instant (ms UTC) that a date can be made of: ECMA-262 ends 100 million days from 1970. */
export function isInstant(time: unknown): time is number {
  return typeof time === "number" && Math.abs(time) <= 100_000_000 * DAY;
}

export function dayNumber(civil: number): number {
  return Math.floor(civil / DAY);
}

/** ISO weekday of a day number: 1 Monday to 7 Sunday. */
export function weekday(day: number): number {
  return ((((day + 3) % 7) + 7) % 7) + 1;
}

export function mondayOf(day: number): number {
  return day - weekday(day) + 1;
}

/** "2015-06-30" -> day number; `undefined` if it is not a real date. */
export function parseDate(text: string): number | undefined {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if (!match) return undefined;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  const time = utc(year, month, day);
  return formatDate(time / DAY) === text ? time / DAY : undefined;
}

export function formatDate(day: number): string {
  return new Date(day * DAY).toISOString().slice(0, 10);
}

/** Midnight UTC of a civil date; unlike Date.UTC it leaves the years 0 to 99 alone. */
export function utc(year: number, month: number, day: number): number {
  const date = new Date(0);
  date.setUTCFullYear(year, month - 1, day);
  return date.getTime();
}

/** "09:30" -> minutes since midnight, 0 to 1,440 ("24:00"); `undefined` if malformed. */
export function parseClock(text: string): number | undefined {
  const match = /^(\d{2}):(\d{2})$/.exec(text);
  if (!match) return undefined;
  const minutes = Number(match[1]) * 60 + Number(match[2]);
  return Number(match[2]) < 60 && minutes <= 1440 ? minutes : undefined;
}
