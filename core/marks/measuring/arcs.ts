import type { Anchor, MarkKind } from "#core/marks/kind";
import { barsBetween, inOrder, noLeg, readRatios, type MeasuredLine } from "#core/marks/measuring/lines";
import { countText, percentText, plainNumber, priceText } from "#core/marks/wording";

export interface ArcsProps {
  ratios: number[];
  /** Price units that are as long as a bar; left out: what makes the leg rise by as much a bar. */
  perBar?: number;
}

export interface ArcsState {
  /** Price units that count as a bar, and the leg's length in bars on that scale. */
  perBar: number;
  length: number;
  /** Bars since the leg's end. */
  bars: number;
  /** Of each arc the bar at whose close price had left it, and how many bars ago that is. */
  left: (number | null)[];
  ago: number;
}

const RATIOS = [0.382, 0.5, 0.618];

/** The price of an arc so many bars after the leg's end, on the side the leg came from; none where it has ended. */
export function arcAt([a, b]: readonly Anchor[], { perBar, length }: ArcsState, ratio: number, bars: number) {
  const radius = ratio * length;
  if (bars > radius || length === 0) return undefined;
  return b.price - Math.sign(b.price - a.price) * perBar * Math.sqrt(radius ** 2 - bars ** 2);
}

/** How far a close lies from the leg's end, in bars on the arcs' scale. */
const distance = (price: number, end: Anchor, { perBar }: ArcsState, bars: number) =>
  Math.hypot(bars, (price - end.price) / perBar);

/**
 * Arcs about the end of a leg at shares of its length, with a stated scale of bars to price (common practice, no
 * source; the scale is ours: without one a bar is as long as the leg moved in one on average). A close beyond an arc
 * has left it: it leaves by moving or by time alone.
 */
export const arcs: MarkKind<ArcsProps, ArcsState> = {
  kind: "arcs",
  title: "Arcs",
  anchors: { least: 2, most: 2 },
  onExtremes: true,
  readProps(raw) {
    const ratios = readRatios(raw.ratios, RATIOS);
    const { perBar } = raw;
    if (!ratios || (perBar !== undefined && !(typeof perBar === "number" && perBar > 0 && perBar < 1e12)))
      return undefined;
    return { ratios, ...(perBar === undefined ? {} : { perBar }) };
  },
  check: ({ anchors }) => noLeg(anchors),
  start({ anchors, props }, { series }) {
    const [a, b] = inOrder(anchors);
    const span = Math.max(0, barsBetween(series, a.time, b.time));
    const height = Math.abs(b.price - a.price);
    const perBar = props.perBar ?? height / Math.max(1, span);
    const length = perBar > 0 ? Math.hypot(span, height / perBar) : 0;
    return { perBar, length, bars: 0, left: props.ratios.map(() => null), ago: 0 };
  },
  advance({ anchors, props }, state, bar, emit) {
    if (state.length === 0 || state.left.every((one) => one !== null)) return state;
    const [a, b] = inOrder(anchors);
    const bars = state.bars + 1;
    const away = distance(bar.close, b, state, bars);
    let { ago } = state;
    const left = state.left.map((one, n) => {
      if (one !== null || away <= props.ratios[n] * state.length) return one;
      const price = arcAt([a, b], state, props.ratios[n], bars) ?? b.price;
      emit({ event: "lineLeft", time: bar.time, ratio: props.ratios[n], price });
      ago = -1;
      return bar.time;
    });
    return { ...state, bars, left, ago: ago + 1 };
  },
  status({ left }) {
    const over = left.every((one) => one !== null);
    return { code: over ? "left" : "alive", dead: over };
  },
  prices({ anchors, props }, { state }) {
    const leg = inOrder(anchors);
    const role = leg[1].price > leg[0].price ? "support" : "resistance";
    return props.ratios.flatMap((ratio, n) => {
      const price = state.left[n] === null ? arcAt(leg, state, ratio, state.bars) : undefined;
      return price === undefined ? [] : [{ bottom: price, top: price, role, label: `arc ${percentText(ratio)}` }];
    });
  },
  lines: ({ anchors, props }, { state }) =>
    props.ratios.map((ratio, n): MeasuredLine => {
      const price = arcAt(inOrder(anchors), state, ratio, state.bars);
      const at = state.left[n];
      return {
        name: percentText(ratio),
        ...(price === undefined ? {} : { price }),
        state: at === null ? "stands" : "left",
        ...(at === null ? {} : { at }),
      };
    }),
  say({ anchors, props }, { state }, market) {
    const [a, b] = inOrder(anchors);
    const within = state.left.indexOf(null);
    const leg = `${priceText(a.price, market)} to ${priceText(b.price, market)}`;
    const name = `Arcs of ${leg}, a bar as ${plainNumber(state.perBar)}`;
    const gone = state.left.filter((one) => one !== null).length;
    const last = gone > 0 ? `, left ${percentText(props.ratios[gone - 1])} ${countText(state.ago, "bar")} ago` : "";
    return within < 0 ? `${name}: outside${last}.` : `${name}: within ${percentText(props.ratios[within])}${last}.`;
  },
};
