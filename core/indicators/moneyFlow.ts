import type { Series } from "#core/series/series";

/**
 * Money flow index, 0 to 100: of the last `period` bars' typical price times volume, the share on which that price rose
 * (G. Quong and A. Soudack, 1989; from memory). Whether it rose is asked of H + L + C in whole ticks, whose third it
 * is.
 * First defined at index `period`; 50 where nothing flowed either way.
 */
export function moneyFlow({ high, low, close, volume, length }: Series, period: number, tick: number): Float64Array {
  const out = new Float64Array(length).fill(NaN);
  const flow = new Float64Array(length);
  const sumAt = (i: number) => high[i] + low[i] + close[i];
  for (let i = 1; i < length; i++)
    flow[i] = Math.sign(Math.round((sumAt(i) - sumAt(i - 1)) / tick)) * (sumAt(i) / 3) * volume[i];
  for (let i = period; i < length; i++) {
    let [gained, lost] = [0, 0];
    for (let n = i - period + 1; n <= i; n++)
      if (flow[n] > 0) gained += flow[n];
      else lost -= flow[n];
    out[i] = gained + lost === 0 ? 50 : (100 * gained) / (gained + lost);
  }
  return out;
}
