export interface Bands {
  middle: Float64Array;
  upper: Float64Array;
  lower: Float64Array;
}

/**
 * A simple average and bands so many population standard deviations of the same window away from it (J. Bollinger, from
 * memory). Each window is taken afresh, in two passes: a running sum of squares loses what quiet windows are made of.
 */
export function bollinger(values: Float64Array, period = 20, deviations = 2): Bands {
  const column = () => new Float64Array(values.length).fill(NaN);
  const out = { middle: column(), upper: column(), lower: column() };
  for (let i = period - 1; i < values.length; i++) {
    let sum = 0;
    for (let n = i - period + 1; n <= i; n++) sum += values[n];
    const mean = sum / period;
    let squares = 0;
    for (let n = i - period + 1; n <= i; n++) squares += (values[n] - mean) ** 2;
    const reach = deviations * Math.sqrt(squares / period);
    out.middle[i] = mean;
    out.upper[i] = mean + reach;
    out.lower[i] = mean - reach;
  }
  return out;
}
