/**
 * Recognising and reading a file of bars. The text has already been split into cells (RFC 4180); here cells become
 * columns. Nothing is guessed silently: what was recognised is returned for the user to confirm, and every row
 * that cannot be used is named by line with its reason.
 */
import { findColumns, missingColumns, type Columns } from "#core/csv/heads";
import { readNumber, readVolume, recogniseNumbers, recogniseVolumes } from "#core/csv/numbers";
import type { NumberFormat, RecognisedNumbers } from "#core/csv/numbers";
import { recogniseTime, timeReader, type TimeFormat, type TimeReader } from "#core/csv/times";
import { allocate, slice, type Series } from "#core/series/series";
import { DAY } from "#core/time/dates";
import { offsetAt, secondOf } from "#core/time/zone";

export interface BarFormat {
  /** Column numbers from 0. */
  columns: {
    time: number;
    clock?: number;
    open: number;
    high: number;
    low: number;
    close: number;
    volume?: number;
    /** The close as it would have been without dividends and splits. */
    adjusted?: number;
  };
  numbers: RecognisedNumbers;
  volumes: NumberFormat;
  time: TimeFormat;
  /** IANA zone in which times without an offset are read. */
  zone: string;
  /** Whether prices are taken as its adjusted close has them: each bar is moved by what its close is. */
  isAdjusted: boolean;
  /** Whether bars are of a day and longer, where it was said how long they are. */
  ofDates?: boolean;
}

export interface RowFault {
  /** Line in the file, from 1, the header being line 1. */
  line: number;
  reason: string;
}

/**
 * What the header and the first rows say about the file, or a sentence about why it is no file of bars. `columns` says
 * which is which where the header does not.
 */
export function recognise(
  header: readonly string[],
  rows: readonly (readonly string[])[],
  zone: string,
  columns: Columns = findColumns(header),
): BarFormat | string {
  const { time, clock, open, high, low, close, volume, adjusted } = columns;
  const missing = missingColumns(columns);
  if (missing !== "") return `The header names no column for ${missing}.`;
  if (rows.length === 0) return "The file has a header and no rows.";
  const cellsOf = (columns: readonly number[]) => rows.flatMap((row) => columns.map((i) => row[i]?.trim() ?? ""));
  const numbers = recogniseNumbers(cellsOf([open, high, low, close]));
  if (typeof numbers === "string") return numbers;
  const format = recogniseTime(rows.map((row) => timeCell(row, time, clock)));
  if (typeof format === "string") return format;
  const optional = { clock, volume, adjusted };
  return {
    columns: {
      time,
      open,
      high,
      low,
      close,
      ...Object.fromEntries(Object.entries(optional).filter(([, i]) => i >= 0)),
    },
    numbers,
    volumes: volume < 0 ? numbers : recogniseVolumes(cellsOf([volume]), numbers),
    time: format,
    zone,
    isAdjusted: false,
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

/** A usual distance of bars from which on they are of dates; on nights the clocks change a day is an hour shorter. */
const OF_DATES = DAY - 3_600_000;

/** Takes rows one by one, in the order of the file, so that a large one need never be there in cells as a whole. */
export class BarReader {
  private readonly out: Series;
  private readonly lineOf: Int32Array;
  /** The date each bar's clock showed; NaN where it was told as an instant. */
  private readonly dates: Float64Array;
  private readonly faults: RowFault[] = [];
  private readonly time: TimeReader;
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
    this.dates = new Float64Array(format.time.clock ? most : 0);
    this.time = timeReader(format.time, format.zone);
    const { volume: _, adjusted: __, ...needed } = format.columns;
    this.width = Math.max(...Object.values(needed)) + 1;
  }

  /** Takes a row; `line` is its line in the file. */
  take(row: readonly string[], line: number): void {
    const reason = this.place(row);
    if (reason !== undefined) this.faults.push({ line, reason });
    else this.lineOf[this.n++] = line;
  }

  end(): ReadResult {
    const found = slice(this.out, 0, this.n);
    if (this.isOfDates(found.time)) {
      this.toDates(found.time);
      return sortRows(found, this.lineOf, this.faults);
    }
    return this.sorted
      ? { series: found, faults: this.faults, repeated: 0 }
      : sortRows(found, this.lineOf, this.faults);
  }

  /** By their distances where they have any; bars that lie closer are of no date, whatever is said. */
  private isOfDates(time: Float64Array): boolean {
    const { ofDates, time: written } = this.format;
    if (!written.clock || ofDates === false) return false;
    return time.length < 2 ? ofDates === true : usualDistance(time) >= OF_DATES;
  }

  /** A bar of a day and longer belongs to the date its clock shows, in the row itself or in the file's zone. */
  private toDates(time: Float64Array): void {
    for (let i = 0; i < time.length; i++) {
      const shown = this.dates[i];
      const civil = Number.isNaN(shown) ? time[i] + offsetAt(time[i], this.format.zone) : shown;
      time[i] = Math.floor(civil / DAY) * DAY;
    }
  }

  /** Puts a row at the end of the columns, or says why it is no bar. */
  private place(row: readonly string[]): string | undefined {
    const { format, out, n } = this;
    const { columns, numbers } = format;
    if (row.length < this.width) return `The row has ${row.length} cells; the header asks for at least ${this.width}.`;
    const cell = timeCell(row, columns.time, columns.clock);
    let time = this.time.read(cell);
    // On the night the clocks go back an hour is told twice; rows in order say which of the two is meant.
    if (time !== undefined && n > 0 && time <= out.time[n - 1] && format.time.clock)
      time = secondOf(time, format.zone) ?? time;
    if (time === undefined) return `"${shorten(cell)}" is not a ${format.time.name}.`;
    const open = readNumber(row[columns.open], numbers);
    const high = readNumber(row[columns.high], numbers);
    const low = readNumber(row[columns.low], numbers);
    const close = readNumber(row[columns.close], numbers);
    const volume = columns.volume === undefined ? 0 : readVolume(row[columns.volume] ?? "", format.volumes);
    const fault = faultOf(open, high, low, close, volume, row, columns);
    if (fault) return fault;
    const factor = format.isAdjusted ? this.factorOf(row, close) : 1;
    if (!(factor > 0)) return `The adjusted close "${shorten(row[columns.adjusted ?? 0] ?? "")}" is not a price.`;
    if (n > 0 && time <= out.time[n - 1]) this.sorted = false;
    if (this.dates.length > 0) this.dates[n] = this.time.date() ?? NaN;
    out.time[n] = time;
    out.open[n] = open * factor;
    out.high[n] = high * factor;
    out.low[n] = low * factor;
    out.close[n] = close * factor;
    out.volume[n] = volume;
    return undefined;
  }

  /** By what a bar's prices are moved to be as its adjusted close has them; NaN where there is none. */
  private factorOf(row: readonly string[], close: number): number {
    const { columns, numbers } = this.format;
    return columns.adjusted === undefined ? 1 : readNumber(row[columns.adjusted] ?? "", numbers) / close;
  }
}

/** The distance most bars have from the one before (ms); NaN of a bar alone. O(n). */
export function usualDistance(time: Float64Array): number {
  const counts = new Map<number, number>();
  for (let i = 1; i < time.length; i++) {
    const gap = Math.abs(time[i] - time[i - 1]);
    counts.set(gap, (counts.get(gap) ?? 0) + 1);
  }
  const [usual = NaN] = [...counts.entries()].sort((a, b) => b[1] - a[1])[0] ?? [];
  return usual;
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

function shorten(text: string): string {
  // eslint-disable-next-line no-control-regex -- cells of a hostile file are shown to a person
  const clean = text.replace(/[\u0000-\u001f\u007f]/g, "\u00b7");
  return clean.length > 30 ? `${clean.slice(0, 30)}...` : clean;
}
