import { keyOf, nearestEachSide, type Draft } from "#core/finding/draft";
import type { RungReader } from "#core/finding/reader";
import { FRESH } from "#core/levels/band";
import type { FollowedBand } from "#core/levels/bands";
import { countText, percentText } from "#core/marks/wording";
import type { Way } from "#core/structure/structure";
import { rangeOfTrend, standingIn } from "#core/structure/range";
import type { FoundZone, PendingBase } from "#core/zones/bases";
import { brokeStructure, leftGap, usedShare } from "#core/zones/points";
import type { OrderBlock } from "#core/zones/orderBlocks";

/** How many of each sort are offered on each side of price: a chart with everything on it shows nothing. */
const MOST = { zones: 4, orderBlocks: 2, ranges: 2, gaps: 3, openingGaps: 2 };

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
  return {
    ...bandDraft(reader, zone, "zone", `${capital(zone.side)}, ${zone.kind}`),
    measured: "zone",
    why: [
      `left at ${zone.departure.toFixed(1)} ATR`,
      `base of ${countText(zone.to - zone.from + 1, "bar")}`,
      ...legWhy(reader, zone.side, zone.to),
      ...placeWhy(reader, zone),
    ],
  };
}

/** A base price has not left yet: offered with what it still lacks in sight. */
function pendingDraft(reader: RungReader, base: PendingBase): Draft {
  const life: FollowedBand = { band: { ...base, leave: base.top - base.bottom }, state: FRESH, events: [] };
  return {
    ...bandDraft(reader, { ...base, life }, "pending", `Pending base, ${base.side}`),
    why: ["price has not left it yet", `base of ${countText(base.to - base.from + 1, "bar")}`],
  };
}

function blockDraft(reader: RungReader, block: OrderBlock): Draft {
  return {
    ...bandDraft(reader, block, "orderBlock", `Order block, ${block.side}`),
    measured: "orderBlock",
    why: [...legWhy(reader, block.side, block.to), ...placeWhy(reader, block)],
  };
}

function rangeDraft(reader: RungReader, range: RungReader["ranges"]["found"][number]): Draft {
  const side = range.left?.way === "up" ? ("demand" as const) : ("supply" as const);
  const life = range.left?.life as FollowedBand;
  const band = { ...range, side, life, knownAt: range.left?.at ?? range.to };
  return {
    ...bandDraft(reader, band, "range", `Range, left ${range.left?.way} as a ${range.left?.as}`),
    measured: "range",
    why: [`${countText(range.to - range.from + 1, "bar")} within it`, ...legWhy(reader, side, range.to)],
  };
}

/** What the leg out of a band did. */
function legWhy({ structure, gaps }: RungReader, side: AnyBand["side"], to: number): string[] {
  return [
    ...(brokeStructure(structure.events, side, to) ? ["broke structure"] : []),
    ...(leftGap(gaps.found, side, to) ? ["left a gap"] : []),
  ];
}

/** Where it stands in the range of the trend; nothing where there is none. */
function placeWhy({ structure: { trend } }: RungReader, { bottom, top }: { bottom: number; top: number }): string[] {
  const range = trend && rangeOfTrend(trend);
  const stands = range && standingIn(range, (bottom + top) / 2);
  return stands && stands.share >= 0 && stands.share <= 1 ? [`at ${percentText(stands.share, 0)} of its range`] : [];
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
): Omit<Draft, "why"> {
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
    freshness: 1 - usedShare(life.state),
    bars: [[from, to]],
  };
}

function stateOf({ state: { status, touches, deepest } }: FollowedBand): string {
  return status === "touched"
    ? `${touches} ${touches === 1 ? "touch" : "touches"}, ${Math.round(100 * deepest)} % deep`
    : status;
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
    freshness: 1 - filled,
    ...(of.startsWith("fair") ? { measured: "gap" as const } : {}),
    why: [
      `${((gap.top - gap.bottom) / track.atr[gap.at - 1]).toFixed(1)} ATR high`,
      ...(structure.trend ? [structure.trend.way === gap.direction ? "with the trend" : "against the trend"] : []),
    ],
    bars: [[first, gap.at]],
  };
}

function capital(word: string): string {
  return word.charAt(0).toUpperCase() + word.slice(1);
}
