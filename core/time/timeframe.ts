import { DAY, MINUTE, mondayOf, utc } from "#core/time/dates";

export type Unit = "minute" | "hour" | "day" | "week" | "month" | "year";

/** A length of bar: `count` x `unit`. Quarters are three months. */
export interface Timeframe {
  readonly count: number;
  readonly unit: Unit;
}

const LETTERS: Record<string, Unit> = { M: "month", D: "day", W: "week", Y: "year", TM: "minute", TH: "hour" };

/** ISO 8601 duration with one part (PT45M, PT4H, P1D, P1W, P3M, P1Y) -> timeframe; `undefined` if it is none. */
export function parseTimeframe(text: string): Timeframe | undefined {
  const match = /^P(T?)(\d{1,4})([MHDWY])$/.exec(text);
  if (!match) return undefined;
  const unit = LETTERS[match[1] + match[3]];
  const count = Number(match[2]);
  return unit && count > 0 ? { count, unit } : undefined;
}

export function formatTimeframe({ count, unit }: Timeframe): string {
  const letter = { minute: "M", hour: "H", day: "D", week: "W", month: "M", year: "Y" }[unit];
  return `P${isIntraday({ count, unit }) ? "T" : ""}${count}${letter}`;
}

export function isIntraday({ unit }: Timeframe): boolean {
  return unit === "minute" || unit === "hour";
}

/** Nominal length in milliseconds, for ordering timeframes only: months and years have no fixed length. */
export function nominalLength({ count, unit }: Timeframe): number {
  const one = { minute: MINUTE, hour: 60 * MINUTE, day: DAY, week: 7 * DAY, month: 30.44 * DAY, year: 365.24 * DAY };
  return count * one[unit];
}

/** Whether bars of `base` can be put together to bars of `timeframe` without cutting one of them. */
export function divides(base: Timeframe, timeframe: Timeframe): boolean {
  if (isIntraday(base)) return !isIntraday(timeframe) || nominalLength(timeframe) % nominalLength(base) === 0;
  if (base.unit === timeframe.unit) return timeframe.count % base.count === 0;
  if (base.count !== 1) return base.unit === "month" && timeframe.unit === "year" && 12 % base.count === 0;
  if (base.unit === "day") return !isIntraday(timeframe);
  return base.unit === "month" && timeframe.unit === "year";
}

/**
 * Label (a day number) of the bar of a day or longer that a trading date belongs to: the date itself, the Monday
 * of its ISO week, the first of its month, quarter or year. Counts above one are grouped from a fixed origin:
 * days and weeks from Monday 1970-01-05, months within the year, years from year 0.
 */
export function labelOf(day: number, { count, unit }: Timeframe): number {
  const origin = 4;
  switch (unit) {
    case "day":
      return count === 1 ? day : origin + Math.floor((day - origin) / count) * count;
    case "week":
      return count === 1 ? mondayOf(day) : origin + Math.floor((day - origin) / (7 * count)) * 7 * count;
    case "month":
    case "year": {
      const date = new Date(day * DAY);
      const year = date.getUTCFullYear();
      if (unit === "year") return utc(Math.floor(year / count) * count, 1, 1) / DAY;
      const month = year * 12 + date.getUTCMonth();
      const first = 12 % count === 0 ? Math.floor(month / count) * count : month - (month % count);
      return utc(Math.floor(first / 12), (first % 12) + 1, 1) / DAY;
    }
    case "minute":
    case "hour":
      throw new RangeError("An intraday bar is labelled by its session, not by its date.");
  }
}
