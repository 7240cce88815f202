import { bisectLeft } from "d3-array";
/**
 * Bars as columns, oldest first.
 *
 * `time` is milliseconds UTC of the bar's open; for bars of a day and longer it is midnight UTC of the label
 * (the trading date, the week's Monday, the first day of the month, quarter or year).
 * Prices are doubles in the market's quote unit, volume in the market's own unit (0 where unknown).
 */
export interface Series {
  readonly length: number;
  readonly time: Float64Array;
  readonly open: Float64Array;
  readonly high: Float64Array;
  readonly low: Float64Array;
  readonly close: Float64Array;
  readonly volume: Float64Array;
}

export interface Bar {
  time: number;
  open: number;
  high: number;
  low: number;
  close: number;
  volume: number;
}

export const COLUMNS = ["time", "open", "high", "low", "close", "volume"] as const;
export type Column = (typeof COLUMNS)[number];

/** A series of `length` bars whose columns share one buffer of 6 x length doubles, column after column. */
export function allocate(length: number): Series {
  return fromBuffer(new Float64Array(length * COLUMNS.length));
}

/** Columns over one array laid out column after column: the form in which bars are stored and sent. */
export function fromBuffer(all: Float64Array): Series {
  const n = all.length / COLUMNS.length;
  const column = (i: number) => all.subarray(i * n, (i + 1) * n);
  return {
    length: n,
    time: column(0),
    open: column(1),
    high: column(2),
    low: column(3),
    close: column(4),
    volume: column(5),
  };
}

/** One contiguous array, column after column; the inverse of `fromBuffer`. */
export function toBuffer(series: Series): Float64Array {
  const n = series.length;
  const all = new Float64Array(n * COLUMNS.length);
  COLUMNS.forEach((name, i) => all.set(series[name].subarray(0, n), i * n));
  return all;
}

export function fromBars(bars: readonly Bar[]): Series {
  const series = allocate(bars.length);
  bars.forEach((bar, i) => setBar(series, i, bar));
  return series;
}

export function setBar(series: Series, i: number, bar: Bar): void {
  for (const name of COLUMNS) series[name][i] = bar[name];
}

export function barAt(series: Series, i: number): Bar {
  return {
    time: series.time[i],
    open: series.open[i],
    high: series.high[i],
    low: series.low[i],
    close: series.close[i],
    volume: series.volume[i],
  };
}

/** Bars `from` (inclusive) to `to` (exclusive) without copying. */
export function slice(series: Series, from: number, to: number): Series {
  const length = Math.max(0, to - from);
  const part = {} as { -readonly [K in Column]: Float64Array };
  for (const name of COLUMNS) part[name] = series[name].subarray(from, from + length);
  return { length, ...part };
}

/** The series end to end; the caller vouches for the order. */
export function concat(parts: readonly Series[]): Series {
  if (parts.length === 1) return parts[0];
  const out = allocate(parts.reduce((sum, part) => sum + part.length, 0));
  for (const name of COLUMNS) {
    let at = 0;
    for (const part of parts) {
      out[name].set(part[name].subarray(0, part.length), at);
      at += part.length;
    }
  }
  return out;
}

/** Index of the first bar whose time is at or after `time`; `length` if there is none. O(log n). */
export function firstAtOrAfter(series: Pick<Series, "time" | "length">, time: number): number {
  return bisectLeft(series.time, time, 0, series.length);
}

/** Index of the last bar whose time is at or before `time`; -1 if there is none. O(log n). */
export function lastAtOrBefore(series: Pick<Series, "time" | "length">, time: number): number {
  const i = firstAtOrAfter(series, time);
  return i < series.length && series.time[i] === time ? i : i - 1;
}
