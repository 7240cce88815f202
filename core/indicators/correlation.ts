import type { Series } from "#core/series/series";

/** The closes of two series at the times they have in common. */
export function aligned(a: Series, b: Series): { time: Float64Array; a: Float64Array; b: Float64Array } {
  const places: [number, number][] = [];
  for (let i = 0, n = 0; i < a.length && n < b.length;)
    if (a.time[i] === b.time[n]) places.push([i++, n++]);
    else if (a.time[i] < b.time[n]) i++;
    else n++;
  return {
    time: Float64Array.from(places, ([i]) => a.time[i]),
    a: Float64Array.from(places, ([i]) => a.close[i]),
    b: Float64Array.from(places, ([, n]) => b.close[n]),
  };
}

/** Simple returns; the first value has none. */
export function returns(values: Float64Array): Float64Array {
  return values.map((value, i) => (i === 0 ? NaN : value / values[i - 1] - 1));
}

/**
 * Rolling coefficient of correlation (K. Pearson, 1895) of the last `period` simple returns of two columns of prices of
 * the same times; first defined at index `period`, NaN where one of the two did not move at all.
 */
export function correlation(a: Float64Array, b: Float64Array, period: number): Float64Array {
  const out = new Float64Array(a.length).fill(NaN);
  const [left, right] = [returns(a), returns(b)];
  for (let i = period; i < a.length; i++) {
    let [meanLeft, meanRight] = [0, 0];
    for (let n = i - period + 1; n <= i; n++) {
      meanLeft += left[n] / period;
      meanRight += right[n] / period;
    }
    let [both, ofLeft, ofRight] = [0, 0, 0];
    for (let n = i - period + 1; n <= i; n++) {
      const [x, y] = [left[n] - meanLeft, right[n] - meanRight];
      both += x * y;
      ofLeft += x * x;
      ofRight += y * y;
    }
    if (ofLeft > 0 && ofRight > 0) out[i] = both / Math.sqrt(ofLeft * ofRight);
  }
  return out;
}
