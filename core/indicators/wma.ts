/**
 * Windows summed afresh after so many steps: what rounding a running sum gathers stays far below the last digits shown.
 */
const AFRESH = 256;

/** Moving average with weights 1 to `period`, the newest value the heaviest; NaN before there are that many. */
export function wma(values: Float64Array, period: number): Float64Array {
  const out = new Float64Array(values.length).fill(NaN);
  const weights = (period * (period + 1)) / 2;
  let sum = 0;
  let weighted = 0;
  for (let i = period - 1; i < values.length; i++) {
    if ((i - period + 1) % AFRESH === 0) {
      sum = weighted = 0;
      for (let n = 0; n < period; n++) {
        const value = values[i - period + 1 + n];
        sum += value;
        weighted += (n + 1) * value;
      }
    } else {
      weighted += period * values[i] - sum;
      sum += values[i] - values[i - period];
    }
    out[i] = weighted / weights;
  }
  return out;
}
