import type { Mark, MarkKind } from "#core/marks/kind";
import { countText, priceText } from "#core/marks/wording";

export interface PoolProps {
  side: "high" | "low";
  /** What it is: "equal", "row", or the name of an extreme. */
  of: string;
}

export interface PoolState {
  status: "untouched" | "swept" | "taken";
  /** How far the deepest wick of a sweep went beyond, in price units. */
  depth: number;
}

/**
 * Orders resting beyond highs or lows: equal ones, a row of them, the extreme of a period. Anchors are the swings it is
 * made of. A wick strictly beyond its price sweeps it, a close strictly beyond takes it (common practice, no source).
 */
export const pool: MarkKind<PoolProps, PoolState> = {
  kind: "pool",
  title: "Resting highs or lows",
  anchors: { least: 1, most: 8 },
  readProps({ side = "high", of = "equal" }) {
    return (side === "high" || side === "low") && typeof of === "string" && of.length <= 60 ? { side, of } : undefined;
  },
  complete(mark, { series }) {
    // Placed by hand it rests above when its first anchor lies above the last close.
    const close = series.length > 0 ? series.close[series.length - 1] : mark.anchors[0].price;
    return { ...mark, props: { ...mark.props, side: mark.anchors[0].price >= close ? "high" : "low" } };
  },
  check: () => [],
  start: () => ({ status: "untouched", depth: 0 }),
  advance(mark, state, bar, emit) {
    if (state.status === "taken") return state;
    const { side } = mark.props;
    const sign = side === "high" ? 1 : -1;
    const price = poolPrice(mark);
    const depth = sign * ((side === "high" ? bar.high : bar.low) - price);
    if (depth <= 0) return state;
    if (sign * (bar.close - price) > 0) {
      emit({ event: "taken", time: bar.time, side: side === "high" ? "above" : "below" });
      return { status: "taken", depth: Math.max(depth, state.depth) };
    }
    if (state.status === "untouched") emit({ event: "swept", time: bar.time, depth });
    return depth > state.depth ? { status: "swept", depth } : state;
  },
  status: ({ status }) => ({ code: status, dead: status === "taken" }),
  prices(mark, { state }) {
    if (state.status === "taken") return [];
    const price = poolPrice(mark);
    return [
      { bottom: price, top: price, role: mark.props.side === "high" ? "resistance" : "support", label: poolName(mark) },
    ];
  },
  say: (mark, { state }, market) =>
    `${poolName(mark)} ${priceText(poolPrice(mark), market)}, ` +
    `${state.status}${state.status === "swept" ? ` by ${priceText(state.depth, market)}` : ""}.`,
};

/** The price beyond which it is run: the first of a row, otherwise the outermost of its swings. */
export function poolPrice({ anchors, props: { side, of } }: Mark<PoolProps>): number {
  if (of === "row") return anchors[0].price;
  const prices = anchors.map(({ price }) => price);
  return side === "high" ? Math.max(...prices) : Math.min(...prices);
}

/** "Equal highs (3)", "Row of rising lows (4)", "Previous week's high". */
export function poolName({ anchors, props: { side, of } }: Mark<PoolProps>): string {
  if (of === "equal") return anchors.length > 1 ? `Equal ${side}s (${anchors.length})` : `Resting ${side}`;
  return of === "row"
    ? `Row of ${side === "low" ? "rising lows" : "falling highs"}, ${countText(anchors.length, "swing")}`
    : of;
}
