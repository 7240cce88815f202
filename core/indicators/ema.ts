/**
 * Exponential moving average with factor 2 / (period + 1), seeded with the mean of the first `period` values;
 * NaN before. Leading NaN of the input (another indicator's warm-up) are passed over.
 */
export function ema(values: Float64Array, period: number): Float64Array {
  const out = new Float64Array(values.length).fill(NaN);
  let start = 0;
  while (start < values.length && Number.isNaN(values[start])) start++;
  if (start + period > values.length) return out;
  let sum = 0;
  for (let i = start; i < start + period; i++) sum += values[i];
  const factor = 2 / (period + 1);
  let value = sum / period;
  out[start + period - 1] = value;
  for (let i = start + period; i < values.length; i++) {
    value += factor * (values[i] - value);
    out[i] = value;
  }
  return out;
}
