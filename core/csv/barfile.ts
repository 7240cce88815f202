/**
 * Recognising and reading a file of bars. The text has already been split into cells (RFC 4180); here cells become
 * columns. Nothing is guessed silently: what was recognised is returned for the user to confirm, and every row
 * that cannot be used is named by line with its reason.
 */
import { secondOf } from "#core/time/zone";
import { allocate, slice, type Series } from "#core/series/series";
import { recogniseTime, timeReader, type TimeFormat } from "#core/csv/times";

export interface BarFormat {
  /** Column numbers from 0. */
  columns: { time: number; clock?: number; open: number; high: number; low: number; close: number; volume?: number };
  decimal: "." | ",";
  time: TimeFormat;
  /** IANA zone in which times without an offset are read. */
  zone: string;
}

export interface RowFault {
  /** Line in the file, from 1, the header being line 1. */
  line: number;
  reason: string;
}

const NAMES = {
  time: ["time", "date", "datetime", "date/time", "timestamp", "date time", "day"],
  clock: ["clock", "hour", "time of day", "time"],
  open: ["open", "o"],
  high: ["high", "h"],
  low: ["low", "l"],
  close: ["close", "c", "last", "price"],
  volume: ["volume", "v", "vol"],
};

/** What the header and the first rows say about the file, or a sentence about why it is no file of bars. */
export function recognise(
  header: readonly string[],
  rows: readonly (readonly string[])[],
  zone: string,
): BarFormat | string {
  const names = header.map((cell) =>
    cell
      .trim()
      .toLowerCase()
      .replace(/^[<"']|[>"']$/g, ""),
  );
  const find = (wanted: readonly string[], not = -1) =>
    names.findIndex((name, i) => i !== not && wanted.includes(name));
  const date = names.indexOf("date");
  const time = date >= 0 ? date : find(NAMES.time);
  const [open, high, low, close, volume] = (["open", "high", "low", "close", "volume"] as const).map((n) =>
    find(NAMES[n]),
  );
  const missing = Object.entries({ "date or time": time, open, high, low, close }).filter(([, i]) => i < 0);
  if (missing.length > 0) return `The header names no column for ${missing.map(([name]) => name).join(", ")}.`;
  if (rows.length === 0) return "The file has a header and no rows.";
  const clock = date >= 0 ? find(NAMES.clock, date) : -1;
  const prices = rows.flatMap((row) => [row[open], row[high], row[low], row[close]].map((cell) => cell?.trim() ?? ""));
  const decimal =
    prices.some((cell) => /\d,\d{1,8}$/.test(cell)) && !prices.some((cell) => /\.\d+$/.test(cell)) ? "," : ".";
  const format = recogniseTime(rows.map((row) => timeCell(row, time, clock)));
  if (typeof format === "string") return format;
  return {
    columns: { time, open, high, low, close, ...(clock >= 0 ? { clock } : {}), ...(volume >= 0 ? { volume } : {}) },
    decimal,
    time: format,
    zone,
  };
}

function timeCell(row: readonly string[], time: number, clock = -1): string {
  return clock >= 0 ? `${row[time] ?? ""} ${row[clock] ?? ""}`.trim() : (row[time] ?? "").trim();
}

export interface ReadResult {
  series: Series;
  faults: RowFault[];
  /** Rows that said again, word for word, what an earlier row had said. */
  repeated: number;
}

/** Rows into columns, sorted by time. `lines` gives the file's line of `rows[i]`. */
export function readBars(
  rows: readonly (readonly string[])[],
  format: BarFormat,
  lines: (i: number) => number,
): ReadResult {
  const reader = new BarReader(format, rows.length);
  rows.forEach((row, i) => reader.take(row, lines(i)));
  return reader.end();
}

/** Takes rows one by one, in the order of the file, so that a large one need never be there in cells as a whole. */
export class BarReader {
  private readonly out: Series;
  private readonly lineOf: Int32Array;
  private readonly faults: RowFault[] = [];
  private readonly readTime: (cell: string) => number | undefined;
  private readonly width: number;
  private n = 0;
  private sorted = true;

  /** `most` is the number of rows that may come. */
  constructor(
    private readonly format: BarFormat,
    most: number,
  ) {
    this.out = allocate(most);
    this.lineOf = new Int32Array(most);
    this.readTime = timeReader(format.time, format.zone);
    this.width = Math.max(...Object.values(format.columns)) + 1;
  }

  /** Takes a row; `line` is its line in the file. */
  take(row: readonly string[], line: number): void {
    const reason = this.place(row);
    if (reason !== undefined) this.faults.push({ line, reason });
    else this.lineOf[this.n++] = line;
  }

  end(): ReadResult {
    const found = slice(this.out, 0, this.n);
    return this.sorted
      ? { series: found, faults: this.faults, repeated: 0 }
      : sortRows(found, this.lineOf, this.faults);
  }

  /** Puts a row at the end of the columns, or says why it is no bar. */
  private place(row: readonly string[]): string | undefined {
    const { format, out, n } = this;
    const { columns, decimal } = format;
    if (row.length < this.width) return `The row has ${row.length} cells; the header asks for at least ${this.width}.`;
    const cell = timeCell(row, columns.time, columns.clock);
    let time = this.readTime(cell);
    // On the night the clocks go back an hour is told twice; rows in order say which of the two is meant.
    if (time !== undefined && n > 0 && time <= out.time[n - 1] && format.time.clock)
      time = secondOf(time, format.zone) ?? time;
    if (time === undefined) return `"${shorten(cell)}" is not a ${format.time.name}.`;
    const open = readNumber(row[columns.open], decimal);
    const high = readNumber(row[columns.high], decimal);
    const low = readNumber(row[columns.low], decimal);
    const close = readNumber(row[columns.close], decimal);
    const volumeCell = columns.volume === undefined ? "" : row[columns.volume].trim();
    const volume = volumeCell === "" ? 0 : readNumber(volumeCell, decimal);
    const fault = faultOf(open, high, low, close, volume, row, columns);
    if (fault) return fault;
    if (n > 0 && time <= out.time[n - 1]) this.sorted = false;
    out.time[n] = time;
    out.open[n] = open;
    out.high[n] = high;
    out.low[n] = low;
    out.close[n] = close;
    out.volume[n] = volume;
    return undefined;
  }
}

const PRICE_NAMES = ["open", "high", "low", "close"] as const;

function faultOf(
  open: number,
  high: number,
  low: number,
  close: number,
  volume: number,
  row: readonly string[],
  columns: BarFormat["columns"],
): string | undefined {
  const values =
    open > 0 && high > 0 && low > 0 && close > 0 && open + high + low + close < Infinity
      ? []
      : [open, high, low, close];
  for (let i = 0; i < values.length; i++) {
    if (Number.isFinite(values[i]) && values[i] > 0) continue;
    const cell = shorten(row[columns[PRICE_NAMES[i]]]);
    return Number.isFinite(values[i])
      ? `The ${PRICE_NAMES[i]} is ${cell}; a price is above zero.`
      : `The ${PRICE_NAMES[i]} "${cell}" is not a number.`;
  }
  if (high < low) return "The high is below the low.";
  if (open > high || open < low) return "The open is outside the bar's range.";
  if (close > high || close < low) return "The close is outside the bar's range.";
  if (!Number.isFinite(volume) || volume < 0) return "The volume is not a number of zero or more.";
  return undefined;
}

/** Puts rows in order of time; equal rows collapse, rows of one time with other values are faults. */
function sortRows(series: Series, lineOf: Int32Array, faults: RowFault[]): ReadResult {
  const order = Array.from({ length: series.length }, (_, i) => i).sort(
    (a, b) => series.time[a] - series.time[b] || lineOf[a] - lineOf[b],
  );
  const out = allocate(series.length);
  let n = 0;
  let repeated = 0;
  for (const i of order) {
    const same = n > 0 && out.time[n - 1] === series.time[i];
    if (
      same &&
      PRICE_NAMES.every((name) => out[name][n - 1] === series[name][i]) &&
      out.volume[n - 1] === series.volume[i]
    ) {
      repeated++;
      continue;
    }
    if (same) {
      faults.push({ line: lineOf[i], reason: "An earlier row has the same time and other values." });
      continue;
    }
    for (const name of [...PRICE_NAMES, "time", "volume"] as const) out[name][n] = series[name][i];
    n++;
  }
  faults.sort((a, b) => a.line - b.line);
  return { series: slice(out, 0, n), faults, repeated };
}

/** A plain decimal number with the file's decimal mark; NaN for anything else ("1e5", "=1+1", "1,234.5" all are). */
export function readNumber(cell: string, decimal: "." | ","): number {
  if (decimal === "." && isPlain(cell)) return Number(cell);
  const text = cell.trim();
  if (text.length > 32) return NaN;
  const point = decimal === "," ? text.replace(",", ".") : text;
  return /^[-\u2212+]?(\d+\.?\d*|\.\d+)(e[-+]?\d{1,2})?$/i.test(point) ? Number(point.replace("\u2212", "-")) : NaN;
}

/** Digits with at most one point among them: what nearly every cell is, told without a pattern. */
function isPlain(cell: string): boolean {
  if (cell.length === 0 || cell.length > 32) return false;
  let points = 0;
  for (let i = 0; i < cell.length; i++) {
    const code = cell.charCodeAt(i);
    if (code === 46) points++;
    else if (code < 48 || code > 57) return false;
  }
  return points === 0 || (points === 1 && cell.length > 1);
}

function shorten(text: string): string {
  // eslint-disable-next-line no-control-regex -- cells of a hostile file are shown to a person
  const clean = text.replace(/[\u0000-\u001f\u007f]/g, "\u00b7");
  return clean.length > 30 ? `${clean.slice(0, 30)}...` : clean;
}
