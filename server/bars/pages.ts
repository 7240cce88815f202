import { PAGE } from "#contracts/barPage";
import { slice, type Series } from "#core/series/series";

/** The newest bars come at once with at least this many. */
const LEAST = 1500;

export interface BarPage {
  series: Series;
  /** Index of its first bar in the whole series. */
  start: number;
  /** Whether it can only be changed by a restatement: it is full, and its last bar is not the running one. */
  closed: boolean;
}

export function pageOf(series: Series, page: number): BarPage {
  const start = Math.min(series.length, Math.max(0, page) * PAGE);
  const end = Math.min(series.length, start + PAGE);
  return { series: slice(series, start, end), start, closed: end - start === PAGE && end < series.length };
}

/** The newest bars, from the beginning of a page on. */
export function tailOf(series: Series): BarPage {
  const start = Math.max(0, Math.floor((series.length - LEAST) / PAGE) * PAGE);
  return { series: slice(series, start, series.length), start, closed: false };
}
