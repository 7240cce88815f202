import type { Anchor } from "#core/marks/kind";
import type { Series } from "#core/series/series";
import { lastAtOrBefore } from "#core/series/series";

/** One line of a measuring mark: a price or a place in time, how it stands, and the bar that made it so. */
export interface MeasuredLine {
  name: string;
  price?: number;
  /** Bars of the mark's rung until it, counted from the last bar; negative where it has passed. */
  ahead?: number;
  state: "waiting" | "in force" | "met" | "negated" | "ahead" | "due" | "passed" | "overdue" | "stands" | "left";
  /** `time` of the bar that made the state; absent while nothing has happened to it. */
  at?: number;
}

/** Ratios of a leg in common use, beyond it and of the swing before; each analyst changes them. */
export const PROJECTION_RATIOS = [0.618, 1, 1.618, 2.618];
export const EXTENSION_RATIOS = [1.272, 1.618, 2, 2.618];
export const TIME_RATIOS = [0.382, 0.5, 0.618, 1, 1.618, 2, 2.618];

const MOST_RATIOS = 20;

/** Ratios from untrusted data, each above 0 and at most 50, rising and once; `undefined` if they are none. */
export function readRatios(raw: unknown, usual: readonly number[]): number[] | undefined {
  const ratios = raw ?? usual;
  if (!Array.isArray(ratios) || ratios.length === 0 || ratios.length > MOST_RATIOS) return undefined;
  if (!ratios.every((one) => typeof one === "number" && one > 0 && one <= 50)) return undefined;
  return [...new Set(ratios as number[])].sort((a, b) => a - b);
}

/** Bars from one instant to a later one, on the bars there are; 0 where they have none between. */
export function barsBetween(series: Series, from: number, to: number): number {
  return series.length === 0 ? 0 : indexAt(series, to) - indexAt(series, from);
}

export const indexAt = (series: Series, time: number) => Math.max(0, lastAtOrBefore(series, time));

/** Anchors in order of time, those of one instant as they were given. */
export const inOrder = (anchors: readonly Anchor[]): Anchor[] => [...anchors].sort((a, b) => a.time - b.time);

/** What is wrong with anchors that have to follow each other in time. */
export function outOfOrder(anchors: readonly Anchor[]): { sentence: string; anchor: number }[] {
  const at = anchors.findIndex(({ time }, i) => i > 0 && time <= anchors[i - 1].time);
  return at < 0 ? [] : [{ sentence: "Each anchor stands on a later bar than the one before.", anchor: at }];
}

/** What is wrong with two anchors that have to be a leg: one price, or no time between. */
export function noLeg(anchors: readonly Anchor[]): { sentence: string; anchor: number }[] {
  if (anchors[0].price === anchors[1].price) return [{ sentence: "Both ends of the leg have one price.", anchor: 1 }];
  return outOfOrder(anchors);
}
