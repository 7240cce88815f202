import { fairGapAt } from "#core/zones/fairGap";
import type { Mark, MarkKind } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import { lastAtOrBefore } from "#core/series/series";

/** What sort of gap: between three candles, or over a closed market. */
export const GAP_SORTS = ["fair", "fair across a close", "opening", "weekend"] as const;

export interface GapProps {
  of: (typeof GAP_SORTS)[number];
}

export interface GapState {
  status: "untouched" | "partly" | "filled";
  /** Deepest share worked through from the near edge, 0 to 1. */
  share: number;
}

const NAMES: Record<GapProps["of"], string> = {
  fair: "Fair value gap",
  "fair across a close": "Fair value gap across a close",
  opening: "Opening gap",
  weekend: "Weekend gap",
};

/**
 * Prices that nobody traded at. The first anchor is its far edge at its first candle, the second its near edge at the
 * candle that made it; later wicks strictly inside work through it from the near edge, one that reaches the far edge
 * fills it. Placed with one click on its middle candle (or either neighbour), it is read from the bars.
 */
export const gap: MarkKind<GapProps, GapState> = {
  kind: "gap",
  title: "Gap",
  anchors: { least: 1, most: 1 },
  readProps({ of = "fair" }) {
    const sort = GAP_SORTS.find((one) => one === of);
    return sort && { of: sort };
  },
  complete(mark, { series }) {
    if (mark.anchors.length > 1) return mark;
    const clicked = lastAtOrBefore(series, mark.anchors[0].time);
    // The click is on the middle candle; where there is no gap about it, its neighbours are looked at.
    for (const last of [clicked + 1, clicked + 2, clicked]) {
      const found = last < series.length ? fairGapAt(series, last) : undefined;
      if (!found) continue;
      const { bottom, top } = found;
      const [far, near] = found.direction === "up" ? [bottom, top] : [top, bottom];
      const anchors = [
        { time: series.time[last - 2], price: far },
        { time: series.time[last], price: near },
      ];
      return { ...mark, anchors };
    }
    return mark;
  },
  check: (mark) => (edges(mark) ? [] : [{ sentence: "There is no gap here: the third candle meets the first." }]),
  start: () => ({ status: "untouched", share: 0 }),
  advance(mark, state, bar, emit) {
    const gap = edges(mark);
    if (!gap || state.status === "filled") return state;
    const share = Math.min(1, (gap.up ? gap.near - bar.low : bar.high - gap.near) / Math.abs(gap.near - gap.far));
    if (share <= state.share) return state;
    if (state.share === 0 && share < 1) emit({ event: "touched", time: bar.time, touches: 1, deepest: share });
    if (share < 1) return { status: "partly", share };
    emit({ event: "filled", time: bar.time });
    return { status: "filled", share: 1 };
  },
  status: ({ status }) => ({ code: status === "partly" ? "partlyFilled" : status, dead: status === "filled" }),
  prices(mark, { state }) {
    const gap = edges(mark);
    if (!gap || state.status === "filled") return [];
    const left = unfilled(gap, state);
    return [{ ...left, role: gap.up ? "support" : "resistance", label: "gap" }];
  },
  say(mark, { state }, market) {
    const gap = edges(mark);
    if (!gap) return "A gap without edges.";
    const { bottom, top } = unfilled(gap, state);
    const name = `${NAMES[mark.props.of]} ${gap.up ? "up" : "down"}`;
    if (state.status === "filled") return `${name}, filled.`;
    const worked = state.share > 0 ? `, ${percentText(state.share, 0)} filled` : ", untouched";
    return (
      `${name} ${priceText(bottom, market)} to ${priceText(top, market)}${worked}, middle ` +
      `${priceText((bottom + top) / 2, market)}.`
    );
  },
};

export interface GapEdges {
  near: number;
  far: number;
  up: boolean;
}

/** The edges of a whole gap: price comes back to the near one. */
export function edges({ anchors }: Pick<Mark, "anchors">): GapEdges | undefined {
  if (anchors.length < 2) return undefined;
  const [far, near] = [anchors[0].price, anchors[1].price];
  return far === near ? undefined : { near, far, up: near > far };
}

/** What is left of it: only that still counts. */
export function unfilled({ near, far }: GapEdges, { share }: GapState): { bottom: number; top: number } {
  const worked = near + (far - near) * share;
  return { bottom: Math.min(worked, far), top: Math.max(worked, far) };
}
