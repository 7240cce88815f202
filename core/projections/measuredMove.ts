import type { Series } from "#core/series/series";
import type { Point } from "#core/projections/retracement";

/** A multiple of one leg laid off from a third point, and the bar that reached it. */
export interface MeasuredMove {
  ratio: number;
  price: number;
  /** From the third point, as a share of its price. */
  change: number;
  /** Label of the first bar after the third point that reached it, and which bar after it that is, from 1. */
  metAt?: number;
  bars?: number;
}

export interface Move {
  a: Point;
  b: Point;
  c: Point;
  ratios: readonly number[];
  scale: "arithmetic" | "log";
  /** As far before the price as counts as reaching it, in price units. */
  tolerance: number;
}

/** A price within a thousandth of a tick of another reaches it. */
const NEARLY = 1e-3;

/**
 * Multiples of the leg a to b laid off from c (common practice, no source): c + ratio (b - a) or, on the log scale,
 * c (b / a)^ratio. A price that is not above 0 is left out. Throws a RangeError with a sentence of points that are no
 * leg.
 */
export function measuredMove({ a, b, c, ratios, scale, tolerance }: Move, series?: Series, tick = 0): MeasuredMove[] {
  if (![a, b, c].every(({ price }) => price > 0)) throw new RangeError("Every price must be above 0.");
  if (a.price === b.price) throw new RangeError("The leg has no length: both ends have one price.");
  const sign = b.price > a.price ? 1 : -1;
  const reach = tolerance + NEARLY * tick;
  return ratios.flatMap((ratio): MeasuredMove[] => {
    const price = scale === "log" ? c.price * (b.price / a.price) ** ratio : c.price + ratio * (b.price - a.price);
    if (!(price > 0)) return [];
    const move: MeasuredMove = { ratio, price, change: price / c.price - 1 };
    if (!series) return [move];
    let bars = 0;
    for (let i = 0; i < series.length; i++) {
      if (series.time[i] <= c.time) continue;
      bars++;
      const met = sign > 0 ? series.high[i] >= price - reach : series.low[i] <= price + reach;
      if (met) return [{ ...move, metAt: series.time[i], bars }];
    }
    return [move];
  });
}
