import { bisector } from "d3-array";
import { keyOf, nearestEachSide, type Draft } from "#core/finding/draft";
import type { RungReader } from "#core/finding/reader";
import { FRESH } from "#core/levels/band";
import type { FollowedBand } from "#core/levels/bands";
import type { StructureEvent, Way } from "#core/structure/structure";
import { rangeOfTrend, standingIn } from "#core/structure/range";
import type { FoundZone, PendingBase } from "#core/zones/bases";
import type { Base } from "#core/zones/edges";
import { between, type GradePart } from "#core/zones/grade";
import type { OrderBlock } from "#core/zones/orderBlocks";

/** How many of each sort are offered on each side of price: a chart with everything on it shows nothing. */
const MOST = { zones: 4, orderBlocks: 2, ranges: 2, gaps: 3, openingGaps: 2 };
/** A leg may break structure or leave a gap within this many bars after the base. */
const LEG = 10;

/** Zones, order blocks, ranges and gaps of a rung that are not used up, nearest to price first. */
export function zoneDrafts(reader: RungReader): Draft[] {
  const { track, bases, orderBlocks, ranges, gaps, openingGaps, params } = reader;
  if (track.length === 0) return [];
  const price = track.close[track.length - 1];
  const near = <T extends { bottom: number; top: number }>(list: readonly T[], most: number) =>
    nearestEachSide(list, price, most);
  const wide = (gap: { bottom: number; top: number; at: number }) =>
    gap.top - gap.bottom >= params.gap * track.atr[gap.at];
  return [
    ...near(
      bases.found.filter(({ life }) => isUseful(life)),
      MOST.zones,
    ).map((zone) => zoneDraft(reader, zone)),
    ...near(bases.pending(), 1).map((base) => pendingDraft(reader, base)),
    ...near(
      orderBlocks.found.filter(({ life }) => isUseful(life)),
      MOST.orderBlocks,
    ).map((block) => blockDraft(reader, block)),
    ...near(
      ranges.found.filter(({ left }) => left && isUseful(left.life)),
      MOST.ranges,
    ).map((range) => rangeDraft(reader, range)),
    ...near(
      gaps.found.filter((gap) => gap.state !== "filled" && wide(gap)),
      MOST.gaps,
    ).map((gap) => gapDraft(reader, gap, gap.acrossClose ? "fair across a close" : "fair", gaps.shareOf(gap), "")),
    ...near(
      openingGaps.found.filter((gap) => gap.state !== "filled" && wide(gap)),
      MOST.openingGaps,
    ).map((gap) => gapDraft(reader, gap, gap.weekend ? "weekend" : "opening", openingGaps.shareOf(gap), gap.kind)),
  ];
}

function isUseful({ state: { status } }: FollowedBand): boolean {
  return status === "pending" || status === "fresh" || status === "touched";
}

function zoneDraft(reader: RungReader, zone: FoundZone): Draft {
  return { ...bandDraft(reader, zone, "zone", `${capital(zone.side)}, ${zone.kind}`), parts: zoneParts(reader, zone) };
}

/** A base price has not left yet: offered with what it still lacks in sight. */
function pendingDraft(reader: RungReader, base: PendingBase): Draft {
  const life: FollowedBand = { band: { ...base, leave: base.top - base.bottom }, state: FRESH, events: [] };
  const parts: GradePart[] = [
    { part: "departure", share: 0, weight: 25 },
    baseLength(base),
    freshness(life),
    ...place(reader, base),
  ];
  return { ...bandDraft(reader, { ...base, life }, "pending", `Pending base, ${base.side}`), parts };
}

function blockDraft(reader: RungReader, block: OrderBlock): Draft {
  const parts = [
    freshness(block.life),
    structurePart(reader, block.side, block.to),
    gapPart(reader, block.side, block.to),
    place(reader, block),
  ].flat();
  return { ...bandDraft(reader, block, "orderBlock", `Order block, ${block.side}`), parts };
}

function rangeDraft(reader: RungReader, range: RungReader["ranges"]["found"][number]): Draft {
  const side = range.left?.way === "up" ? ("demand" as const) : ("supply" as const);
  const life = range.left?.life as FollowedBand;
  const at = range.left?.at ?? range.to;
  const parts: GradePart[] = [
    freshness(life),
    { part: "bars within it", share: between(range.to - range.from + 1, 4, 24), weight: 20 },
    structurePart(reader, side, range.to),
    place(reader, { ...range, side, knownAt: at }),
  ].flat();
  return {
    ...bandDraft(
      reader,
      { ...range, side, life, knownAt: at },
      "range",
      `Range, left ${range.left?.way} as a ${range.left?.as}`,
    ),
    parts,
  };
}

interface AnyBand {
  side: "demand" | "supply";
  from: number;
  to: number;
  bottom: number;
  top: number;
  knownAt: number;
  life: FollowedBand;
}

function bandDraft(
  { track, rung }: RungReader,
  { side, from, to, bottom, top, knownAt, life }: AnyBand,
  of: string,
  name: string,
): Omit<Draft, "parts"> {
  const [near, far] = side === "demand" ? [top, bottom] : [bottom, top];
  return {
    key: keyOf(of, side, rung, new Date(track.time[from]).toISOString(), bottom, top),
    step: "zones",
    kind: "zone",
    anchors: [
      { time: track.time[from], price: near },
      { time: track.time[to], price: far },
    ],
    props: { side, own: true, of: of === "zone" || of === "pending" ? "base" : of },
    name,
    knownAt,
    bottom,
    top,
    role: side === "demand" ? "support" : "resistance",
    state: stateOf(life),
    bars: [[from, to]],
  };
}

function stateOf({ state: { status, touches, deepest } }: FollowedBand): string {
  return status === "touched"
    ? `${touches} ${touches === 1 ? "touch" : "touches"}, ${Math.round(100 * deepest)} % deep`
    : status;
}

/** The parts of a zone's grade, each by its own rule. */
export function zoneParts(reader: RungReader, zone: FoundZone): GradePart[] {
  return [
    { part: "departure", share: between(zone.departure, reader.params.departure / 2, 4), weight: 25 },
    baseLength(zone),
    freshness(zone.life),
    structurePart(reader, zone.side, zone.to),
    gapPart(reader, zone.side, zone.to),
    ...place(reader, zone),
  ];
}

function baseLength({ from, to }: Base): GradePart {
  return { part: "bars of the base", share: between(to - from + 1, 8, 1), weight: 10 };
}

/** Untouched is best, and each touch takes a third; what is used up has none left (common practice, no source). */
function freshness({ state: { status, touches, deepest } }: FollowedBand): GradePart {
  const used = status === "broken" || status === "spent" ? 1 : Math.max(touches / 3, deepest);
  return { part: "freshness", share: 1 - used, weight: 20 };
}

/** Whether the leg out of it broke or shifted structure. */
function structurePart({ structure: { events } }: RungReader, side: AnyBand["side"], to: number): GradePart {
  const way: Way = side === "demand" ? "up" : "down";
  const broke = (event: StructureEvent) =>
    event.direction === way && (event.event === "shift" || (event.event === "break" && !event.inner));
  return { part: "broke structure", share: someAt(events, to + 1, to + LEG, broke) ? 1 : 0, weight: 15 };
}

/** Whether the leg out of it left a fair value gap its way. */
function gapPart({ gaps }: RungReader, side: AnyBand["side"], to: number): GradePart {
  const way: Way = side === "demand" ? "up" : "down";
  return {
    part: "left a gap",
    share: someAt(gaps.found, to + 2, to + LEG, (gap) => gap.direction === way) ? 1 : 0,
    weight: 10,
  };
}

/**
 * Demand is worth more in the lower part of the range it stands in, supply in the upper. No part where there is no
 * range.
 */
function place(
  { structure: { trend } }: RungReader,
  { side, bottom, top }: { side: AnyBand["side"]; bottom: number; top: number; knownAt: number },
): GradePart[] {
  const range = trend && rangeOfTrend(trend);
  const stands = range && standingIn(range, (bottom + top) / 2);
  if (!stands) return [];
  return [
    {
      part: "place in the range",
      share: side === "demand" ? between(stands.share, 0.8, 0.2) : between(stands.share, 0.2, 0.8),
      weight: 10,
    },
  ];
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

interface AnyGap {
  at: number;
  direction: Way;
  bottom: number;
  top: number;
  state: string;
}

function gapDraft(reader: RungReader, gap: AnyGap, of: string, filled: number, sort: string): Draft {
  const { track, structure, rung } = reader;
  const first = of === "opening" || of === "weekend" ? gap.at - 1 : gap.at - 2;
  const [near, far] = gap.direction === "up" ? [gap.top, gap.bottom] : [gap.bottom, gap.top];
  const with_ = structure.trend ? (structure.trend.way === gap.direction ? 1 : 0.3) : 0.5;
  return {
    key: keyOf("gap", of, gap.direction, rung, new Date(track.time[gap.at]).toISOString()),
    step: "zones",
    kind: "gap",
    anchors: [
      { time: track.time[first], price: far },
      { time: track.time[gap.at], price: near },
    ],
    props: { of },
    name: of.startsWith("fair") ? `Fair value gap ${gap.direction}` : `${capital(of)} gap ${gap.direction}, ${sort}`,
    knownAt: gap.at,
    bottom: gap.bottom,
    top: gap.top,
    role: gap.direction === "up" ? "support" : "resistance",
    state: gap.state === "untouched" ? "untouched" : `${Math.round(100 * filled)} % filled`,
    parts: [
      { part: "height", share: between((gap.top - gap.bottom) / track.atr[gap.at - 1], 0, 1.5), weight: 40 },
      { part: "unfilled", share: 1 - filled, weight: 40 },
      { part: "with the trend", share: with_, weight: 20 },
    ],
    bars: [[first, gap.at]],
  };
}

function capital(word: string): string {
  return word.charAt(0).toUpperCase() + word.slice(1);
}
