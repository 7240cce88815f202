import type { Plot, View } from "./scale.ts";

const EDGES = ["left", "top", "width", "height"] as const;
const ENDS = ["from", "to", "bottom", "top"] as const;

/**
 * What the places of a picture stand for, in one line that is kept with it: its plot's left and top edge, width and
 * height (pixels), the bar indices at its left and right, the prices at its bottom and top, and 1 for a log axis.
 */
export function scaleText({ plot, view }: { plot: Plot; view: View }): string {
  return [...EDGES.map((edge) => plot[edge]), ...ENDS.map((end) => view[end]), view.log ? 1 : 0].join(" ");
}

/** The same again; `undefined` of a line that says no scale. */
export function readScaleText(text: string): { plot: Plot; view: View } | undefined {
  const numbers = text.split(" ").map(Number);
  const [left, top, width, height, from, to, bottom, highest, log] = numbers;
  if (numbers.length !== 9 || !numbers.every(Number.isFinite) || width <= 0 || height <= 0) return undefined;
  if (to <= from || highest <= bottom) return undefined;
  return {
    plot: { left, top, width, height },
    view: { from, to, bottom, top: highest, ...(log === 1 ? { log: true } : {}) },
  };
}
