/**
 * Relative strength index, 0 to 100 (J. W. Wilder, New Concepts in Technical Trading Systems, 1978): average
 * gain over average gain plus loss, both seeded with the mean of the first `period` changes and smoothed by
 * 1 / period. First defined at index `period`. With neither gain nor loss there is no strength either way: 50.
 */
export function rsi(values: Float64Array, period: number): Float64Array {
  const out = new Float64Array(values.length).fill(NaN);
  let gain = 0;
  let loss = 0;
  for (let i = 1; i < values.length; i++) {
    const change = values[i] - values[i - 1];
    const up = change > 0 ? change : 0;
    const down = change < 0 ? -change : 0;
    if (i <= period) {
      gain += up / period;
      loss += down / period;
    } else {
      gain += (up - gain) / period;
      loss += (down - loss) / period;
    }
    if (i >= period) out[i] = gain + loss === 0 ? 50 : (100 * gain) / (gain + loss);
  }
  return out;
}
