import type { MarkKind } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { lastAtOrBefore } from "#core/series/series";

export interface StructureProps {
  event: "break" | "shift" | "sweep";
  direction: "up" | "down";
}

export interface StructureState {
  status: "stands" | "retested" | "taken back";
  away: boolean;
  /** A shift that price has taken back is still where the trend turned; only another shift ends it. */
  lasting: boolean;
}

const NAMES: Record<StructureProps["event"], string> = {
  break: "Break of structure",
  shift: "Shift of structure",
  sweep: "Sweep",
};

/**
 * A break, a shift or a sweep that happened: from the swing it is about (first anchor) to the bar that did it (second).
 * Later bars retest it (a wick back to the swing's price after a bar that stayed clear of it) or take it back (a close
 * strictly beyond the price the other way; for a sweep, beyond it the way it went).
 */
export const structure: MarkKind<StructureProps, StructureState> = {
  kind: "structure",
  title: "Break, shift or sweep",
  anchors: { least: 2, most: 2 },
  readProps({ event = "break", direction = "up" }) {
    const known = event === "break" || event === "shift" || event === "sweep";
    return known && (direction === "up" || direction === "down") ? { event, direction } : undefined;
  },
  complete(mark, { series }) {
    if (mark.anchors.length < 2 || mark.found) return mark;
    const [a, b] = mark.anchors;
    const at = Math.max(0, lastAtOrBefore(series, b.time));
    if (series.length === 0) return mark;
    const up = series.high[at] - a.price > a.price - series.low[at];
    const beyond = up ? series.close[at] > a.price : series.close[at] < a.price;
    const event = beyond ? (mark.props.event === "sweep" ? "break" : mark.props.event) : "sweep";
    return {
      ...mark,
      props: { event, direction: up ? "up" : "down" },
      anchors: [a, { time: series.time[at], price: a.price }],
    };
  },
  check({ anchors: [a, b] }) {
    return a.time >= b.time ? [{ sentence: "The bar that did it stands after the swing.", anchor: 1 }] : [];
  },
  start: ({ props }) => ({ status: "stands", away: false, lasting: props.event === "shift" }),
  advance({ anchors, props }, state, bar, emit) {
    if (state.status === "taken back") return state;
    const price = anchors[0].price;
    // Where price should stay: beyond a broken swing, but on this side of a swept one.
    const sign = (props.direction === "up") === (props.event !== "sweep") ? 1 : -1;
    if (sign * (bar.close - price) < 0) {
      emit({ event: "takenBack", time: bar.time, side: sign > 0 ? "below" : "above" });
      return { ...state, status: "taken back" };
    }
    const reached = sign > 0 ? bar.low <= price : bar.high >= price;
    if (!reached) return state.away ? state : { ...state, away: true };
    if (!state.away || state.status === "retested") return state;
    emit({ event: "retested", time: bar.time });
    return { ...state, status: "retested" };
  },
  status: ({ status, lasting }) => ({
    code: status === "taken back" ? "takenBack" : status,
    dead: status === "taken back" && !lasting,
  }),
  prices({ anchors, props }) {
    const price = anchors[0].price;
    const up = (props.direction === "up") === (props.event !== "sweep");
    return [
      { bottom: price, top: price, role: up ? "support" : "resistance", label: `${props.event} ${props.direction}` },
    ];
  },
  say: ({ anchors, props }, { state }, market) =>
    `${NAMES[props.event]} ${props.direction} at ${priceText(anchors[0].price, market)}, ${state.status}.`,
};
