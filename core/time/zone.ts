/**
 * Arithmetic between civil time in an IANA zone and milliseconds UTC, over the platform's own copy of the
 * zone database. Offsets are cached by UTC day: a day that begins and ends with one offset has it throughout, for no
 * zone has changed there and back within a day.
 */
import { DAY } from "#core/time/dates";

const formats = new Map<string, Intl.DateTimeFormat>();
const offsets = new Map<string, Map<number, number>>();

/** Whether the platform's zone database knows `zone`. */
export function isZone(zone: string): boolean {
  try {
    formatOf(zone);
    return true;
  } catch {
    return false;
  }
}

function formatOf(zone: string): Intl.DateTimeFormat {
  let format = formats.get(zone);
  if (!format) {
    format = new Intl.DateTimeFormat("en-US-u-ca-iso8601", {
      timeZone: zone,
      hourCycle: "h23",
      year: "numeric",
      month: "numeric",
      day: "numeric",
      hour: "numeric",
      minute: "numeric",
      second: "numeric",
    });
    formats.set(zone, format);
  }
  return format;
}

function measureOffset(time: number, zone: string): number {
  const field: Record<string, number> = {};
  for (const part of formatOf(zone).formatToParts(time)) field[part.type] = Number(part.value);
  const civil = Date.UTC(field.year, field.month - 1, field.day, field.hour, field.minute, field.second);
  return civil - Math.floor(time / 1000) * 1000;
}

/** Milliseconds to add to UTC `time` to read the civil clock of `zone`. Throws RangeError for an unknown zone. */
export function offsetAt(time: number, zone: string): number {
  if (zone === "UTC") return 0;
  let known = offsets.get(zone);
  if (!known) offsets.set(zone, (known = new Map()));
  const day = Math.floor(time / DAY);
  const start = known.get(day) ?? remember(known, day, zone);
  const next = known.get(day + 1) ?? remember(known, day + 1, zone);
  return start === next ? start : measureOffset(time, zone);
}

function remember(known: Map<number, number>, day: number, zone: string): number {
  const offset = measureOffset(day * DAY, zone);
  known.set(day, offset);
  return offset;
}

/**
 * The instant at which the clocks of `zone` show `civil` (civil time written as if it were UTC).
 * A time that daylight saving skips is read with the offset before the change (so it lands after it);
 * a time that occurs twice is the first of the two.
 */
export function instantOf(civil: number, zone: string): number {
  const before = offsetAt(civil - DAY, zone);
  const after = offsetAt(civil + DAY, zone);
  if (before === after) return civil - before;
  const early = civil - Math.max(before, after);
  const late = civil - Math.min(before, after);
  if (offsetAt(early, zone) === civil - early) return early;
  if (offsetAt(late, zone) === civil - late) return late;
  return civil - before;
}

/**
 * The second instant at which the clocks of `zone` show what they show at `time`, when they are put back after it;
 * `undefined` when that time of day comes only once.
 */
export function secondOf(time: number, zone: string): number | undefined {
  const offset = offsetAt(time, zone);
  for (const put of [30, 60, 120]) {
    const again = time + put * 60_000;
    if (offset - offsetAt(again, zone) === put * 60_000) return again;
  }
  return undefined;
}
