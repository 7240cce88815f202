import type { MarkKind } from "#core/marks/kind";
import { barsBetween, inOrder, readRatios, TIME_RATIOS, type MeasuredLine } from "#core/marks/measuring/lines";
import { countText, percentText } from "#core/marks/wording";

export interface TimeRatiosProps {
  ratios: number[];
}

export interface TimeRatiosState {
  /** Bars of the leg, and bars since the point it is counted from. */
  span: number;
  passed: number;
  /** Of each ratio the bar it came with; null while it lies ahead. */
  came: (number | null)[];
}

/** A multiple of a leg's bars, to the nearest bar: the same as `timeRatios` of `compute` counts. */
export const barsOf = (ratio: number, span: number) => Math.floor(ratio * span + 0.5 + 1e-9);

/**
 * Multiples of the bars of a leg, counted from its end or from a third anchor (common practice, no source). Counted in
 * bars of the mark's own rung, never in days.
 */
export const timeRatios: MarkKind<TimeRatiosProps, TimeRatiosState> = {
  kind: "timeRatios",
  title: "Time ratios",
  anchors: { least: 2, most: 3 },
  onExtremes: true,
  readProps(raw) {
    const ratios = readRatios(raw.ratios, TIME_RATIOS);
    return ratios && { ratios };
  },
  check({ anchors }) {
    const [a, b] = anchors;
    return b.time > a.time ? [] : [{ sentence: "The second anchor stands on a later bar than the first.", anchor: 1 }];
  },
  start({ anchors, props }, { series }) {
    const [a, b, c = b] = anchors;
    const span = Math.max(0, barsBetween(series, a.time, b.time));
    const latest = inOrder(anchors).at(-1)!;
    const passed = Math.max(0, barsBetween(series, c.time, latest.time));
    return { span, passed, came: props.ratios.map((ratio) => (barsOf(ratio, span) <= passed ? latest.time : null)) };
  },
  advance({ props }, state, bar, emit) {
    if (state.came.every((one) => one !== null)) return state;
    const passed = state.passed + 1;
    const came = state.came.map((one, n) => {
      const bars = barsOf(props.ratios[n], state.span);
      if (one !== null || bars > passed) return one;
      emit({ event: "timeCame", time: bar.time, ratio: props.ratios[n], bars });
      return bar.time;
    });
    return { ...state, passed, came };
  },
  status: ({ came }) => {
    const over = came.every((one) => one !== null);
    return { code: over ? "passed" : "ahead", dead: over };
  },
  prices: () => [],
  lines: ({ props }, { state: { span, passed, came } }) =>
    props.ratios.map((ratio, n): MeasuredLine => {
      const at = came[n];
      const ahead = barsOf(ratio, span) - passed;
      return {
        name: percentText(ratio),
        ahead,
        state: at === null ? "ahead" : "passed",
        ...(at === null ? {} : { at }),
      };
    }),
  say({ props }, { state: { span, passed, came } }) {
    const next = came.findIndex((one) => one === null);
    const left = next < 0 ? 0 : barsOf(props.ratios[next], span) - passed;
    const end = next < 0 ? "all passed" : `${percentText(props.ratios[next])} in ${countText(left, "bar")}`;
    return `Time ratios of ${countText(span, "bar")}: ${end}.`;
  },
};
