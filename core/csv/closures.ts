import { recogniseTime, timeReader, type TimeFormat } from "#core/csv/times";
import type { CalendarSpec } from "#core/time/calendar";
import { dayNumber, formatDate } from "#core/time/dates";

/** Holidays and half days as lines of text, the latest first: "2026-12-25", "2026-12-24 13:00". */
export function closuresText({ holidays = [], halfDays = {} }: CalendarSpec): string {
  return [...holidays, ...Object.entries(halfDays).map(([date, close]) => `${date} ${close}`)]
    .sort()
    .reverse()
    .join("\n");
}

export interface Closures {
  holidays: string[];
  halfDays: { date: string; close: string }[];
  /** Lines (from 1) that say no date, or one that can be read in two ways; each with what to do. */
  faults: { line: number; sentence: string }[];
}

interface Line {
  line: number;
  /** The date as it is written, and what stands behind it. */
  date: string;
  rest: string;
  format: TimeFormat;
}

/**
 * Dates that were typed or pasted, one on each line, written in any way a file's dates may be; behind each may stand
 * the time at which a half day closes, and words that are passed over ("24.12.2026 13:00 Christmas Eve"). Which comes
 * first, day or month, is taken from all lines together.
 */
export function readClosures(text: string): Closures {
  const out: Closures = { holidays: [], halfDays: [], faults: [] };
  const lines = text.split("\n").flatMap((whole, i): Line[] => {
    if (whole.trim() === "") return [];
    const found = dateOf(whole);
    if (found) return [{ line: i + 1, ...found }];
    out.faults.push({ line: i + 1, sentence: `"${shortened(whole)}" does not begin with a date.` });
    return [];
  });
  for (const kind of new Set(lines.map(({ format }) => format.kind))) {
    const own = lines.filter(({ format }) => format.kind === kind);
    readAlike(own, out);
  }
  out.faults.sort((a, b) => a.line - b.line);
  return out;
}

/** Lines whose dates are written in one way. */
function readAlike(lines: readonly Line[], out: Closures): void {
  const format = recogniseTime(lines.map(({ date }) => date));
  if (typeof format === "string") return;
  const reader = timeReader(format, "UTC");
  for (const { line, date, rest } of lines) {
    const time = reader.read(date);
    if (time === undefined) {
      out.faults.push({ line, sentence: `"${date}" is no date.` });
      continue;
    }
    // Dates with points have the day first wherever they are written so.
    if (format.ambiguous && format.kind !== "dotted") {
      out.faults.push({ line, sentence: `"${date}" can be read in two ways: write it as year-month-day.` });
      continue;
    }
    const label = formatDate(dayNumber(time));
    const clock = /^(?:[^\d]*?\s)?(\d{1,2})[:.](\d{2})(?!\d)/.exec(` ${rest}`);
    if (!clock) out.holidays.push(label);
    else if (Number(clock[1]) <= 24 && Number(clock[2]) <= 59)
      out.halfDays.push({ date: label, close: `${clock[1].padStart(2, "0")}:${clock[2]}` });
    else out.faults.push({ line, sentence: `"${rest.trim()}" is no time.` });
  }
}

/** The most words a date has: "Friday, 25 December 2026". */
const MOST_WORDS = 4;

/** The longest beginning of a line that is a date. */
function dateOf(whole: string): Omit<Line, "line"> | undefined {
  const words = whole.trim().split(/[\s;\t]+/);
  for (let count = Math.min(MOST_WORDS, words.length); count > 0; count--) {
    const date = words
      .slice(0, count)
      .join(" ")
      .replace(/[,:]+$/, "");
    const format = recogniseTime([date]);
    if (typeof format === "string" || format.clock) continue;
    return { date, rest: words.slice(count).join(" "), format };
  }
  return undefined;
}

const shortened = (text: string) => (text.trim().length > 40 ? `${text.trim().slice(0, 40)}...` : text.trim());
