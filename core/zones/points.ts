import { bisector } from "d3-array";
import type { BandState } from "#core/levels/band";
import type { RungReader } from "#core/finding/reader";
import { rangeOfTrend, standingIn } from "#core/structure/range";
import type { StructureEvent, Way } from "#core/structure/structure";
import type { FoundZone } from "#core/zones/bases";

/** A leg may break structure or leave a gap within this many bars after the base. */
const LEG = 10;

type Side = "demand" | "supply";

/** How used a band is, 0 to 1: each touch takes a third, as does depth (common practice, no source). */
export function usedShare({ status, touches, deepest }: BandState): number {
  return status === "broken" || status === "spent" ? 1 : Math.min(1, Math.max(touches / 3, deepest));
}

/** Whether the leg out of a band that ended at bar `to` broke or shifted structure. */
export function brokeStructure(events: readonly StructureEvent[], side: Side, to: number): boolean {
  const way: Way = side === "demand" ? "up" : "down";
  const broke = (event: StructureEvent) =>
    event.direction === way && (event.event === "shift" || (event.event === "break" && !event.inner));
  return someAt(events, to + 1, to + LEG, broke);
}

/** Whether that leg left a fair value gap its way. */
export function leftGap(gaps: readonly { at: number; direction: Way }[], side: Side, to: number): boolean {
  const way: Way = side === "demand" ? "up" : "down";
  return someAt(gaps, to + 2, to + LEG, (gap) => gap.direction === way);
}

const { left: byBar } = bisector(({ at }: { at: number }) => at);

/** Whether one of a list in order of `at` lies within [from, to] and passes. */
function someAt<T extends { at: number }>(
  list: readonly T[],
  from: number,
  to: number,
  passes: (one: T) => boolean,
): boolean {
  for (let n = byBar(list, from); n < list.length && list[n].at <= to; n++) if (passes(list[n])) return true;
  return false;
}

/**
 * Points of a zone, 0 to 100, as a checklist of the trade gives them (common practice, no source): departure, length of
 * the base, freshness, whether the leg broke structure and left a gap, place in the range; what cannot be judged counts
 * neither way. They say nothing of what it was worth (`core/measure/`), and no page shows them.
 */
export function pointsOf({ structure, gaps, params }: RungReader, zone: FoundZone): number {
  const { side, bottom, top, from, to, departure, life } = zone;
  const range = structure.trend && rangeOfTrend(structure.trend);
  const stands = range && standingIn(range, (bottom + top) / 2);
  const parts: [share: number, weight: number][] = [
    [between(departure, params.departure / 2, 4), 25],
    [between(to - from + 1, 8, 1), 10],
    [1 - usedShare(life.state), 20],
    [brokeStructure(structure.events, side, to) ? 1 : 0, 15],
    [leftGap(gaps.found, side, to) ? 1 : 0, 10],
  ];
  if (stands) parts.push([side === "demand" ? between(stands.share, 0.8, 0.2) : between(stands.share, 0.2, 0.8), 10]);
  const most = parts.reduce((sum, [, weight]) => sum + weight, 0);
  return Math.round((100 * parts.reduce((sum, [share, weight]) => sum + share * weight, 0)) / most);
}

/** 0 at `from` and below, 1 at `to` and above, straight between; `from` may be the larger. */
function between(value: number, from: number, to: number): number {
  return Math.min(1, Math.max(0, (value - from) / (to - from)));
}
