import { erfc } from "#core/statistics/erfc";
import { medianOf } from "#core/statistics/median";

/** Returns of one key: a month of the year, a day of the week. Shares; `error` is that of the mean. */
export interface Season {
  key: number;
  n: number;
  mean: number;
  median: number;
  /** Share of returns above 0. */
  rises: number;
  /** Of the sample; from two returns on. */
  deviation?: number;
  error?: number;
  /** Chance of a mean as far from that of all returns, two-sided, were the keys dealt out at random. */
  p?: number;
  /** The same, allowing for how many keys were asked. */
  adjusted?: number;
}

/**
 * Returns by key, keys rising. `p` is by the moments of a permutation, large-sample (E. J. G. Pitman, 1937, from
 * memory), `adjusted` by Bonferroni; both are absent where one key holds everything or nothing ever moved. Sums of
 * squares are taken about the mean.
 */
export function seasonality(returns: readonly { key: number; value: number }[]): Season[] {
  const all = returns.map(({ value }) => value);
  const total = meanOf(all);
  const variance = squares(all, total) / all.length;
  const keys = [...new Set(returns.map(({ key }) => key))].sort((a, b) => a - b);
  const seasons = keys.map((key) => {
    const own = returns.flatMap((one) => (one.key === key ? [one.value] : []));
    return { key, ...figuresOf(own), ...chanceOf(own, { total, variance, of: all.length }) };
  });
  const asked = seasons.filter(({ p }) => p !== undefined).length;
  return seasons.map((season) =>
    season.p === undefined ? season : { ...season, adjusted: Math.min(1, season.p * asked) },
  );
}

const meanOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
const squares = (values: readonly number[], mean: number) =>
  values.reduce((sum, value) => sum + (value - mean) ** 2, 0);

function figuresOf(own: readonly number[]): Omit<Season, "key" | "p" | "adjusted"> {
  const n = own.length;
  const mean = meanOf(own);
  const figures = { n, mean, median: medianOf(own), rises: own.filter((value) => value > 0).length / n };
  if (n < 2) return figures;
  const deviation = Math.sqrt(squares(own, mean) / (n - 1));
  return { ...figures, deviation, error: deviation / Math.sqrt(n) };
}

function chanceOf(
  own: readonly number[],
  { total, variance, of }: { total: number; variance: number; of: number },
): { p?: number } {
  const n = own.length;
  if (n === of || variance === 0) return {};
  const z = (meanOf(own) - total) / Math.sqrt(((variance / n) * (of - n)) / (of - 1));
  return { p: erfc(Math.abs(z) / Math.SQRT2) };
}
