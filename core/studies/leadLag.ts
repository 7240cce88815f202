/** How returns of one market go with another's so many bars later; above 0 the own market leads. */
export interface Lag {
  lag: number;
  value: number;
  /** Pairs it is of. */
  n: number;
  /** Half the width within which chance alone leaves 95 of 100, and whether it lies outside. */
  band: number;
  outside: boolean;
}

/** Normal point of 95 %, two-sided. */
const Z = 1.959963984540054;

/**
 * Cross-correlation of two columns of returns at lags from -lags to lags, means and squares over all of them (G. E. P.
 * Box and G. M. Jenkins, 1970; from memory). Nothing where there are too few, or one does not move. O(lags n).
 */
export function leadLag(x: ArrayLike<number>, y: ArrayLike<number>, lags: number): Lag[] {
  const n = x.length;
  if (n < lags + 2) return [];
  const [own, other] = [centred(x), centred(y)];
  const squares = (values: Float64Array) => values.reduce((sum, value) => sum + value * value, 0);
  const scale = Math.sqrt(squares(own) * squares(other));
  if (!(scale > 0)) return [];
  const band = Z / Math.sqrt(n);
  return Array.from({ length: 2 * lags + 1 }, (_, place): Lag => {
    const lag = place - lags;
    let sum = 0;
    for (let t = Math.max(0, -lag); t < Math.min(n, n - lag); t++) sum += own[t] * other[t + lag];
    const value = sum / scale;
    return { lag, value, n: n - Math.abs(lag), band, outside: Math.abs(value) > band };
  });
}

function centred(values: ArrayLike<number>): Float64Array {
  const all = Float64Array.from(values);
  let mean = 0;
  for (const value of all) mean += value / all.length;
  return all.map((value) => value - mean);
}
