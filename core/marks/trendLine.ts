import { birthOf, type MarkKind } from "#core/marks/kind";
import { countText, priceText } from "#core/marks/wording";
import { firstAtOrAfter, lastAtOrBefore } from "#core/series/series";
import { atrBefore } from "#core/zones/edges";

export type TrendLineProps = Record<string, never>;

export interface TrendLineState {
  /** 1 when price stood above the line at its second anchor (it supports), -1 below (it resists). */
  side: 1 | -1;
  /** Price a bar of its own rung, and bars since the second anchor: the line is straight in bars, not in hours. */
  perBar: number;
  bars: number;
  /** How far a close must be from the line to end a touch: half an ATR(14), frozen at the second anchor. */
  leave: number;
  touches: number;
  away: boolean;
  status: "alive" | "broken" | "retested";
}

const LEAVE_ATR = 0.5;

/** Price of the line at the bar its state has come to. */
function valueOf(price: number, { perBar, bars }: TrendLineState): number {
  return price + perBar * bars;
}

/**
 * A straight line through two anchors, on from the second. Rules: a touch is a wick that reaches the line and a close
 * that does not pass it, once price was away; a close strictly beyond breaks it; broken, it is retested by the first
 * bar that reaches it again and closes on the new side.
 */
export const trendLine: MarkKind<TrendLineProps, TrendLineState> = {
  kind: "trendLine",
  title: "Trend line",
  anchors: { least: 2, most: 2 },
  readProps: (raw) => (Object.keys(raw).length === 0 ? {} : undefined),
  check({ anchors: [a, b] }) {
    return a.time >= b.time ? [{ sentence: "The second anchor stands after the first.", anchor: 1 }] : [];
  },
  start({ anchors, ...mark }, { series }) {
    const [a, b] = anchors;
    const index = (time: number) => Math.max(0, lastAtOrBefore(series, time));
    const apart = Math.max(1, index(b.time) - index(a.time));
    const birth = birthOf({ ...mark, anchors });
    const close = series.length > 0 ? series.close[index(birth)] : b.price;
    const leave = LEAVE_ATR * (series.length > 1 ? atrBefore(series, firstAtOrAfter(series, birth)) : 0);
    return {
      side: close >= b.price ? 1 : -1,
      perBar: (b.price - a.price) / apart,
      bars: 0,
      leave,
      touches: 0,
      away: false,
      status: "alive",
    };
  },
  advance({ anchors }, before, bar, emit) {
    const state = { ...before, bars: before.bars + 1 };
    const price = valueOf(anchors[1].price, state);
    const { side, leave, status } = state;
    const beyond = side * (bar.close - price) < 0;
    const reached = bar.low <= price && bar.high >= price;
    switch (status) {
      case "alive":
        if (beyond) {
          emit({ event: "broken", time: bar.time, side: side > 0 ? "below" : "above" });
          return { ...state, status: "broken", away: false };
        }
        if (reached && state.away) {
          emit({ event: "touched", time: bar.time, touches: state.touches + 1 });
          return { ...state, touches: state.touches + 1, away: false };
        }
        return !state.away && side * (bar.close - price) > leave ? { ...state, away: true } : state;
      case "broken":
        if (reached && beyond && state.away) {
          emit({ event: "retested", time: bar.time });
          return { ...state, status: "retested" };
        }
        return !state.away && -side * (bar.close - price) > leave ? { ...state, away: true } : state;
      case "retested":
        return state;
    }
  },
  status: ({ status }) => ({ code: status, dead: status !== "alive" }),
  prices({ anchors }, { state }) {
    const price = valueOf(anchors[1].price, state);
    return [{ bottom: price, top: price, role: state.side > 0 ? "support" : "resistance", label: "trend line" }];
  },
  say({ anchors }, { state }, market) {
    const way = state.perBar > 0 ? "Rising" : state.perBar < 0 ? "Falling" : "Level";
    const met = state.touches > 0 ? `, ${countText(state.touches, "touch", "touches")} since` : "";
    const end = state.status === "alive" ? `at ${priceText(valueOf(anchors[1].price, state), market)}` : state.status;
    return `${way} trend line, ${end}${met}.`;
  },
};
