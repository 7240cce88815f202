import { allocate } from "#core/series/series";
import { closeOfBar } from "#core/series/resample";
import type { LinkedCursor } from "../../../canvas/linkedCursor.ts";
import { indexOfInstant } from "../../../../chart/picture.ts";
import type { PaneView } from "../charts/Pane.tsx";
import { stepFrom } from "./walk.ts";

const NO_BARS = allocate(0);
/** Bars before the last one where walking through the past begins. */
const WALKED_BACK = 40;

/** Where a walk through the past begins on the chart that is worked on, and where its next step leads. */
export function useWalk(view: PaneView | undefined, moment: number | undefined, cursor: LinkedCursor) {
  return {
    /** The close of the bar that is held or under the crosshair or, without one, of one a few bars before the last. */
    start(): number | undefined {
      const series = view?.bars?.series;
      if (!view?.picture || !series || series.length === 0) return undefined;
      const read = cursor.get()?.read;
      const pointed = read?.bar ? read.index : Math.max(0, series.length - WALKED_BACK);
      const held = moment === undefined ? undefined : indexOfInstant(view.picture, moment);
      const index =
        held !== undefined && held >= 0 && held < series.length ? held : Math.min(pointed, series.length - 1);
      return closeOfBar(series.time[index], view.timeframe, view.calendar);
    },
    step(from: number, direction: 1 | -1): number {
      if (!view) return from;
      return stepFrom(from, direction, view.bars?.series ?? NO_BARS, view.timeframe, view.calendar);
    },
  };
}
