import { trueRange } from "#core/indicators/atr";
import type { Series } from "#core/series/series";

export interface DirectionalMovement {
  /** Directional indicators, 0 to 100. */
  plus: Float64Array;
  minus: Float64Array;
  /** Average directional index, 0 to 100. */
  adx: Float64Array;
}

/**
 * Directional movement (J. W. Wilder, New Concepts in Technical Trading Systems, 1978). Of the moves of the high up and
 * of the low down only the larger counts, and neither when they are equal: they are compared in whole ticks, since on
 * prices with decimals plain differences miss a tie. Averages begin with the mean of the first `period` moves, counted
 * from the second bar; the indicators are defined from index `period`, the index of direction from 2 x period - 1.
 */
export function directionalMovement(series: Series, period: number, tick: number): DirectionalMovement {
  const { high, low, length } = series;
  const column = () => new Float64Array(length).fill(NaN);
  const out = { plus: column(), minus: column(), adx: column() };
  let [up, down, range, adx] = [0, 0, 0, 0];
  for (let i = 1; i < length; i++) {
    const rise = Math.round((high[i] - high[i - 1]) / tick);
    const fall = Math.round((low[i - 1] - low[i]) / tick);
    const risen = rise > fall && rise > 0 ? high[i] - high[i - 1] : 0;
    const fallen = fall > rise && fall > 0 ? low[i - 1] - low[i] : 0;
    const first = i <= period;
    up += (risen - (first ? 0 : up)) / period;
    down += (fallen - (first ? 0 : down)) / period;
    range += (trueRange(series, i) - (first ? 0 : range)) / period;
    if (i < period) continue;
    const [plus, minus] = range === 0 ? [0, 0] : [(100 * up) / range, (100 * down) / range];
    out.plus[i] = plus;
    out.minus[i] = minus;
    const direction = plus + minus === 0 ? 0 : (100 * Math.abs(plus - minus)) / (plus + minus);
    const seeding = i < 2 * period;
    adx += (direction - (seeding ? 0 : adx)) / period;
    if (i >= 2 * period - 1) out.adx[i] = adx;
  }
  return out;
}
