/**
 * Highest value of the last `period` at each place; NaN before there are that many. Each value is looked at twice at
 * most.
 */
export function highest(values: Float64Array, period: number): Float64Array {
  const out = new Float64Array(values.length).fill(NaN);
  // Places whose values may still become the highest, from the highest on down.
  const waiting = new Int32Array(values.length);
  let [head, tail] = [0, 0];
  for (let i = 0; i < values.length; i++) {
    while (tail > head && values[waiting[tail - 1]] <= values[i]) tail--;
    waiting[tail++] = i;
    if (waiting[head] <= i - period) head++;
    if (i >= period - 1) out[i] = values[waiting[head]];
  }
  return out;
}

/** The same of the lowest. */
export function lowest(values: Float64Array, period: number): Float64Array {
  return highest(
    values.map((value) => -value),
    period,
  ).map((value) => -value);
}
