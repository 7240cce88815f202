import { bisector } from "d3-array";
import type { RungReader } from "#core/finding/reader";
import { edgesOfBand, signOf, type BandAtBirth } from "#core/measure/measured";
import type { JudgedBars } from "#core/measure/outcomes";
import type { Series } from "#core/series/series";
import type { StructureEvent } from "#core/structure/structure";

/** Bars that features are read from. */
export type FeatureBars = Series & JudgedBars;

/** Bars that are looked back on: for the move towards or away, for the place, and for a break just before. */
const MOVE = 20;
const PLACE = 100;
const BREAK = 10;

/**
 * What is known of a band at its `knownAt` bar, in ATR of that bar or as shares, mirrored for supply: `width`,
 * `distance` of the close from the near edge, `move` of the last 20 bars away from it (over the square root of their
 * number), `place` of the near edge in the prices of the last 100 bars (0: at the far end of them), `trend` (1 with the
 * last break or shift of structure, -1 against it), `broke` (whether one its way came within ten bars), `volatility`
 * (ATR against its mean of 100 bars), `volume` (of the bar against 20 before). What is not defined is not there.
 */
export function featuresAt(
  { structure }: Pick<RungReader, "structure">,
  bars: FeatureBars,
): (band: BandAtBirth) => Record<string, number> {
  const events = structure.events.filter(({ event, inner }) => event === "shift" || (event === "break" && !inner));
  return (band) => {
    const { knownAt: k, side } = band;
    const { high, low, close, volume, atr } = bars;
    const [sign, unit, { near }] = [signOf(side), atr[k], edgesOfBand(band)];
    const features: Record<string, number> = {
      width: (band.top - band.bottom) / unit,
      distance: (sign * (close[k] - near)) / unit,
    };
    if (k >= MOVE) features.move = (sign * (close[k] - close[k - MOVE])) / (unit * Math.sqrt(MOVE));
    const from = Math.max(0, k - PLACE + 1);
    let [bottom, top, ranges, counted] = [Infinity, -Infinity, 0, 0];
    for (let i = from; i <= k; i++) {
      bottom = Math.min(bottom, low[i]);
      top = Math.max(top, high[i]);
      if (atr[i] > 0) [ranges, counted] = [ranges + atr[i], counted + 1];
    }
    if (top > bottom) features.place = (sign > 0 ? near - bottom : top - near) / (top - bottom);
    if (ranges > 0) features.volatility = (unit * counted) / ranges;
    const last = lastBy(events, k);
    if (last) {
      const isWith = (last.direction === "up") === sign > 0;
      features.trend = isWith ? 1 : -1;
      features.broke = isWith && k - last.at <= BREAK ? 1 : 0;
    }
    let traded = 0;
    for (let i = Math.max(0, k - MOVE); i < k; i++) traded += volume[i] || 0;
    if (k >= MOVE && traded > 0) features.volume = ((volume[k] || 0) * MOVE) / traded;
    return features;
  };
}

const { right: byBar } = bisector(({ at }: StructureEvent) => at);

/** The last event at or before a bar. */
function lastBy(events: readonly StructureEvent[], k: number): StructureEvent | undefined {
  return events[byBar(events, k) - 1];
}
