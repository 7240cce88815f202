import { birthOf, type Mark, type MarkKind } from "#core/marks/kind";

export const DIRECTIONS = ["up", "down", "sideways"] as const;
export type Direction = (typeof DIRECTIONS)[number];

export interface BearingProps {
  direction: Direction;
  reasons: string;
}

const LONGEST = 500;

/** Which way a rung is held to go from a moment on, and why. Nothing happens to it: the next one takes its place. */
export const bearing: MarkKind<BearingProps, null> = {
  kind: "bearing",
  title: "Bearing",
  silent: true,
  anchors: { least: 1, most: 1 },
  readProps({ direction = "sideways", reasons = "" }) {
    const known = DIRECTIONS.find((one) => one === direction);
    return known && typeof reasons === "string" && reasons.length <= LONGEST
      ? { direction: known, reasons }
      : undefined;
  },
  check: () => [],
  start: () => null,
  advance: (_mark, state) => state,
  status: () => ({ code: "none", dead: false }),
  prices: () => [],
  say: ({ props: { direction, reasons } }) => `Bearing ${direction}${reasons.trim() ? `: ${reasons.trim()}` : ""}.`,
};

/** The newest bearing of each rung. */
export function bearingsOf(marks: readonly Mark[]): Map<string, Mark<BearingProps>> {
  const newest = new Map<string, Mark<BearingProps>>();
  for (const mark of marks) {
    if (mark.kind !== bearing.kind) continue;
    const before = newest.get(mark.rung);
    if (!before || birthOf(mark) > birthOf(before)) newest.set(mark.rung, mark as unknown as Mark<BearingProps>);
  }
  return newest;
}
