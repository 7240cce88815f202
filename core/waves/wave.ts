import { PATTERNS, type Pattern } from "#core/waves/patterns";

/** A turn a wave starts or ends at: `time` in ms UTC of its bar, price of its extreme. */
export interface Pivot {
  time: number;
  price: number;
}

/**
 * A wave and what it is made of. `pivots` holds its start and the ends of its finished waves, at most one more than the
 * pattern has waves; fewer means that the wave after the last pivot is in progress. `inner[i]` is what is said of its
 * wave i, one degree lower, from pivot i to pivot i + 1, or from pivot i on when that one is in progress.
 */
export interface Wave {
  pattern: Pattern;
  pivots: readonly Pivot[];
  inner: readonly (Wave | undefined)[];
}

/** How lengths are measured: as differences of prices or of their logarithms. */
export type LengthScale = "arithmetic" | "log";

export const SCALES = {
  arithmetic: { on: (price: number) => price, off: (value: number) => value },
  log: { on: Math.log, off: Math.exp },
} as const;

export function isComplete({ pattern, pivots }: Pick<Wave, "pattern" | "pivots">): boolean {
  return pivots.length === PATTERNS[pattern].labels.length + 1;
}

/** 1 when it goes up, -1 when down; by its first wave, upward when that has not begun. */
export function directionOf(pivots: readonly Pivot[]): 1 | -1 {
  return pivots.length > 1 && pivots[1].price < pivots[0].price ? -1 : 1;
}

/** The wave in progress within a wave, counted from 0; undefined when it is complete. */
export function inProgress(wave: Wave): number | undefined {
  return isComplete(wave) ? undefined : wave.pivots.length - 1;
}

export interface Placed {
  wave: Wave;
  /** Waves (from 0) that lead to it from the root: [2, 0] is the first of the third. */
  at: readonly number[];
}

/** A wave and all inside it, parents first. */
export function allWaves(wave: Wave, at: readonly number[] = []): Placed[] {
  return [{ wave, at }, ...wave.inner.flatMap((inner, i) => (inner ? allWaves(inner, [...at, i]) : []))];
}

/** From the root down along the waves in progress; of a complete root the root alone. */
export function spine(root: Wave): Placed[] {
  const out: Placed[] = [{ wave: root, at: [] }];
  for (;;) {
    const { wave, at } = out[out.length - 1];
    const open = inProgress(wave);
    const inner = open === undefined ? undefined : wave.inner[open];
    if (open === undefined || !inner) return out;
    out.push({ wave: inner, at: [...at, open] });
  }
}
