/**
 * Round numbers of a market near a price: multiples of the smallest 1, 2 or 5 times a power of ten that is at least
 * `apart` (price units; two ATR is usual), within `reach` of the price, from low to high. That round numbers count as
 * levels is common practice, no source; which ones is our own definition, so that they stay as far apart as price
 * moves.
 */
export function roundNumbers(price: number, apart: number, reach: number): number[] {
  if (!(apart > 0) || !(reach >= 0) || !Number.isFinite(price)) return [];
  const power = Math.floor(Math.log10(apart));
  const [factor, exponent] = (
    [
      [1, power],
      [2, power],
      [5, power],
      [1, power + 1],
    ] as const
  ).find(([f, e]) => f * 10 ** e >= apart * (1 - 1e-12)) ?? [1, power + 1];
  // Counted in whole steps and divided, so that 0.3 is 0.3.
  const scale = 10 ** Math.abs(exponent);
  const value = (n: number) => (exponent < 0 ? (n * factor) / scale : n * factor * scale);
  const step = value(1);
  const out: number[] = [];
  for (let n = Math.ceil((price - reach) / step); value(n) <= price + reach; n++) if (value(n) > 0) out.push(value(n));
  return out;
}
