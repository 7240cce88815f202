/**
 * Simple moving average: the mean of the last `period` values, NaN before there are that many.
 * A running sum kept exact against drift by Neumaier's compensation, so that a long quiet tail after a spike
 * comes out as if each window were summed afresh (to the last bits).
 */
export function sma(values: Float64Array, period: number): Float64Array {
  const out = new Float64Array(values.length).fill(NaN);
  let sum = 0;
  let lost = 0;
  for (let i = 0; i < values.length; i++) {
    const entering = values[i];
    const grown = sum + entering;
    lost += Math.abs(sum) >= Math.abs(entering) ? sum - grown + entering : entering - grown + sum;
    sum = grown;
    if (i >= period) {
      const leaving = values[i - period];
      const shrunk = sum - leaving;
      lost += Math.abs(sum) >= Math.abs(leaving) ? sum - shrunk - leaving : -leaving - shrunk + sum;
      sum = shrunk;
    }
    if (i >= period - 1) out[i] = (sum + lost) / period;
  }
  return out;
}
