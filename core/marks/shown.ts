import type { Mark } from "#core/marks/kind";
import { nominalLength, parseTimeframe } from "#core/time/timeframe";

/** What is left out of the charts; marks that are left out live on and stand in the Sheet. */
export interface Shown {
  /** Kinds that are left out. */
  without: readonly string[];
  /** Whether marks of higher rungs are shown on lower ones. */
  higher: boolean;
  /** Whether what is broken, used up or dead is shown. */
  dead: boolean;
}

export const EVERYTHING: Shown = { without: [], higher: true, dead: true };

/** Whether a chart of `rung` shows a mark: its own rung's and, if wanted, those of higher ones; never a hidden one. */
export function isShown(
  mark: Pick<Mark, "kind" | "rung" | "hidden">,
  dead: boolean,
  rung: string,
  { without, higher, dead: withDead }: Shown,
): boolean {
  if (mark.hidden || without.includes(mark.kind) || (dead && !withDead)) return false;
  return mark.rung === rung || (higher && lengthOf(mark.rung) >= lengthOf(rung));
}

/** How long a rung's bars nominally are; one that cannot be read is shorter than all. */
export function lengthOf(rung: string): number {
  const timeframe = parseTimeframe(rung);
  return timeframe ? nominalLength(timeframe) : 0;
}
