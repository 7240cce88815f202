import { highest, lowest } from "#core/indicators/extremes";
import { sma } from "#core/indicators/sma";
import type { Series } from "#core/series/series";

/**
 * Where the close stands in the range of the last `period` bars, 0 to 100, as a simple average of `smoothing` (`k`) and
 * an average of that over `signal` (`d`) (G. Lane, from memory). In a range without height it stands in the middle: 50.
 */
export function stochastic(
  series: Series,
  period = 14,
  smoothing = 3,
  signal = 3,
): { k: Float64Array; d: Float64Array } {
  const [top, bottom] = [highest(series.high, period), lowest(series.low, period)];
  const raw = series.close.map((close, i) =>
    top[i] > bottom[i] ? (100 * (close - bottom[i])) / (top[i] - bottom[i]) : Number.isNaN(top[i]) ? NaN : 50,
  );
  const k = averageOf(raw, smoothing);
  return { k, d: averageOf(k, signal) };
}

/** A simple average of what is defined; what comes before is passed over. */
function averageOf(values: Float64Array, period: number): Float64Array {
  const out = new Float64Array(values.length).fill(NaN);
  const start = values.findIndex((value) => !Number.isNaN(value));
  if (start >= 0) out.set(sma(values.subarray(start), period), start);
  return out;
}
