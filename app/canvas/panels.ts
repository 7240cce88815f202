import type { Plot } from "../../chart/scale.ts";
import type { Point } from "./gestures.ts";

/** Pixels about a panel's upper edge within which it is taken hold of. */
const EDGE = 4;

/** Whether a point lies beneath the prices: none is meant there. */
export function isBeneath({ top, height, below }: Plot, { y }: Point): boolean {
  return below !== undefined && y > top + height;
}

/** The panel, counted from the prices down, whose upper edge is at a point. */
export function panelEdgeAt({ top, height, below = [] }: Plot, { y }: Point): number | undefined {
  let edge = top + height;
  for (let n = 0; n < below.length; n++) {
    if (Math.abs(y - edge) <= EDGE) return n;
    edge += below[n];
  }
  return undefined;
}

/** Height a panel has when its upper edge is put to a point and its lower one stays. */
export function heightTo({ top, height, below = [] }: Plot, panel: number, { y }: Point): number {
  return below.slice(0, panel + 1).reduce((sum, one) => sum + one, top + height) - y;
}
