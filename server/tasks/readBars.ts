import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { BarReader, recognise, usualDistance, type BarFormat, type RowFault } from "#core/csv/barfile";
import { saidFormat } from "#core/csv/numbers";
import { timeFormat } from "#core/csv/times";
import { toBuffer, type Series } from "#core/series/series";
import { gridDecimals } from "#core/series/tick";
import { DAY } from "#core/time/dates";
import { rowsOf } from "./barRows.ts";

export interface FileOptions {
  zone: string;
  /** Order of day and month where the file leaves it open. */
  order?: "dmy" | "mdy";
  /** What "38,250" is where the file leaves it open: with decimals, or with its thousands set apart. */
  numbers?: "decimals" | "thousands";
  /** Whether prices are taken as an adjusted close has them. */
  isAdjusted?: boolean;
  /** Whether its bars are of a day and longer, where it was said how long they are. */
  ofDates?: boolean;
}

export interface ReadFile {
  sha256: string;
  format: BarFormat;
  delimiter: string;
  rows: number;
  /** Bars as one array of columns. */
  bars: Float64Array;
  faults: RowFault[];
  faultCount: number;
  repeated: number;
  /** Most usual distance of bars as an ISO 8601 duration. */
  timeframe: string;
  /** Decimals of the prices' grid. */
  decimals: number;
  sample: string[][];
  /** What the file says of its market, where it says it: one of our own exports. Not yet checked. */
  about?: unknown;
}

const LISTED_FAULTS = 500;
/** Rows of a file that are read: two million minutes are four years of every market day's minutes. */
const MOST_ROWS = 3_000_000;

/** A file of bars read from disk, or a sentence saying why it is none. Runs in a worker: it may take seconds. */
export default function readFile(
  { path, options }: { path: string; options: FileOptions },
  onProgress: (share: number) => void = () => {},
): ReadFile | string {
  const bytes = readFileSync(path);
  const text = decodeText(bytes);
  if (text === undefined)
    return "The file holds bytes that are no text (a spreadsheet or an archive, perhaps). Save it as CSV.";
  const rows = rowsOf(text, MOST_ROWS);
  if (typeof rows === "string") return rows;
  const format = recognise(rows.header, rows.sample, options.zone);
  if (typeof format === "string") return format;
  const { kind, ambiguous, clock } = format.time;
  if (options.numbers && format.numbers.ambiguous)
    format.numbers = { ...saidFormat(format.numbers, options.numbers), ambiguous: true };
  if (options.ofDates !== undefined) format.ofDates = options.ofDates;
  format.isAdjusted = options.isAdjusted === true && format.columns.adjusted !== undefined;
  if (options.order && ambiguous && (kind === "slashed" || kind === "dotted" || kind === "dashed"))
    format.time = timeFormat(kind, options.order, clock);
  const reader = new BarReader(format, rows.most);
  const count = rows.each((row, line) => reader.take(row, line), onProgress);
  const { series, faults, repeated } = reader.end();
  return {
    sha256: createHash("sha256").update(bytes).digest("hex"),
    format,
    delimiter: rows.delimiter,
    rows: count,
    bars: toBuffer(series),
    faults: faults.slice(0, LISTED_FAULTS),
    faultCount: faults.length,
    repeated,
    timeframe: usualTimeframe(series.time, format.time.clock),
    decimals: gridDecimals(pricesOf(series), decimalsOf(rows.sample, format)),
    sample: [rows.header, ...rows.sample.slice(0, 5)].map((row) => row.slice(0, 10).map((cell) => cell.slice(0, 40))),
    ...(rows.about === undefined ? {} : { about: rows.about }),
  };
}

/** UTF-8 or, by its mark, UTF-16; `undefined` for anything with a NUL or broken letters. */
export function decodeText(bytes: Buffer): string | undefined {
  const encoding =
    bytes[0] === 0xff && bytes[1] === 0xfe ? "utf-16le" : bytes[0] === 0xfe && bytes[1] === 0xff ? "utf-16be" : "utf-8";
  try {
    const text = new TextDecoder(encoding, { fatal: true }).decode(bytes);
    return text.includes("\0") ? undefined : text;
  } catch {
    return undefined;
  }
}

function usualTimeframe(time: Float64Array, clock: boolean): string {
  const usual = usualDistance(time) || DAY;
  const minutes = usual / 60_000;
  if (clock && usual < DAY) return minutes % 60 === 0 ? `PT${minutes / 60}H` : `PT${Math.max(1, Math.round(minutes))}M`;
  const days = usual / DAY;
  if (days < 6) return "P1D";
  if (days < 20) return "P1W";
  return days < 80 ? "P1M" : days < 200 ? "P3M" : "P1Y";
}

/** Prices from all over a series. */
function pricesOf({ open, high, low, close, length }: Series): number[] {
  const stride = Math.max(1, Math.floor(length / 2000));
  return Array.from({ length: Math.ceil(length / stride) }, (_, n) => n * stride).flatMap((i) => [
    open[i],
    high[i],
    low[i],
    close[i],
  ]);
}

/** Decimals that prices are written with. */
function decimalsOf(rows: readonly string[][], { columns, numbers: { decimal } }: BarFormat): number {
  let most = 0;
  for (const row of rows)
    for (const column of [columns.open, columns.high, columns.low, columns.close]) {
      const part = (row[column] ?? "").trim().split(decimal)[1] ?? "";
      if (/^\d{1,10}$/.test(part)) most = Math.max(most, part.length);
    }
  return most;
}
