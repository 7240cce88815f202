import type { Anchor, MarkKind } from "#core/marks/kind";
import { barsBetween, inOrder, noLeg, readRatios, type MeasuredLine } from "#core/marks/measuring/lines";
import { percentText, priceText } from "#core/marks/wording";

export interface SpeedLinesProps {
  /** Shares of the leg that each line keeps at the leg's end. */
  shares: number[];
}

export interface SpeedLinesState {
  /** Bars of the leg, and bars since its end. */
  span: number;
  bars: number;
  /** Of each share the bar that closed beyond its line. */
  left: (number | null)[];
  /** The leg went on: the lines would be other ones. */
  extended?: true;
}

const SHARES = [1 / 3, 2 / 3];

/** The line of a share so many bars after the leg's start: from its start through that share of it at its end. */
export function speedLineAt([a, b]: readonly Anchor[], share: number, span: number, bars: number): number {
  return span === 0 ? a.price : a.price + (share * (b.price - a.price) * bars) / span;
}

/**
 * Lines from the start of a leg through shares of it at its end (thirds by common practice, no source): how fast it may
 * lose what it won. A close beyond a line leaves it for the next; a new extreme of the leg makes them void.
 */
export const speedLines: MarkKind<SpeedLinesProps, SpeedLinesState> = {
  kind: "speedLines",
  title: "Speed lines",
  anchors: { least: 2, most: 2 },
  onExtremes: true,
  readProps(raw) {
    const shares = readRatios(raw.ratios ?? raw.shares, SHARES);
    return shares && shares.every((share) => share < 1) ? { shares } : undefined;
  },
  check: ({ anchors }) => noLeg(anchors),
  start({ anchors, props }, { series }) {
    const [a, b] = inOrder(anchors);
    return { span: Math.max(0, barsBetween(series, a.time, b.time)), bars: 0, left: props.shares.map(() => null) };
  },
  advance({ anchors, props }, state, bar, emit) {
    if (state.extended || state.left.every((one) => one !== null)) return state;
    const leg = inOrder(anchors);
    const sign = Math.sign(leg[1].price - leg[0].price);
    const bars = state.bars + 1;
    if (sign * ((sign > 0 ? bar.high : bar.low) - leg[1].price) > 0) {
      emit({ event: "extended", time: bar.time });
      return { ...state, bars, extended: true };
    }
    const left = state.left.map((one, n) => {
      const price = speedLineAt(leg, props.shares[n], state.span, state.span + bars);
      if (one !== null || sign * (bar.close - price) >= 0) return one;
      emit({ event: "lineLeft", time: bar.time, ratio: props.shares[n], price });
      return bar.time;
    });
    return { ...state, bars, left };
  },
  status({ extended, left }) {
    if (extended) return { code: "extended", dead: true };
    const over = left.every((one) => one !== null);
    return { code: over ? "left" : "alive", dead: over };
  },
  prices({ anchors, props }, { state: { span, bars, left } }) {
    const leg = inOrder(anchors);
    const role = leg[1].price > leg[0].price ? "support" : "resistance";
    return props.shares.flatMap((share, n) => {
      const price = speedLineAt(leg, share, span, span + bars);
      return left[n] === null ? [{ bottom: price, top: price, role, label: `speed line ${percentText(share)}` }] : [];
    });
  },
  lines({ anchors, props }, { state: { span, bars, left } }) {
    const leg = inOrder(anchors);
    return props.shares.map((share, n): MeasuredLine => {
      const price = speedLineAt(leg, share, span, span + bars);
      const at = left[n];
      return {
        name: percentText(share),
        price,
        state: at === null ? "stands" : "left",
        ...(at === null ? {} : { at }),
      };
    });
  },
  say({ anchors, props }, { state: { span, bars, left, extended } }, market) {
    const leg = inOrder(anchors);
    const name = `Speed lines of ${priceText(leg[0].price, market)} to ${priceText(leg[1].price, market)}`;
    if (extended) return `${name}: void since the leg went on.`;
    const at = left.lastIndexOf(null);
    if (at < 0) return `${name}: closed beyond all of them.`;
    const price = speedLineAt(leg, props.shares[at], span, span + bars);
    return `${name}: ${percentText(props.shares[at])} stands at ${priceText(price, market)}.`;
  },
};
