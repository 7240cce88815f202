import type { Scale } from "../scale.ts";

/** Points a line is drawn with where the axis bends it. */
const BENDS = 24;
/** Places along a line that its name may stand at. */
const PLACES = 40;

/**
 * A line straight in bars, from bar `start` to the right edge, and where its name goes: as far right as it is still in
 * sight.
 */
export function straight(
  scale: Scale,
  start: number,
  valueAt: (index: number) => number,
): { path: number[]; label: { x: number; y: number } } | undefined {
  const { plot, view } = scale;
  const from = Math.max(start, view.from);
  const { to } = view;
  if (to <= from) return undefined;
  const steps = view.log ? BENDS : 1;
  const path = Array.from({ length: steps + 1 }, (_, i) => from + ((to - from) * i) / steps).flatMap((index) => [
    scale.x(index),
    scale.y(valueAt(index)),
  ]);
  const places = Array.from({ length: PLACES }, (_, i) => to - ((to - from) * (i + 1)) / (PLACES + 1));
  const inSight = (index: number) =>
    scale.y(valueAt(index)) > plot.top + 20 && scale.y(valueAt(index)) < plot.top + plot.height;
  const right = places.find(inSight) ?? to;
  return { path, label: { x: scale.x(right), y: scale.y(valueAt(right)) - 5 } };
}
