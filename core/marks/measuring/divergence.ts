import type { MarkKind } from "#core/marks/kind";
import { indexAt, inOrder, outOfOrder } from "#core/marks/measuring/lines";
import { priceText } from "#core/marks/wording";
import { readStudyParams } from "#core/studies/params";
import { studyName, valueText } from "#core/studies/reading";
import { studyOf } from "#core/studies/registry";
import { columnsOf, type StudyParams } from "#core/studies/study";
import { slice } from "#core/series/series";

export interface DivergenceProps {
  study: string;
  params: StudyParams;
  /** The line that is compared; the study's first one. */
  field: string;
  /** What it was at both swings; absent until it is completed from bars. */
  values?: [number, number];
}

export interface DivergenceState {
  /** Lows that price and study moved apart at, or highs. */
  direction: "up" | "down";
  /** The extreme between both swings: a close beyond it is the shift it points to. */
  between: number;
  status: "stands" | "met" | "negated";
}

/** Bars a study is worked out over before the first swing: enough for what it remembers to have faded. */
const WARM = 1_000;

/** Studies that price is compared with at swings. */
export const COMPARED = [
  ...["rsi", "macd", "stochastic", "moneyFlow", "commodityChannel", "rateOfChange", "williamsR", "onBalanceVolume"],
];

/**
 * Price and a study that moved apart at two swings of one side (common practice, no source). It is met by the shift it
 * points to, a close beyond the extreme between the swings, and fails with a wick beyond the second swing.
 */
export const divergence: MarkKind<DivergenceProps, DivergenceState> = {
  kind: "divergence",
  title: "Divergence",
  anchors: { least: 2, most: 2 },
  onExtremes: true,
  readProps({ study: name = "rsi", params = {}, field, values, ...rest }) {
    const study = typeof name === "string" && COMPARED.includes(name) ? studyOf(name) : undefined;
    if (!study || Object.keys(rest).length > 0 || typeof params !== "object" || params === null) return undefined;
    const read = readStudyParams(study, params as Record<string, unknown>);
    const line = field ?? study.lines[0].name;
    if (typeof read === "string" || !study.lines.some((one) => one.name === line)) return undefined;
    const isPair = Array.isArray(values) && values.length === 2 && values.every((one) => Number.isFinite(one));
    if (values !== undefined && !isPair) return undefined;
    return {
      study: study.name,
      params: read,
      field: line as string,
      ...(isPair ? { values: values as [number, number] } : {}),
    };
  },
  complete(mark, { series, market }) {
    const study = studyOf(mark.props.study)!;
    const [a, b] = inOrder(mark.anchors).map(({ time }) => indexAt(series, time));
    const from = Math.max(0, a - WARM);
    const columns = columnsOf(study, mark.props.params, slice(series, from, b + 1), { tick: market.tick });
    const column = columns[study.lines.findIndex(({ name }) => name === mark.props.field)];
    const values: [number, number] = [column[a - from], column[b - from]];
    return values.some(Number.isNaN) ? mark : { ...mark, props: { ...mark.props, values } };
  },
  check({ anchors, props: { values } }) {
    const [a, b] = inOrder(anchors);
    const apart = values && (values[1] - values[0]) * (b.price - a.price) < 0;
    return [
      ...outOfOrder(anchors),
      ...(values && !apart
        ? [{ sentence: "Price and the study moved the same way: they do not diverge.", anchor: 1 }]
        : []),
    ];
  },
  start({ anchors }, { series }) {
    const [a, b] = inOrder(anchors);
    const [from, to] = [indexAt(series, a.time), indexAt(series, b.time)];
    let [top, bottom] = [Math.max(a.price, b.price), Math.min(a.price, b.price)];
    for (let i = from; i <= to && i < series.length; i++)
      [top, bottom] = [Math.max(top, series.high[i]), Math.min(bottom, series.low[i])];
    // Swings on the lower side of what lies between are lows; with as much on both sides, falling ones.
    const more = top - Math.max(a.price, b.price) - (Math.min(a.price, b.price) - bottom);
    const isLow = more === 0 ? b.price < a.price : more > 0;
    return { direction: isLow ? "up" : "down", between: isLow ? top : bottom, status: "stands" };
  },
  advance({ anchors }, state, bar, emit) {
    if (state.status !== "stands") return state;
    const end = inOrder(anchors)[1].price;
    const sign = state.direction === "up" ? 1 : -1;
    if (sign * ((sign > 0 ? bar.low : bar.high) - end) < 0) {
      emit({ event: "negated", time: bar.time, price: end });
      return { ...state, status: "negated" };
    }
    if (sign * (bar.close - state.between) <= 0) return state;
    emit({ event: "lineMet", time: bar.time, ratio: 1, price: state.between });
    return { ...state, status: "met" };
  },
  status: ({ status }) => ({ code: status, dead: status !== "stands" }),
  prices({ anchors }, { state: { direction, between } }) {
    const end = inOrder(anchors)[1].price;
    const [near, far] =
      direction === "up" ? (["support", "resistance"] as const) : (["resistance", "support"] as const);
    return [
      { bottom: end, top: end, role: near, label: "divergence, second swing" },
      { bottom: between, top: between, role: far, label: "divergence, its shift" },
    ];
  },
  say({ anchors, props: { study: name, params, field, values } }, { state }, market) {
    const study = studyOf(name);
    const [a, b] = inOrder(anchors);
    const unit = study?.lines.find((line) => line.name === field)?.unit ?? "number";
    const told = values ? `${valueText(values[0], unit, market)} to ${valueText(values[1], unit, market)}` : "no value";
    const way = state.direction === "up" ? "Bullish" : "Bearish";
    const regular = (state.direction === "up") === b.price < a.price;
    const end =
      state.status === "stands"
        ? `stands; a close ${state.direction === "up" ? "above" : "below"} ${priceText(state.between, market)} meets it`
        : { met: "met by a shift", negated: "failed by a new extreme" }[state.status];
    const kind = regular ? "divergence" : "hidden divergence";
    const prices = `${priceText(a.price, market)} to ${priceText(b.price, market)}`;
    return `${way} ${kind}: price ${prices}, ${study ? studyName(study, params) : name} ${told}; ${end}.`;
  },
};
