import type { Span } from "#core/waves/spans";
import { isComplete, type Wave } from "#core/waves/wave";
import { PATTERNS } from "#core/waves/patterns";

/** Counts whose odds are within this factor of the first's are not told apart (definition our own). */
const CLOSE = 1.5;

/** How far the evidence of a span tells its counts apart. */
export interface Separation {
  /** The first counts that nothing tells apart, the first itself among them; 0 where there is none at all. */
  alike: number;
  /** The price that parts the first from the next, where there is one. */
  at?: number;
  /** Whether that none of them holds is likelier than the first. */
  noneFirst: boolean;
}

export function separationOf({ counts, none }: Pick<Span, "counts" | "none">): Separation {
  const first = counts.at(0);
  if (!first) return { alike: 0, noneFirst: true };
  const further = counts.findIndex(({ odds }) => odds * CLOSE < first.odds);
  return {
    alike: further < 0 ? counts.length : further,
    ...(first.parts === undefined ? {} : { at: first.parts }),
    noneFirst: none > first.odds,
  };
}

/**
 * The wave of a larger count whose inside a smaller one is: it begins where the wave in progress of the larger one, or
 * of that wave's own inside, begins, and is of a pattern that wave may have. As labels from the root down; nothing
 * where it fits nowhere.
 */
export function insideOfCount(larger: Wave, smaller: Wave): string[] | undefined {
  const path: string[] = [];
  for (let wave: Wave | undefined = larger; wave && !isComplete(wave);) {
    const running: number = wave.pivots.length - 1;
    const { labels, children } = PATTERNS[wave.pattern];
    path.push(labels[running]);
    const start = wave.pivots[running];
    const [own] = smaller.pivots;
    if (start.time === own.time && start.price === own.price && children[running].includes(smaller.pattern))
      return path;
    wave = wave.inner[running];
  }
  return undefined;
}
