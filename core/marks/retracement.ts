import type { MarkKind } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import { legOf, retracement as lay, RETRACEMENT_RATIOS } from "#core/projections/retracement";

export interface RetracementProps {
  ratios: number[];
}

export interface RetracementState {
  /** Deepest share of the leg given back by a wick since its end; negative while the leg only extends. */
  deepest: number;
  status: "running" | "extended" | "undone";
}

/** A leg and the prices at shares of it. The direction is derived from the order of its two anchors in time. */
export const retracement: MarkKind<RetracementProps, RetracementState> = {
  kind: "retracement",
  title: "Retracement",
  anchors: { least: 2, most: 2 },
  readProps(raw) {
    const ratios = raw.ratios ?? RETRACEMENT_RATIOS;
    if (!Array.isArray(ratios) || ratios.length === 0 || ratios.length > 20) return undefined;
    return ratios.every((ratio) => typeof ratio === "number" && Math.abs(ratio) <= 20)
      ? { ratios: ratios as number[] }
      : undefined;
  },
  check(mark) {
    const [a, b] = mark.anchors;
    if (a.price === b.price) return [{ sentence: "Both ends of the leg have one price.", anchor: 1 }];
    return a.time === b.time ? [{ sentence: "Both ends of the leg stand on one bar.", anchor: 1 }] : [];
  },
  start: () => ({ deepest: 0, status: "running" }),
  advance(mark, state, bar, emit) {
    if (state.status !== "running") return state;
    const { from, to } = legOf(mark.anchors[0], mark.anchors[1]);
    const length = to.price - from.price;
    if (length === 0) return state;
    const share = (price: number) => (to.price - price) / length;
    const back = length > 0 ? bar.low : bar.high;
    const on = length > 0 ? bar.high : bar.low;
    const deepest = Math.max(state.deepest, share(back));
    for (const ratio of mark.props.ratios)
      if (ratio > state.deepest && ratio <= deepest) emit({ event: "shareReached", time: bar.time, ratio });
    if (deepest > 1) {
      emit({ event: "undone", time: bar.time });
      return { deepest, status: "undone" };
    }
    if (share(on) < 0) {
      emit({ event: "extended", time: bar.time });
      return { deepest, status: "extended" };
    }
    return deepest === state.deepest ? state : { ...state, deepest };
  },
  status: ({ status }) => ({ code: status, dead: status !== "running" }),
  prices(mark) {
    const { from, to, direction } = legOf(mark.anchors[0], mark.anchors[1]);
    const role = direction === "up" ? "support" : "resistance";
    return lay(from, to, mark.props.ratios).map(({ ratio, price }) => ({
      bottom: price,
      top: price,
      role,
      label: percentText(ratio),
      leg: [from.price, to.price] as const,
    }));
  },
  say(mark, { state }, market) {
    const { from, to, direction } = legOf(mark.anchors[0], mark.anchors[1]);
    const leg =
      `${direction === "up" ? "Up-leg" : "Down-leg"} ${priceText(from.price, market)} to ` +
      `${priceText(to.price, market)}`;
    const end = { running: "", extended: "; since extended", undone: "; since undone" }[state.status];
    return `${leg}, ${percentText(state.deepest, 0)} given back${end}.`;
  },
};
