import type { Series } from "#core/series/series";
import { coefficientOf, jointWindow } from "#core/studies/joint";

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
  const [left, right] = [returns(a), returns(b)];
  const window = jointWindow(period);
  return left.map((value, i) => {
    const sums = i === 0 ? undefined : window(value, right[i]);
    return sums ? coefficientOf(sums) : NaN;
  });
}
