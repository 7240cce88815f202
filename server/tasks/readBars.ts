import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { BarReader, recognise, usualDistance, type BarFormat, type RowFault } from "#core/csv/barfile";
import { findColumns, missingColumns, readColumns, type Columns } from "#core/csv/heads";
import { saidFormat } from "#core/csv/numbers";
import { timeFormat } from "#core/csv/times";
import { toBuffer, type Series } from "#core/series/series";
import { gridDecimals } from "#core/series/tick";
import { DAY } from "#core/time/dates";
import { rowsOf, type BarRows } from "./barRows.ts";

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
  /** Which column is which, where it was said by hand: "time:1,open:3". */
  columns?: string;
}

/** A file of which something has to be said before it can be read: which column is which, or which market is meant. */
export interface OpenFile {
  open: "columns" | "markets";
  sentence: string;
  columns: Columns;
  sample: string[][];
  /** Of several markets: what each is called, and how many rows it has. */
  markets: { name: string; rows: number }[];
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
  columns: Columns;
  /** What the file says of its market, where it says it: one of our own exports. Not yet checked. */
  about?: unknown;
}

const LISTED_FAULTS = 500;
/** Rows of a file that are read: two million minutes are four years of every market day's minutes. */
export const MOST_ROWS = 3_000_000;

/** A file of bars read from disk, or a sentence saying why it is none. Runs in a worker: it may take seconds. */
export default function readFile(
  { path, options }: { path: string; options: FileOptions },
  onProgress: (share: number) => void = () => {},
): ReadFile | OpenFile | string {
  const bytes = readFileSync(path);
  const text = decodeText(bytes);
  if (text === undefined)
    return "The file holds bytes that are no text (a spreadsheet or an archive, perhaps). Save it as CSV.";
  const rows = rowsOf(text, MOST_ROWS);
  if (typeof rows === "string") return rows;
  const columns = options.columns === undefined ? findColumns(rows.header) : readColumns(options.columns);
  if (!columns)
    return `"${options.columns?.slice(0, 80)}" does not say which column is which, as "time:1,open:3" does.`;
  const open = openFile(rows, columns);
  if (open) return open;
  // A file without a header begins with a bar.
  const first = isNumber(rows.header[columns.open]) && isNumber(rows.header[columns.close]) ? rows.header : undefined;
  const format = recognise(rows.header, first ? [first, ...rows.sample] : rows.sample, options.zone, columns);
  if (typeof format === "string") return format;
  const { kind, ambiguous, clock } = format.time;
  if (options.numbers && format.numbers.ambiguous)
    format.numbers = { ...saidFormat(format.numbers, options.numbers), ambiguous: true };
  if (options.ofDates !== undefined) format.ofDates = options.ofDates;
  format.isAdjusted = options.isAdjusted === true && format.columns.adjusted !== undefined;
  if (options.order && ambiguous && (kind === "slashed" || kind === "dotted" || kind === "dashed"))
    format.time = timeFormat(kind, options.order, clock);
  const reader = new BarReader(format, rows.most + 1);
  if (first) reader.take(first, 1);
  const count = rows.each((row, line) => reader.take(row, line), onProgress) + (first ? 1 : 0);
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
    decimals: gridDecimals(newestPrices(series), decimalsOf(rows.sample, format)),
    sample: sampleOf(rows),
    columns,
    ...(rows.about === undefined ? {} : { about: rows.about }),
  };
}

const isNumber = (cell: string | undefined) => /^\s*[+-]?[\d.,' ]*\d\s*$/.test(cell ?? "");

/** The first rows as they are shown. */
const sampleOf = ({ header, sample }: BarRows) =>
  [header, ...sample.slice(0, 5)].map((row) => row.slice(0, 16).map((cell) => cell.slice(0, 40)));

/** What has to be said of a file first, if anything has. */
function openFile(rows: BarRows, columns: Columns): OpenFile | undefined {
  const open = { columns, sample: sampleOf(rows), markets: [] };
  const missing = missingColumns(columns);
  if (missing !== "") return { ...open, open: "columns", sentence: `The header names no column for ${missing}.` };
  if (columns.symbol < 0) return undefined;
  const counts = new Map<string, number>();
  rows.each(
    (row) => {
      const name = row[columns.symbol]?.trim() ?? "";
      counts.set(name, (counts.get(name) ?? 0) + 1);
    },
    () => {},
  );
  if (counts.size < 2) return undefined;
  const markets = [...counts].map(([name, count]) => ({ name, rows: count }));
  return { ...open, open: "markets", sentence: `The file holds bars of ${markets.length} markets.`, markets };
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

/** Different prices that tell a grid: a market that stands still says little. */
const TELLING = 60;

/**
 * The newest prices of a series. Older ones may be adjusted for what was paid out since, and lie on no grid that
 * anything is traded on.
 */
function newestPrices({ open, high, low, close, length }: Series): number[] {
  const found = new Set<number>();
  for (let i = length - 1; i >= 0 && found.size < TELLING; i--)
    for (const column of [open, high, low, close]) found.add(column[i]);
  return [...found];
}

/** Decimals that are told apart at most. */
const MOST_DECIMALS = 10;

/** Decimals that prices are written with. */
function decimalsOf(rows: readonly string[][], { columns, numbers: { decimal } }: BarFormat): number {
  const written = rows.flatMap((row) =>
    [columns.open, columns.high, columns.low, columns.close].map((column) => {
      const part = (row[column] ?? "").trim().split(decimal)[1] ?? "";
      return /^\d+$/.test(part) ? part.length : 0;
    }),
  );
  return Math.min(MOST_DECIMALS, Math.max(0, ...written));
}
