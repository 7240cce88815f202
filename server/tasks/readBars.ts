import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import Papa from "papaparse";
import { BAR_FORMAT } from "#core/csv/format";
import { readBars, recognise, type BarFormat, type RowFault } from "#core/csv/barfile";
import { timeFormat } from "#core/csv/times";
import { toBuffer, type Series } from "#core/series/series";
import { gridDecimals } from "#core/series/tick";
import { DAY } from "#core/time/dates";

export interface FileOptions {
  zone: string;
  /** Order of day and month where the file leaves it open. */
  order?: "dmy" | "mdy";
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
export default function readFile({ path, options }: { path: string; options: FileOptions }): ReadFile | string {
  const bytes = readFileSync(path);
  const text = decodeText(bytes);
  if (text === undefined)
    return "The file holds bytes that are no text (a spreadsheet or an archive, perhaps). Save it as CSV.";
  if (hasMoreLines(text, MOST_ROWS))
    return (
      `The file has more than ${MOST_ROWS.toLocaleString("en")} lines. Split it by year; later files extend ` +
      `the market.`
    );
  const cells = text.trimStart().startsWith("{") ? cellsOfJson(text) : cellsOfCsv(text);
  if (typeof cells === "string") return cells;
  const { lines, rows, delimiter, about } = cells;
  const [header, ...body] = rows;
  if (!header) return "The file is empty.";
  const format = recognise(header, sampleOf(body), options.zone);
  if (typeof format === "string") return format;
  const { kind, ambiguous, clock } = format.time;
  if (options.order && ambiguous && (kind === "slashed" || kind === "dotted"))
    format.time = timeFormat(kind, options.order, clock);
  const { series, faults, repeated } = readBars(body, format, (i) => lines[i + 1]);
  return {
    sha256: createHash("sha256").update(bytes).digest("hex"),
    format,
    delimiter,
    rows: body.length,
    bars: toBuffer(series),
    faults: faults.slice(0, LISTED_FAULTS),
    faultCount: faults.length,
    repeated,
    timeframe: usualDistance(series.time, format.time.clock),
    decimals: gridDecimals(pricesOf(series), decimalsOf(sampleOf(body), format)),
    sample: rows.slice(0, 6).map((row) => row.slice(0, 10).map((cell) => cell.slice(0, 40))),
    ...(about === undefined ? {} : { about }),
  };
}

/** Whether a text has more lines than a number; asked before it is taken apart, which costs many times its length. */
function hasMoreLines(text: string, most: number): boolean {
  let lines = 0;
  for (let at = text.indexOf("\n"); at !== -1; at = text.indexOf("\n", at + 1)) if (++lines > most) return true;
  return false;
}

interface Cells {
  rows: string[][];
  /** The file's line of each row. */
  lines: number[];
  delimiter: string;
  about?: unknown;
}

function cellsOfCsv(text: string): Cells {
  const { data, meta } = Papa.parse<string[]>(text, { skipEmptyLines: false });
  return { ...withLines(data, text.includes('"')), delimiter: meta.delimiter };
}

/** Our own JSON of bars as rows of cells, so that it is read and checked like any other file. */
function cellsOfJson(text: string): Cells | string {
  let value: { format?: unknown; columns?: unknown; bars?: unknown; market?: unknown };
  try {
    value = JSON.parse(text) as typeof value;
  } catch {
    return "The file begins like JSON and is none.";
  }
  const { format, columns, bars, market } = value;
  if (format !== BAR_FORMAT || !Array.isArray(columns) || !Array.isArray(bars))
    return "The file is JSON, but no file of bars.";
  const rows = [columns, ...(bars as unknown[])].map((row) => (Array.isArray(row) ? row.map(String) : []));
  // The export writes its head, then one bar a line.
  return { rows, lines: rows.map((_, i) => i + 1), delimiter: "JSON", about: market };
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

/** Rows that say anything, each with its line: quoted cells may run over several. */
function withLines(data: readonly string[][], quoted: boolean): { rows: string[][]; lines: number[] } {
  const rows: string[][] = [];
  const lines: number[] = [];
  let line = 1;
  for (const row of data) {
    if (row.length > 1 || row[0].trim() !== "") {
      rows.push(row);
      lines.push(line);
    }
    line += 1;
    if (quoted) for (const cell of row) line += cell.split("\n").length - 1;
  }
  return { rows, lines };
}

/** Rows from all over a file: what is recognised should hold at its end too. */
function sampleOf(rows: readonly string[][]): string[][] {
  const stride = Math.max(1, Math.floor(rows.length / 500));
  return rows.filter((_, i) => i < 500 || i % stride === 0);
}

function usualDistance(time: Float64Array, clock: boolean): string {
  const counts = new Map<number, number>();
  for (let i = 1; i < time.length; i++) {
    const gap = time[i] - time[i - 1];
    counts.set(gap, (counts.get(gap) ?? 0) + 1);
  }
  const [usual = DAY] = [...counts.entries()].sort((a, b) => b[1] - a[1])[0] ?? [];
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
function decimalsOf(rows: readonly string[][], { columns, decimal }: BarFormat): number {
  let most = 0;
  for (const row of rows)
    for (const column of [columns.open, columns.high, columns.low, columns.close]) {
      const part = (row[column] ?? "").trim().split(decimal)[1] ?? "";
      if (/^\d{1,10}$/.test(part)) most = Math.max(most, part.length);
    }
  return most;
}
