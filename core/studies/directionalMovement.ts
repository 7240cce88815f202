import { trueRange } from "#core/studies/atr";
import { whole, type Study } from "#core/studies/study";

/**
 * Directional movement (J. W. Wilder, New Concepts in Technical Trading Systems, 1978). Of the moves of the high up and
 * of the low down only the larger counts, and neither when they are equal: they are compared in whole ticks, since on
 * prices with decimals plain differences miss a tie. Averages begin with the mean of the first `period` moves, counted
 * from the second bar; the indicators are defined from index `period`, the index of direction from 2 x period - 1.
 */
export const directionalMovementStudy: Study = {
  name: "directionalMovement",
  title: "Directional movement",
  short: "DMI",
  says: "directional indicators and their average index, 0 to 100 (Wilder 1978)",
  source: "J. W. Wilder, New Concepts in Technical Trading Systems, 1978",
  parameters: [whole("period", 14)],
  lines: [
    { name: "plus", unit: "hundred" },
    { name: "minus", unit: "hundred", ink: "second" },
    { name: "adx", unit: "hundred", ink: "third" },
  ],
  place: [0, 100],
  levels: [25],
  against: ["plus", "minus"],
  begin({ period: given }, { tick }) {
    const period = given as number;
    let [up, down, range, adx] = [0, 0, 0, 0];
    const out = [NaN, NaN, NaN];
    return (bars, i) => {
      if (i === 0) return out;
      const { high, low } = bars;
      const rise = Math.round((high[i] - high[i - 1]) / tick);
      const fall = Math.round((low[i - 1] - low[i]) / tick);
      const risen = rise > fall && rise > 0 ? high[i] - high[i - 1] : 0;
      const fallen = fall > rise && fall > 0 ? low[i - 1] - low[i] : 0;
      const first = i <= period;
      up += (risen - (first ? 0 : up)) / period;
      down += (fallen - (first ? 0 : down)) / period;
      range += (trueRange(bars, i) - (first ? 0 : range)) / period;
      if (i < period) return out;
      const [plus, minus] = range === 0 ? [0, 0] : [(100 * up) / range, (100 * down) / range];
      const direction = plus + minus === 0 ? 0 : (100 * Math.abs(plus - minus)) / (plus + minus);
      adx += (direction - (i < 2 * period ? 0 : adx)) / period;
      [out[0], out[1], out[2]] = [plus, minus, i >= 2 * period - 1 ? adx : NaN];
      return out;
    };
  },
};
