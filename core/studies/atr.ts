import type { Series } from "#core/series/series";
import { OF, ofBars, whole, type Bars, type Study } from "#core/studies/study";

type Ranges = Pick<Bars, "high" | "low" | "close">;

/** True range (Wilder 1978): the day's range stretched to the previous close. The first bar has none. */
export function trueRange({ high, low, close }: Ranges, i: number): number {
  if (i === 0) return NaN;
  const top = high[i] > close[i - 1] ? high[i] : close[i - 1];
  const bottom = low[i] < close[i - 1] ? low[i] : close[i - 1];
  return top - bottom;
}

/** The average true range bar by bar: bars in order, from the first. */
export function rangeMean(period: number): (bars: Ranges, i: number) => number {
  let value = 0;
  return (bars, i) => {
    if (i === 0) return NaN;
    const range = trueRange(bars, i);
    value += i <= period ? range / period : (range - value) / period;
    return i >= period ? value : NaN;
  };
}

/**
 * Average true range in price units (Wilder 1978): the mean of the first `period` true ranges, which begin at
 * the second bar, then smoothed by 1 / period. First defined at index `period`.
 */
export function atr(series: Series, period = 14): Float64Array {
  const next = rangeMean(period);
  const out = new Float64Array(series.length);
  for (let i = 0; i < out.length; i++) out[i] = next(series, i);
  return out;
}

/** "of" is taken for the sake of one shape with the averages; ranges are always of high, low and close. */
export const atrStudy: Study = {
  name: "atr",
  title: "Average true range",
  short: "ATR",
  says: "average true range in price units (Wilder 1978)",
  source: "J. W. Wilder, New Concepts in Technical Trading Systems, 1978",
  parameters: [whole("period", 14), OF],
  lines: [{ name: "value", unit: "price" }],
  place: "own",
  begin: ({ period }) => ofBars(rangeMean(period as number)),
};
