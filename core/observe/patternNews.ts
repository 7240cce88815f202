import type { PatternDetector } from "#core/patterns/detector";
import type { PatternName } from "#core/patterns/registry";

/** What a close did to a pattern that was left one way. */
export interface PatternNews {
  name: PatternName;
  way: 1 | -1;
  event: "confirmed" | "retested" | "met" | "failed";
  /** The line it was left at, and what follows from it. */
  line: number;
  stop: number;
  /** Absent where it would lie at or below 0. */
  target?: number;
}

/** What bar `i`, the last one its detector was told, did to the patterns it follows. */
export function patternNews({ changed }: Pick<PatternDetector, "changed">, i: number): PatternNews[] {
  return changed.flatMap(({ name, life }): PatternNews[] => {
    const { way, broke: line, stop, target, state, confirmedAt, retestedAt, endedAt } = life;
    if (way === undefined || line === undefined || stop === undefined) return [];
    const told = { name, way, line, stop, ...(target === undefined ? {} : { target }) };
    if (endedAt === i) return [{ ...told, event: state === "met" ? "met" : "failed" }];
    if (confirmedAt === i) return [{ ...told, event: "confirmed" }];
    return retestedAt === i ? [{ ...told, event: "retested" }] : [];
  });
}
