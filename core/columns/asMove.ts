import type { PointAndFigure } from "#core/columns/pointAndFigure";
import type { ColumnTarget } from "#core/columns/targets";
import type { Series } from "#core/series/series";

/** A target as the measured move that lays off the same price. */
export interface CountedMove {
  /** The extreme it is counted from, and the edge it leaves. */
  anchors: { time: number; price: number }[];
  ratio: number;
  scale: "arithmetic" | "log";
}

/**
 * A counted target as a measured move on the bars it was counted from: from the extreme to the edge that is left, and
 * the share of that height beyond which the target lies. On boxes in percent equal ratios are laid off, so that it is
 * the same price. Nothing where both lie on one box.
 */
export function moveOfTarget(
  chart: Pick<PointAndFigure, "columns" | "priceOf">,
  { kind, isUp, from, target, start, knownAt }: ColumnTarget,
  { time }: Pick<Series, "time">,
  isPercent: boolean,
): CountedMove | undefined {
  const { columns } = chart;
  const first = columns.findIndex((column) => column.start === start);
  const thrust = columns[first];
  if (!thrust) return undefined;
  const edgeOf = ({ bottom, top }: typeof thrust) => (isUp ? top : bottom);
  const extremeOf = ({ bottom, top }: typeof thrust) => (isUp ? bottom : top);
  const base = columns.slice(first).filter((column) => column.start <= knownAt);
  const at = kind === "vertical" ? columns[first - 1] : base.find((column) => extremeOf(column) === from);
  const edges = base.slice(0, -1).map(edgeOf);
  const edge = kind === "vertical" ? edgeOf(thrust) : isUp ? Math.max(...edges) : Math.min(...edges);
  if (!at || edge === from) return undefined;
  const [a, b, to] = [from, edge, target].map((box) => chart.priceOf(box));
  return {
    anchors: [
      { time: time[at.end], price: a },
      { time: time[kind === "vertical" ? thrust.end : knownAt], price: b },
    ],
    ratio: isPercent ? Math.log(to / b) / Math.log(b / a) : (to - b) / (b - a),
    scale: isPercent ? "log" : "arithmetic",
  };
}
