import type { MarkContext, Mark, MarkKind } from "#core/marks/kind";
import { indexAt, inOrder, outOfOrder, type MeasuredLine } from "#core/marks/measuring/lines";
import { countText } from "#core/marks/wording";
import { cycleOf, type Trough } from "#core/projections/cycles";
import { slice } from "#core/series/series";

export interface CycleProps {
  /** Bars about the ideal place that still count as on time. */
  window: number;
}

export interface CycleState {
  troughs: Trough[];
  /** The usual span in bars; 0 where there is none. */
  period: number;
  /** Bars since the last trough. */
  passed: number;
  phase: "ahead" | "due" | "overdue";
}

/** Actual lows fall within three to four bars of the ideal (common practice, no source). */
const WINDOW = 4;
const MOST = 40;

function troughsOf({ anchors, props }: Mark<CycleProps>, { series }: MarkContext) {
  const indices = [...new Set(inOrder(anchors).map(({ time }) => indexAt(series, time)))];
  // What comes after the last of them is told bar by bar.
  const until = slice(series, 0, Math.min(series.length, (indices.at(-1) ?? -1) + 1));
  return cycleOf(until, series.length === 0 ? [] : indices.map((index) => ({ index, knownAt: index })), props.window);
}

/**
 * A cycle from low to low, marked by hand or proposed: equal spans, the longer with halves and thirds nested in it
 * (J. M. Hurst, The Profit Magic of Stock Transaction Timing, 1970, from memory), the window about the next low by
 * common practice. It says how far off each low was and where the peak between fell.
 */
export const cycle: MarkKind<CycleProps, CycleState> = {
  kind: "cycle",
  title: "Cycle",
  anchors: { least: 2, most: MOST },
  onExtremes: true,
  readProps({ window = WINDOW, ...rest }) {
    if (!Number.isInteger(window) || (window as number) < 0 || (window as number) > 1_000) return undefined;
    return Object.keys(rest).length === 0 ? { window: window as number } : undefined;
  },
  check: ({ anchors }) => outOfOrder(anchors),
  start(mark, context) {
    const { troughs, period = 0 } = troughsOf(mark, context);
    return { troughs, period, passed: 0, phase: "ahead" };
  },
  advance({ props: { window } }, state, bar, emit) {
    if (state.period === 0) return state;
    const passed = state.passed + 1;
    const phase = passed < state.period - window ? "ahead" : passed > state.period + window ? "overdue" : "due";
    if (phase !== state.phase && phase !== "ahead") emit({ event: phase, time: bar.time, bars: passed });
    return { ...state, passed, phase };
  },
  status: ({ phase }) => ({ code: phase, dead: false }),
  prices: () => [],
  lines({ props: { window } }, { state: { period, passed, phase, troughs } }) {
    if (period === 0) return [];
    const line = (name: string, bars: number): MeasuredLine => {
      const ahead = Math.round(bars - passed);
      return { name, ahead, state: ahead >= 0 ? "ahead" : "passed" };
    };
    const usual = troughs.flatMap(({ bars }) => bars ?? []);
    const range = `usual ${Math.min(...usual)} to ${Math.max(...usual)} bars`;
    return [
      { ...line(`next low (${range})`, period), state: phase },
      line("window begins", period - window),
      line("window ends", period + window),
      line("half", period / 2),
      line("first third", period / 3),
      line("second third", (2 * period) / 3),
    ];
  },
  say({ props: { window } }, { state: { troughs, period, passed, phase } }) {
    const name = `Cycle of ${countText(troughs.length, "low")}`;
    if (period === 0) return `${name}: no span yet.`;
    const [from, to] = [period - window - passed, period + window - passed].map(Math.round);
    const last = troughs.at(-1);
    const off = last?.error === undefined ? "" : `, the last one ${errorText(last.error)}`;
    const next =
      phase === "overdue"
        ? `overdue by ${countText(-to, "bar")}`
        : phase === "due"
          ? `due, ${countText(to, "bar")} left`
          : `next low in ${from} to ${countText(to, "bar")}`;
    return `${name}: every ${countText(Math.round(period), "bar")}${off}; ${next}.`;
  },
};

function errorText(error: number): string {
  const bars = countText(Math.abs(Math.round(error)), "bar");
  return Math.round(error) === 0 ? "on its bar" : `${bars} ${error < 0 ? "early" : "late"}`;
}
