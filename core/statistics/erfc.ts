/** Terms of the series, and below which argument it is used. */
const TERMS = 120;
const SERIES = 2.5;

/**
 * The complementary error function, to a few units of the last digits: for small arguments 1 less the series of the
 * error function, for large ones the continued fraction (M. Abramowitz and I. A. Stegun, Handbook of Mathematical
 * Functions, 1964, 7.1.6 and 7.1.14).
 */
export function erfc(x: number): number {
  if (x < 0) return 2 - erfc(-x);
  if (x < SERIES) {
    let [term, sum] = [x, x];
    for (let n = 1; n < TERMS; n++) {
      term *= (2 * x * x) / (2 * n + 1);
      sum += term;
    }
    return 1 - (2 / Math.sqrt(Math.PI)) * Math.exp(-x * x) * sum;
  }
  let fraction = 0;
  for (let n = TERMS; n >= 1; n--) fraction = n / 2 / (x + fraction);
  return Math.exp(-x * x) / Math.sqrt(Math.PI) / (x + fraction);
}
