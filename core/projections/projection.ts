import type { Point } from "#core/projections/retracement";

/** Multiples in common use; common practice, no source. */
export const PROJECTION_RATIOS = [0.618, 1, 1.618, 2.618];

/**
 * Prices at multiples of the leg `from` -> `to`, laid off from a third point: ratio 0 is `origin` itself, 1 an equal
 * leg.
 */
export function projection(from: Point, to: Point, origin: Point, ratios: readonly number[] = PROJECTION_RATIOS) {
  return ratios.map((ratio) => ({ ratio, price: origin.price + ratio * (to.price - from.price) }));
}
