import { DAY, utc } from "#core/time/dates";
import { instantOf, offsetAt } from "#core/time/zone";

/** How the times of a file are written. Dates of parts with marks between carry the order of these. */
export interface TimeFormat {
  kind: "iso" | "dashed" | "dotted" | "slashed" | "compact" | "named" | "seconds" | "milliseconds";
  order: "ymd" | "dmy" | "mdy";
  /** Whether there are clock times (intraday bars) or only dates. */
  clock: boolean;
  /** Shown to the user: "date as day.month.year". */
  name: string;
  /** Both day-first and month-first would read every row seen; the user has to say. */
  ambiguous: boolean;
}

const CLOCK =
  String.raw`(?:[T ,]+(\d{1,2}):?(\d{2})(?::?(\d{2})(?:[.,]\d{1,9})?)?\s*([AaPp][Mm])?)?` +
  String.raw`\s*(Z|UTC|GMT|(?:UTC|GMT)?[+-]\d{2}:?\d{2})?`;
/** "2 Jan", "02-Jan", "2. Januar"; "Jan 2", "January 02". */
const DAY_FIRST = String.raw`(\d{1,2})[ .-]{1,2}(\p{L}{3,10})`;
const MONTH_FIRST = String.raw`(\p{L}{3,10})\.? (\d{1,2})`;
const PATTERNS: Record<Exclude<TimeFormat["kind"], "seconds" | "milliseconds">, RegExp> = {
  iso: new RegExp(`^(\\d{4})-(\\d{1,2})-(\\d{1,2})${CLOCK}$`),
  dashed: new RegExp(`^(\\d{1,2})-(\\d{1,2})-(\\d{4}|\\d{2})${CLOCK}$`),
  dotted: new RegExp(`^(\\d{1,4})\\.(\\d{1,2})\\.(\\d{1,4})${CLOCK}$`),
  slashed: new RegExp(`^(\\d{1,4})/(\\d{1,2})/(\\d{1,4})${CLOCK}$`),
  compact: new RegExp(`^(\\d{4})(\\d{2})(\\d{2})${CLOCK}$`),
  named: new RegExp(`^(?:\\p{L}{2,10}\\.?,? )?(?:${DAY_FIRST}|${MONTH_FIRST})[ ,.-]{1,2}(\\d{4}|\\d{2})${CLOCK}$`, "u"),
};

/** Months by how their names begin, in the languages files come in. */
const MONTHS = [
  ...[
    ["jan", "ene", "gen"],
    ["feb", "f\u00e9v", "fev"],
    ["mar", "m\u00e4r", "mrz"],
    ["apr", "avr", "abr"],
  ],
  ...[
    ["may", "mai", "mag"],
    ["jun", "juin", "giu"],
    ["jul", "juil", "lug"],
    ["aug", "ao\u00fb", "ago"],
  ],
  ...[["sep", "set"], ["oct", "okt", "ott", "out"], ["nov"], ["dec", "dez", "d\u00e9c", "dic"]],
];

/** Number of a month by its name, from 1; NaN of what is none. */
function monthOf(name: string): number {
  const small = name.toLowerCase();
  const found = MONTHS.findIndex((begins) => begins.some((one) => small.startsWith(one)));
  return found < 0 ? NaN : found + 1;
}

/** The one way of writing that fits every sample, or a sentence saying that there is none. */
export function recogniseTime(samples: readonly string[]): TimeFormat | string {
  const first = samples.find((cell) => cell !== "");
  if (first === undefined) return "The column of dates is empty.";
  if (samples.every((cell) => /^\d{9,10}$/.test(cell))) return plain("seconds", "number of seconds since 1970");
  if (samples.every((cell) => /^\d{13}$/.test(cell))) return plain("milliseconds", "number of milliseconds since 1970");
  const kind = (["iso", "compact", "dashed", "dotted", "slashed", "named"] as const).find((one) =>
    PATTERNS[one].test(first),
  );
  if (!kind) return `The date "${first.slice(0, 30)}" is written in no way that is known here.`;
  const matches = samples.map((cell) => PATTERNS[kind].exec(cell)).filter((match) => match !== null);
  const hour = kind === "named" ? 6 : 4;
  const clock = matches.some((match) => match[hour] !== undefined);
  if (kind === "iso" || kind === "compact" || kind === "named") {
    const name = {
      iso: "date as year-month-day",
      compact: "date as yearmonthday",
      named: "date with its month's name",
    };
    return { kind, order: "ymd", clock, ambiguous: false, name: name[kind] + (clock ? " with a clock time" : "") };
  }
  const yearFirst = matches.every((match) => match[1].length === 4);
  const dayFirst = matches.every((match) => Number(match[2]) <= 12 && Number(match[1]) <= 31);
  const monthFirst = matches.every((match) => Number(match[1]) <= 12 && Number(match[2]) <= 31);
  const order = yearFirst ? "ymd" : dayFirst && (!monthFirst || kind !== "slashed") ? "dmy" : "mdy";
  return timeFormat(kind, order, clock, !yearFirst && dayFirst && monthFirst);
}

function plain(kind: "seconds" | "milliseconds", name: string): TimeFormat {
  return { kind, order: "ymd", clock: true, ambiguous: false, name };
}

/** A format of parts with marks between, with the order the user confirmed. */
export function timeFormat(
  kind: "dashed" | "dotted" | "slashed",
  order: TimeFormat["order"],
  clock: boolean,
  ambiguous = false,
): TimeFormat {
  const mark = { dashed: "-", dotted: ".", slashed: "/" }[kind];
  const parts = { ymd: ["year", "month", "day"], dmy: ["day", "month", "year"], mdy: ["month", "day", "year"] }[order];
  return { kind, order, clock, ambiguous, name: `date as ${parts.join(mark)}${clock ? " with a clock time" : ""}` };
}

/** Reads the times of one file, cell by cell. */
export interface TimeReader {
  /** The instant of a cell; `undefined` of what is none, impossible dates too. */
  read(cell: string): number | undefined;
  /**
   * The date (midnight UTC) that the clock of the last cell showed; `undefined` where it was told as an instant, which
   * has another date in each zone.
   */
  date(): number | undefined;
}

/**
 * Dates alone are midnight UTC of the date (the label of a daily bar, whatever the zone); clock times without an offset
 * are read in `zone`. What the last row said of its date is kept: the next row is nearly always of the same day.
 */
export function timeReader(format: TimeFormat, zone: string): TimeReader {
  if (format.kind === "seconds" || format.kind === "milliseconds") {
    const unit = format.kind === "seconds" ? 1000 : 1;
    return {
      read: (cell) => (/^\d{9,14}$/.test(cell) ? Number(cell) * unit : undefined),
      date: () => undefined,
    };
  }
  const isNamed = format.kind === "named";
  const pattern = PATTERNS[format.kind];
  const [y, m, d] = { ymd: [1, 2, 3], dmy: [3, 2, 1], mdy: [3, 1, 2] }[format.order];
  const clockAt = isNamed ? 6 : 4;
  let known:
    { year: string; month: string; day: string; date: number | undefined; shift: number | undefined } | undefined;
  let shown: number | undefined;
  const read = (cell: string): number | undefined => {
    const match = pattern.exec(cell);
    if (!match) return undefined;
    const [year, month, day] = isNamed
      ? [match[5], match[2] ?? match[3], match[1] ?? match[4]]
      : [match[y], match[m], match[d]];
    if (!known || day !== known.day || month !== known.month || year !== known.year) {
      const date = dateOf(year, isNamed ? monthOf(month) : Number(month), Number(day));
      known = { year, month, day, date, shift: date === undefined ? undefined : steadyOffset(date, zone) };
    }
    const { date, shift } = known;
    if (date === undefined) return undefined;
    shown = date;
    if (match[clockAt] === undefined) return format.clock ? undefined : date;
    const [minute, second] = [Number(match[clockAt + 1]), Number(match[clockAt + 2] ?? 0)];
    const hour = hourOf(Number(match[clockAt]), match[clockAt + 3]);
    if (!(hour <= 23) || minute > 59 || second > 59) return undefined;
    const civil = date + ((hour * 60 + minute) * 60 + second) * 1000;
    const offset = match[clockAt + 4];
    if (offset === undefined) return shift === undefined ? instantOf(civil, zone) : civil - shift;
    if (!/\d/.test(offset)) shown = undefined;
    return civil - offsetOf(offset);
  };
  return { read, date: () => shown };
}

/** An hour of the day, of half a day as well; NaN of what is none. */
function hourOf(hour: number, half: string | undefined): number {
  if (half === undefined) return hour;
  if (hour < 1 || hour > 12) return NaN;
  return (hour % 12) + (half.toLowerCase() === "pm" ? 12 : 0);
}

/** A year of two digits is of 1969 to 2068 (POSIX.1-2017, strptime, %y). */
function yearOf(text: string): number {
  const year = Number(text);
  return text.length === 4 ? year : text.length === 2 ? year + (year >= 69 ? 1900 : 2000) : NaN;
}

function dateOf(yearText: string, month: number, day: number): number | undefined {
  const date = utc(yearOf(yearText), month, day);
  const real = new Date(date);
  return real.getUTCMonth() + 1 === month && real.getUTCDate() === day ? date : undefined;
}

/** The zone's offset if it is one and the same about a whole date; `undefined` near a change. */
function steadyOffset(date: number, zone: string): number | undefined {
  const before = offsetAt(date - DAY, zone);
  return before === offsetAt(date + 2 * DAY, zone) ? before : undefined;
}

function offsetOf(text: string): number {
  if (!/\d/.test(text)) return 0;
  const signed = text.replace(/^(UTC|GMT)/, "");
  const minutes = Number(signed.slice(1, 3)) * 60 + Number(signed.slice(-2));
  return (signed.startsWith("-") ? -1 : 1) * minutes * 60_000;
}
