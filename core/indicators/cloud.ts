import { highest, lowest } from "#core/indicators/extremes";
import type { Series } from "#core/series/series";

export interface Cloud {
  conversion: Float64Array;
  base: Float64Array;
  spanA: Float64Array;
  spanB: Float64Array;
}

/**
 * Middles of the ranges of 9, 26 and 52 bars (G. Hosoda, 1969): conversion, base, the middle of the two (span A) and
 * the longest (span B), each at the bar it is computed on. On a chart the spans are compared 26 bars later.
 */
export function cloud(series: Series, conversion = 9, base = 26, span = 52): Cloud {
  const middle = (period: number) => {
    const bottom = lowest(series.low, period);
    return highest(series.high, period).map((top, i) => (top + bottom[i]) / 2);
  };
  const [quick, calm] = [middle(conversion), middle(base)];
  return { conversion: quick, base: calm, spanA: quick.map((value, i) => (value + calm[i]) / 2), spanB: middle(span) };
}
