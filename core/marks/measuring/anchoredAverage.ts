import type { MarkKind } from "#core/marks/kind";
import { indexAt } from "#core/marks/measuring/lines";
import { countText, priceText } from "#core/marks/wording";
import { barAt, type Bar } from "#core/series/series";

export interface AnchoredAverageProps {
  of: "typical" | "close";
}

export interface AnchoredAverageState {
  weighted: boolean;
  /** Weights, mean and squares about it so far; nothing before its own bar. */
  weights: number;
  mean: number;
  squares: number;
  /** Bars so far, places on the line (time, value, deviation), and every how many bars one is kept. */
  bars: number;
  stride: number;
  places: [time: number, value: number, deviation: number][];
  /** On which side the last close was, and for how many bars in a row. */
  side: -1 | 0 | 1;
  lasts: number;
}

/** Places that are kept of a line: on more pixels than a chart has bars nothing more would be seen. */
const PLACES = 256;

/** One bar more. Sums are carried on as means (D. H. D. West, Communications of the ACM 22, 1979). */
function after(state: AnchoredAverageState, bar: Bar, of: AnchoredAverageProps["of"]): AnchoredAverageState {
  const weight = state.weighted ? bar.volume : 1;
  const value = of === "close" ? bar.close : (bar.high + bar.low + bar.close) / 3;
  const weights = state.weights + weight;
  const away = value - state.mean;
  const mean = weights > 0 && weight > 0 ? state.mean + (weight / weights) * away : state.mean;
  const squares = weight > 0 ? state.squares + weight * away * (value - mean) : state.squares;
  const bars = state.bars + 1;
  let { places, stride } = state;
  if (state.bars % stride === 0) places = [...places, [bar.time, mean, Math.sqrt(squares / weights)]];
  if (places.length > PLACES) {
    places = places.filter((_, i) => i % 2 === 0);
    stride *= 2;
  }
  const side = Math.sign(bar.close - mean) as -1 | 0 | 1;
  return {
    ...state,
    weights,
    mean,
    squares,
    bars,
    stride,
    places,
    side,
    lasts: side === state.side ? state.lasts + 1 : 1,
  };
}

/**
 * The average from one bar on, weighted by volume where that bar has some (common practice, no source): the study of
 * that name, as a mark with a place of its own. It lives as long as it is wanted.
 */
export const anchoredAverage: MarkKind<AnchoredAverageProps, AnchoredAverageState> = {
  kind: "anchoredAverage",
  title: "Anchored average",
  anchors: { least: 1, most: 1 },
  readProps({ of = "typical", ...rest }) {
    if (of !== "typical" && of !== "close") return undefined;
    return Object.keys(rest).length === 0 ? { of } : undefined;
  },
  check: () => [],
  start({ anchors: [{ time }], props: { of } }, { series }) {
    const none = { weights: 0, mean: 0, squares: 0, bars: 0, stride: 1, places: [], side: 0, lasts: 0 } as const;
    const i = indexAt(series, time);
    if (series.length === 0 || series.time[i] > time) return { ...none, weighted: false, places: [] };
    const bar = barAt(series, i);
    return after({ ...none, weighted: bar.volume > 0, places: [] }, bar, of);
  },
  advance: ({ props }, state, bar) => after(state, bar, props.of),
  status: () => ({ code: "alive", dead: false }),
  prices(_mark, { state }) {
    if (state.bars === 0) return [];
    const { mean, side } = state;
    return [{ bottom: mean, top: mean, role: side < 0 ? "resistance" : "support", label: "anchored average" }];
  },
  say({ anchors: [{ time }] }, { state }, market) {
    const { mean, side, lasts, weighted, bars } = state;
    const name = `Average since ${new Date(time).toISOString().slice(0, 10)}${weighted ? ", by volume" : ""}`;
    if (bars === 0) return `${name}: no bar yet.`;
    const where =
      side === 0 ? "the close on it" : `the close ${side > 0 ? "above" : "below"} it for ${countText(lasts, "bar")}`;
    return `${name}: ${priceText(mean, market)}, ${where}.`;
  },
};
