import { followMark } from "#core/marks/follow";
import type { Anchor, Mark } from "#core/marks/kind";
import { isSilent, kindOf } from "#core/marks/registry";
import { keptRatios } from "./keptRatios.ts";
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

/**
 * A mark as it was just placed on a chart, completed from its bars. A zone of which nobody said what it is, and which
 * would be over at once as its candles have it, is the other one where that still holds.
 */
export function placedMark(
  kind: string,
  anchors: Anchor[],
  view: PaneView,
  bars: LoadedBars,
  said: Record<string, unknown> = {},
): Mark {
  const { market } = view.desk;
  // With the ratios the analyst gave the last one.
  const ratios = keptRatios(kind);
  const props =
    kindOf({ kind }).readProps({ ...(ratios ? { ratios } : {}), ...said }) ?? kindOf({ kind }).readProps(said) ?? {};
  const own = { id: crypto.randomUUID(), kind, market: market.id, rung: view.rung, anchors, props };
  const mark: Mark = { ...own, note: "", author: "", version: 0 };
  const context = { series: bars.series, market, calendar: view.calendar };
  const completed = (one: Mark) => kindOf(one).complete?.(one, context) ?? one;
  const read = completed(mark);
  if (kind !== "zone" || said.side !== undefined || !followMark(read, context).dead) return read;
  const other = completed({ ...mark, props: { ...props, side: read.props.side === "demand" ? "supply" : "demand" } });
  return followMark(other, context).dead ? read : other;
}

/** What has to be told of a mark that was just placed: that it is over already. */
export function freshText(mark: Mark, view: PaneView, { series }: LoadedBars): string | undefined {
  const { market } = view.desk;
  const life = followMark(mark, { series, market, calendar: view.calendar });
  if (!life.dead) return undefined;
  return `${kindOf(mark).title}: ${life.status} since it was made. It stands in the list while it is chosen.`;
}

/** A mark of the desk that says the very same. */
export function twinOf(mark: Mark, marks: readonly Mark[]): Mark | undefined {
  const same = ({ kind, rung, anchors, props, hidden }: Mark) =>
    !hidden &&
    kind === mark.kind &&
    rung === mark.rung &&
    anchors.length === mark.anchors.length &&
    anchors.every(({ time, price }, i) => time === mark.anchors[i].time && price === mark.anchors[i].price) &&
    JSON.stringify(props) === JSON.stringify(mark.props);
  return marks.find(same);
}

const FITTED = ["fittedLevel", "regressionChannel", "divergence"];

/** Whether what a mark says is worked out from the bars between its anchors: moved, it is worked out anew. */
export const isFitted = ({ kind }: Pick<Mark, "kind">): boolean => FITTED.includes(kind);

/** A mark as it was let go: what is fitted to bars is fitted anew, a zone's edges are the analyst's own from now on. */
export function droppedMark(dropped: Mark, view: PaneView | undefined): Mark {
  const mark = owned(dropped);
  if (!isFitted(mark) || !view?.bars) return mark;
  const context = { series: view.bars.series, market: view.desk.market, calendar: view.calendar };
  return kindOf(mark).complete?.(mark, context) ?? mark;
}
