import { DAY, utc } from "#core/time/dates";
import { instantOf, offsetAt } from "#core/time/zone";

/** How the times of a file are written. Slash and dot dates carry the order of their parts. */
export interface TimeFormat {
  kind: "iso" | "dotted" | "slashed" | "compact" | "seconds" | "milliseconds";
  order: "ymd" | "dmy" | "mdy";
  /** Whether there are clock times (intraday bars) or only dates. */
  clock: boolean;
  /** Shown to the user: "date as day.month.year". */
  name: string;
  /** Both day-first and month-first would read every row seen; the user has to say. */
  ambiguous: boolean;
}

const CLOCK = String.raw`(?:[T ,]+(\d{1,2}):?(\d{2})(?::?(\d{2})(?:[.,]\d{1,9})?)?)?\s*(Z|[+-]\d{2}:?\d{2})?`;
const PATTERNS: Record<"iso" | "dotted" | "slashed" | "compact", RegExp> = {
  iso: new RegExp(`^(\\d{4})-(\\d{1,2})-(\\d{1,2})${CLOCK}$`),
  dotted: new RegExp(`^(\\d{1,4})\\.(\\d{1,2})\\.(\\d{1,4})${CLOCK}$`),
  slashed: new RegExp(`^(\\d{1,4})/(\\d{1,2})/(\\d{1,4})${CLOCK}$`),
  compact: new RegExp(`^(\\d{4})(\\d{2})(\\d{2})${CLOCK}$`),
};

/** The one way of writing that fits every sample, or a sentence saying that there is none. */
export function recogniseTime(samples: readonly string[]): TimeFormat | string {
  const first = samples.find((cell) => cell !== "");
  if (first === undefined) return "The column of dates is empty.";
  if (samples.every((cell) => /^\d{10}$/.test(cell))) return plain("seconds", "number of seconds since 1970");
  if (samples.every((cell) => /^\d{13}$/.test(cell))) return plain("milliseconds", "number of milliseconds since 1970");
  const kind = (["iso", "compact", "dotted", "slashed"] as const).find((one) => PATTERNS[one].test(first));
  if (!kind) return `The date "${first.slice(0, 30)}" is written in no way that is known here.`;
  const matches = samples.map((cell) => PATTERNS[kind].exec(cell)).filter((match) => match !== null);
  const clock = matches.some((match) => match[4] !== undefined);
  if (kind === "iso" || kind === "compact") {
    const name = kind === "iso" ? "date as year-month-day" : "date as yearmonthday";
    return { kind, order: "ymd", clock, ambiguous: false, name: name + (clock ? " with a clock time" : "") };
  }
  const yearFirst = matches.every((match) => match[1].length === 4);
  const dayFirst = matches.every((match) => Number(match[2]) <= 12 && Number(match[1]) <= 31);
  const monthFirst = matches.every((match) => Number(match[1]) <= 12 && Number(match[2]) <= 31);
  const order = yearFirst ? "ymd" : dayFirst && (!monthFirst || kind === "dotted") ? "dmy" : "mdy";
  return timeFormat(kind, order, clock, !yearFirst && dayFirst && monthFirst);
}

function plain(kind: "seconds" | "milliseconds", name: string): TimeFormat {
  return { kind, order: "ymd", clock: true, ambiguous: false, name };
}

/** A dotted or slashed format with the order the user confirmed. */
export function timeFormat(
  kind: "dotted" | "slashed",
  order: TimeFormat["order"],
  clock: boolean,
  ambiguous = false,
): TimeFormat {
  const mark = kind === "dotted" ? "." : "/";
  const parts = { ymd: ["year", "month", "day"], dmy: ["day", "month", "year"], mdy: ["month", "day", "year"] }[order];
  return { kind, order, clock, ambiguous, name: `date as ${parts.join(mark)}${clock ? " with a clock time" : ""}` };
}

/**
 * Reads cells of one file. Dates alone are midnight UTC of the date (the label of a daily bar, whatever the zone);
 * clock times without an offset are read in `zone`; `undefined` for anything else, impossible dates too. What the
 * last row said of its date is kept: the next row is nearly always of the same day.
 */
export function timeReader(format: TimeFormat, zone: string): (cell: string) => number | undefined {
  if (format.kind === "seconds" || format.kind === "milliseconds") {
    const unit = format.kind === "seconds" ? 1000 : 1;
    return (cell) => (/^\d{9,14}$/.test(cell) ? Number(cell) * unit : undefined);
  }
  const pattern = PATTERNS[format.kind];
  const [y, m, d] = { ymd: [1, 2, 3], dmy: [3, 2, 1], mdy: [3, 1, 2] }[format.order];
  let known:
    { year: string; month: string; day: string; date: number | undefined; shift: number | undefined } | undefined;
  return (cell) => {
    const match = pattern.exec(cell);
    if (!match) return undefined;
    if (!known || match[d] !== known.day || match[m] !== known.month || match[y] !== known.year) {
      const date = dateOf(match[y], Number(match[m]), Number(match[d]));
      known = {
        year: match[y],
        month: match[m],
        day: match[d],
        date,
        shift: date === undefined ? undefined : steadyOffset(date, zone),
      };
    }
    const { date, shift } = known;
    if (date === undefined) return undefined;
    if (match[4] === undefined) return format.clock ? undefined : date;
    const [hour, minute, second] = [Number(match[4]), Number(match[5]), Number(match[6] ?? 0)];
    if (hour > 23 || minute > 59 || second > 59) return undefined;
    const civil = date + ((hour * 60 + minute) * 60 + second) * 1000;
    if (match[7] !== undefined) return civil - offsetOf(match[7]);
    return shift === undefined ? instantOf(civil, zone) : civil - shift;
  };
}

function dateOf(yearText: string, month: number, day: number): number | undefined {
  if (yearText.length !== 4) return undefined;
  const date = utc(Number(yearText), month, day);
  const real = new Date(date);
  return real.getUTCMonth() + 1 === month && real.getUTCDate() === day ? date : undefined;
}

/** The zone's offset if it is one and the same about a whole date; `undefined` near a change. */
function steadyOffset(date: number, zone: string): number | undefined {
  const before = offsetAt(date - DAY, zone);
  return before === offsetAt(date + 2 * DAY, zone) ? before : undefined;
}

function offsetOf(text: string): number {
  if (text === "Z") return 0;
  const minutes = Number(text.slice(1, 3)) * 60 + Number(text.slice(-2));
  return (text.startsWith("-") ? -1 : 1) * minutes * 60_000;
}
