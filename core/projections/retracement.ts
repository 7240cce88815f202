export interface Point {
  time: number;
  price: number;
}

/** Ratios in common use; each analyst changes them. Common practice, no source. */
export const RETRACEMENT_RATIOS = [0.236, 0.382, 0.5, 0.618, 0.764];

/**
 * Prices within (and, past 1, beyond) the leg `from` -> `to`, counted back from its end: in an up-leg down from
 * the high, in a down-leg up from the low. Ratio 0 is the leg's end, 1 its start.
 */
export function retracement(from: Point, to: Point, ratios: readonly number[] = RETRACEMENT_RATIOS) {
  return ratios.map((ratio) => ({ ratio, price: to.price - ratio * (to.price - from.price) }));
}

/** Anchors of a retracement in order of time: the leg runs from the earlier to the later. */
export function legOf(a: Point, b: Point): { from: Point; to: Point; direction: "up" | "down" } {
  const [from, to] = a.time <= b.time ? [a, b] : [b, a];
  return { from, to, direction: to.price >= from.price ? "up" : "down" };
}
