import { birthOf, type MarkKind } from "#core/marks/kind";
import { countText, priceText } from "#core/marks/wording";
import { firstAtOrAfter, lastAtOrBefore, type Bar } from "#core/series/series";
import { atrBefore } from "#core/zones/edges";
import type { MarkEvent } from "#core/marks/markEvent";

export type ChannelProps = Record<string, never>;

export interface ChannelState {
  /** Price a bar of its own rung, bars since the second anchor, and how far the parallel lies above the base line. */
  perBar: number;
  bars: number;
  offset: number;
  /** How far a close must be from a line to end a touch of it: half an ATR(14), frozen at the last anchor. */
  leave: number;
  touches: number;
  away: { lower: boolean; upper: boolean };
  status: "alive" | "broken above" | "broken below";
}

const LEAVE_ATR = 0.5;

/** The lower and the upper line at the bar a channel's state has come to. */
export function edgesOf(base: number, { perBar, bars, offset }: ChannelState): { lower: number; upper: number } {
  const price = base + perBar * bars;
  return { lower: price + Math.min(0, offset), upper: price + Math.max(0, offset) };
}

const CODES = { alive: "alive", "broken above": "brokenAbove", "broken below": "brokenBelow" } as const;

/**
 * A line through two anchors and its parallel through a third, straight in bars. A touch is a wick that reaches a line
 * whose close stays within, once price was away from that line; a close strictly beyond a line breaks the channel.
 */
export const channel: MarkKind<ChannelProps, ChannelState> = {
  kind: "channel",
  title: "Channel",
  anchors: { least: 3, most: 3 },
  readProps: (raw) => (Object.keys(raw).length === 0 ? {} : undefined),
  check({ anchors: [a, b] }) {
    return a.time >= b.time ? [{ sentence: "The second anchor stands after the first.", anchor: 1 }] : [];
  },
  start({ anchors }, { series }) {
    const [a, b, c] = anchors;
    const index = (time: number) => Math.max(0, lastAtOrBefore(series, time));
    const perBar = (b.price - a.price) / Math.max(1, index(b.time) - index(a.time));
    const birth = birthOf({ anchors });
    const leave = LEAVE_ATR * (series.length > 1 ? atrBefore(series, firstAtOrAfter(series, birth)) : 0);
    const offset = c.price - (b.price + perBar * (index(c.time) - index(b.time)));
    return {
      perBar,
      bars: index(birth) - index(b.time),
      offset,
      leave,
      touches: 0,
      away: { lower: false, upper: false },
      status: "alive",
    };
  },
  advance({ anchors }, before, bar, emit) {
    if (before.status !== "alive") return before;
    const state = { ...before, bars: before.bars + 1 };
    const { lower, upper } = edgesOf(anchors[1].price, state);
    if (bar.close > upper || bar.close < lower) {
      const status = bar.close > upper ? "broken above" : "broken below";
      emit({ event: "broken", time: bar.time, side: bar.close > upper ? "above" : "below" });
      return { ...state, status };
    }
    return touched(touched(state, "lower", lower, bar, emit), "upper", upper, bar, emit);
  },
  status: ({ status }) => ({ code: CODES[status], dead: status !== "alive" }),
  prices({ anchors }, { state }) {
    const { lower, upper } = edgesOf(anchors[1].price, state);
    return [
      { bottom: lower, top: lower, role: "support", label: "channel, lower line" },
      { bottom: upper, top: upper, role: "resistance", label: "channel, upper line" },
    ];
  },
  say({ anchors }, { state }, market) {
    const way = state.perBar > 0 ? "Rising" : state.perBar < 0 ? "Falling" : "Level";
    const { lower, upper } = edgesOf(anchors[1].price, state);
    const met = state.touches > 0 ? `, ${countText(state.touches, "touch", "touches")} since` : "";
    const end = state.status === "alive" ? `${priceText(lower, market)} to ${priceText(upper, market)}` : state.status;
    return `${way} channel, ${end}${met}.`;
  },
};

function touched(
  state: ChannelState,
  side: "lower" | "upper",
  price: number,
  bar: Bar,
  emit: (event: MarkEvent) => void,
): ChannelState {
  const reached = side === "lower" ? bar.low <= price : bar.high >= price;
  if (reached && state.away[side]) {
    emit({ event: "touched", time: bar.time, touches: state.touches + 1, line: side });
    return { ...state, touches: state.touches + 1, away: { ...state.away, [side]: false } };
  }
  return !state.away[side] && Math.abs(bar.close - price) > state.leave
    ? { ...state, away: { ...state.away, [side]: true } }
    : state;
}
