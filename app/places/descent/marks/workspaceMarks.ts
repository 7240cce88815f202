import type { Anchor, Mark } from "#core/marks/kind";
import { isSilent, kindOf } from "#core/marks/registry";
import type { PaneView } from "../charts/Pane.tsx";
import type { LoadedBars } from "../charts/useBars.ts";

/** How many marks a chart draws, where some that it might show are left out. */
export function drawnOf(some: number, argued: readonly Mark[]): { some: number; of: number } | undefined {
  const of = argued.filter((mark) => !isSilent(mark) && !mark.hidden).length;
  return some < of && some > 0 ? { some, of } : undefined;
}

/** A zone whose edge was moved keeps the analyst's edges. */
export function owned(mark: Mark): Mark {
  return mark.kind === "zone" ? { ...mark, props: { ...mark.props, own: true } } : mark;
}

/** A mark as it was just placed on a chart, completed from its bars. */
export function placedMark(kind: string, anchors: Anchor[], view: PaneView, { series }: LoadedBars): Mark {
  const { market } = view.desk;
  const props = kindOf({ kind }).readProps({}) ?? {};
  const said = { id: crypto.randomUUID(), kind, market: market.id, rung: view.rung, anchors, props };
  const mark: Mark = { ...said, note: "", author: "", version: 0 };
  return kindOf(mark).complete?.(mark, { series, market, calendar: view.calendar }) ?? mark;
}

/** A mark as it was let go: what is fitted to bars is fitted anew, a zone's edges are the analyst's own from now on. */
export function droppedMark(dropped: Mark, view: PaneView | undefined): Mark {
  const mark = owned(dropped);
  if (mark.kind !== "fittedLevel" || !view?.bars) return mark;
  const context = { series: view.bars.series, market: view.desk.market, calendar: view.calendar };
  return kindOf(mark).complete?.(mark, context) ?? mark;
}
