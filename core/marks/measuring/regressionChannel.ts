import type { MarkContext, MarkKind } from "#core/marks/kind";
import { indexAt, inOrder } from "#core/marks/measuring/lines";
import { priceText } from "#core/marks/wording";
import { slice } from "#core/series/series";
import { linearRegressionStudy } from "#core/studies/linearRegression";
import { columnsOf } from "#core/studies/study";
import type { Anchor } from "#core/marks/kind";

export interface RegressionProps {
  deviations: number;
}

export interface RegressionState {
  /** The line at the last bar of its window, price a bar, and how far its edges lie from it. */
  value: number;
  slope: number;
  reach: number;
  /** Bars since the window. */
  bars: number;
  status: "alive" | "broken above" | "broken below";
}

const CODES = { alive: "alive", "broken above": "brokenAbove", "broken below": "brokenBelow" } as const;

/** The least bars of a window. */
const LEAST = 3;

/** Least squares of the closes between two instants, as the study of that name has them. */
function fit(anchors: readonly Anchor[], { deviations }: RegressionProps, { series, market }: MarkContext) {
  const [a, b] = inOrder(anchors);
  const [from, to] = [indexAt(series, a.time), indexAt(series, b.time)];
  const period = to - from + 1;
  if (series.length === 0 || period < LEAST) return undefined;
  const params = { period, of: "close", deviations };
  const columns = columnsOf(linearRegressionStudy, params, slice(series, from, to + 1), { tick: market.tick });
  const [value, slope, intercept, error] = columns.map((column) => column[period - 1]);
  return { value, slope, intercept, reach: deviations * error };
}

/** The edges and the middle so many bars after the window. */
export function regressionAt({ value, slope, reach }: RegressionState, bars: number) {
  const middle = value + slope * bars;
  return { middle, upper: middle + reach, lower: middle - reach };
}

/**
 * The line of least squares through the closes of a window and a channel in standard errors about it, carried on
 * (least squares; channel by the standard error of estimate). A close strictly beyond an edge breaks it.
 */
export const regressionChannel: MarkKind<RegressionProps, RegressionState> = {
  kind: "regressionChannel",
  title: "Regression channel",
  anchors: { least: 2, most: 2 },
  readProps({ deviations = 2, ...rest }) {
    if (typeof deviations !== "number" || !(deviations > 0 && deviations <= 20)) return undefined;
    return Object.keys(rest).length === 0 ? { deviations } : undefined;
  },
  /** Its anchors lie on the line. */
  complete(mark, context) {
    const line = fit(mark.anchors, mark.props, context);
    if (!line) return mark;
    const [a, b] = inOrder(mark.anchors);
    return {
      ...mark,
      anchors: [
        { time: a.time, price: line.intercept },
        { time: b.time, price: line.value },
      ],
    };
  },
  check({ anchors, props }, context) {
    return context.series.length > 0 && !fit(anchors, props, context)
      ? [{ sentence: `A regression needs a window of ${LEAST} bars or more.`, anchor: 1 }]
      : [];
  },
  start(mark, context) {
    const line = fit(mark.anchors, mark.props, context);
    const { value, slope, reach } = line ?? { value: inOrder(mark.anchors)[1].price, slope: 0, reach: 0 };
    return { value, slope, reach, bars: 0, status: "alive" };
  },
  advance(_mark, before, bar, emit) {
    if (before.status !== "alive") return before;
    const state = { ...before, bars: before.bars + 1 };
    const { upper, lower } = regressionAt(state, state.bars);
    if (bar.close <= upper && bar.close >= lower) return state;
    const side = bar.close > upper ? "above" : "below";
    emit({ event: "broken", time: bar.time, side });
    return { ...state, status: `broken ${side}` };
  },
  status: ({ status }) => ({ code: CODES[status], dead: status !== "alive" }),
  prices(_mark, { state }) {
    const { middle, upper, lower } = regressionAt(state, state.bars);
    return [
      { bottom: lower, top: lower, role: "support", label: "regression, lower edge" },
      { bottom: middle, top: middle, role: "level", label: "regression line" },
      { bottom: upper, top: upper, role: "resistance", label: "regression, upper edge" },
    ];
  },
  say(_mark, { state }, market) {
    const { middle, upper, lower } = regressionAt(state, state.bars);
    const way = state.slope > 0 ? "Rising" : state.slope < 0 ? "Falling" : "Level";
    const at = `${priceText(lower, market)} to ${priceText(upper, market)} about ${priceText(middle, market)}`;
    return `${way} regression channel, ${state.status === "alive" ? at : state.status}.`;
  },
};
