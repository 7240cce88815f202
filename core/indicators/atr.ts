import type { Series } from "#core/series/series";

/** True range (Wilder 1978): the day's range stretched to the previous close. The first bar has none. */
export function trueRange({ high, low, close }: Series, i: number): number {
  if (i === 0) return NaN;
  const top = high[i] > close[i - 1] ? high[i] : close[i - 1];
  const bottom = low[i] < close[i - 1] ? low[i] : close[i - 1];
  return top - bottom;
}

/**
 * Average true range in price units (Wilder 1978): the mean of the first `period` true ranges, which begin at
 * the second bar, then smoothed by 1 / period. First defined at index `period`.
 */
export function atr(series: Series, period = 14): Float64Array {
  const out = new Float64Array(series.length).fill(NaN);
  let value = 0;
  for (let i = 1; i < series.length; i++) {
    const range = trueRange(series, i);
    if (i <= period) value += range / period;
    else value += (range - value) / period;
    if (i >= period) out[i] = value;
  }
  return out;
}
