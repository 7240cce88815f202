import { advanceBand, FRESH, type Band, type BandState } from "#core/levels/band";
import type { Mark, MarkKind } from "#core/marks/kind";
import { stateText } from "#core/marks/level";
import { priceText } from "#core/marks/wording";
import { lastAtOrBefore } from "#core/series/series";
import { baseAround, edgesOf, zoneEdges } from "#core/zones/edges";
import { bandEvent } from "#core/marks/markEvent";

export interface ZoneProps {
  /** "auto" until the base has been read. */
  side: "demand" | "supply" | "auto";
  /** Whether the analyst moved an edge; the rule then no longer overwrites it. */
  own: boolean;
  /** What made it: a base, the last opposite candle before a leg, or a sideways range that was left. */
  of: (typeof ZONE_SORTS)[number];
}

export const ZONE_SORTS = ["base", "orderBlock", "range"] as const;

/**
 * A supply or demand zone. The first anchor is the first bar of the base at the zone's near edge, the second the
 * last bar of the base at its far edge. Placed with one click on the base, it is completed from the candles.
 */
export const zone: MarkKind<ZoneProps, BandState> = {
  kind: "zone",
  title: "Supply or demand zone",
  anchors: { least: 1, most: 1 },
  readProps(raw) {
    const side = raw.side ?? "auto";
    const own = raw.own ?? false;
    const of = ZONE_SORTS.find((one) => one === (raw.of ?? "base"));
    const known = side === "demand" || side === "supply" || side === "auto";
    return known && of && typeof own === "boolean" ? { side, own, of } : undefined;
  },
  complete(mark, { series }) {
    if (series.length === 0 || mark.props.own) return mark;
    const clicked = Math.max(0, lastAtOrBefore(series, mark.anchors[0].time));
    const base =
      mark.anchors.length > 1
        ? { from: clicked, to: Math.max(clicked, lastAtOrBefore(series, mark.anchors[1].time)) }
        : baseAround(series, clicked);
    const read = zoneEdges(series, base);
    const side = mark.props.side === "auto" ? read.side : mark.props.side;
    const { bottom, top } = side === read.side ? read : edgesOf(series, base, side);
    const [near, far] = side === "demand" ? [top, bottom] : [bottom, top];
    return {
      ...mark,
      props: { ...mark.props, side },
      anchors: [
        { time: series.time[base.from], price: near },
        { time: series.time[base.to], price: far },
      ],
    };
  },
  check(mark) {
    const band = bandOf(mark);
    if (!band) return [{ sentence: "The zone has no far edge." }];
    return band.top > band.bottom ? [] : [{ sentence: "The zone has no height: its edges meet." }];
  },
  start: () => FRESH,
  advance(mark, state, bar, emit) {
    const band = bandOf(mark);
    if (!band) return state;
    return advanceBand(band, state, bar, (event) => emit(bandEvent(event, band)));
  },
  status: ({ status }) => ({ code: status, dead: status === "broken" || status === "spent" }),
  prices(mark, { state }) {
    const band = bandOf(mark);
    if (!band) return [];
    const held = (band.side === "demand") !== (state.status === "flipped");
    const { bottom, top } = band;
    return [{ bottom, top, role: held ? "support" : "resistance", label: band.side }];
  },
  say(mark, { state }, market) {
    const band = bandOf(mark);
    if (!band) return "A zone without a far edge.";
    return (
      `${zoneName(mark.props.of, band.side)} ${priceText(band.bottom, market)} to ` +
      `${priceText(band.top, market)}, ${stateText(state, true)}.`
    );
  },
};

/** "Demand", "Order block, supply", "Range, demand". */
export function zoneName(of: ZoneProps["of"], side: Band["side"]): string {
  if (of === "orderBlock") return `Order block, ${side}`;
  return of === "range" ? `Range, ${side}` : side === "demand" ? "Demand" : "Supply";
}

/** The band of a completed zone. Leaving it takes one zone height. */
export function bandOf(mark: Mark<ZoneProps>): Band | undefined {
  if (mark.anchors.length < 2) return undefined;
  const [a, b] = [mark.anchors[0].price, mark.anchors[1].price];
  const side = mark.props.side === "auto" ? (a >= b ? "demand" : "supply") : mark.props.side;
  return { side, bottom: Math.min(a, b), top: Math.max(a, b), leave: Math.abs(a - b) };
}
