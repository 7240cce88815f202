import type { Side, Swing } from "#core/structure/swings";

export type SwingLabel = "HH" | "HL" | "LH" | "LL" | "EQ";

/**
 * A swing against the one before it on its side: higher high, higher low, lower high, lower low, or equal when the two
 * lie within `tolerance` (price units, inclusive). The first of a side has no label.
 */
export function labelOf(
  swing: Pick<Swing, "side" | "price">,
  before: Pick<Swing, "price"> | undefined,
  tolerance: number,
): SwingLabel | undefined {
  if (!before) return undefined;
  const move = swing.price - before.price;
  if (Math.abs(move) <= tolerance) return "EQ";
  const higher = move > 0;
  return swing.side === "high" ? (higher ? "HH" : "LH") : higher ? "HL" : "LL";
}

export interface LabelledSwing extends Swing {
  label?: SwingLabel;
}

/** Labels of swings in order; tolerance is `share` of the ATR known when the later one is confirmed. */
export function labelled(swings: readonly Swing[], atr: Float64Array, share = 0.1): LabelledSwing[] {
  const last: Partial<Record<Side, Swing>> = {};
  return swings.map((swing) => {
    const label = labelOf(swing, last[swing.side], share * atr[swing.knownAt]);
    last[swing.side] = swing;
    return label ? { ...swing, label } : swing;
  });
}
