import type { ColumnRules } from "#core/columns/columns";
import { columnSeries } from "#core/columns/columnSeries";
import { leadingTargets } from "#core/columns/leading";
import { pointAndFigureOf, type PointAndFigure } from "#core/columns/pointAndFigure";
import type { ColumnTarget } from "#core/columns/targets";
import { columnLines, type ColumnLine } from "#core/columns/trendLines";
import { countText, percentText, priceText } from "#core/marks/wording";
import type { MarketFacts } from "#core/marks/kind";
import type { Series } from "#core/series/series";
import type { Scale } from "./scale.ts";
import type { Shape } from "./shapes.ts";

/** Columns in place of bars, and the targets that are drawn. */
export interface ColumnLayer {
  rules: ColumnRules;
  chart: PointAndFigure;
  targets: readonly ColumnTarget[];
}

/**
 * Bars as columns, with the targets that lead; and the columns as a series to stand on. @throws RangeError where boxes
 * cannot be made: one below a tick, or a percent of prices not above 0.
 */
export function columnLayerOf(bars: Series, rules: ColumnRules, tick: number): { layer: ColumnLayer; series: Series } {
  const chart = pointAndFigureOf(bars, rules, tick);
  const targets = leadingTargets(chart.targets).map(({ target }) => target);
  return { layer: { rules, chart, targets }, series: columnSeries(chart, bars) };
}

/** A box lower than this is no box to the eye: then a column is one bar. */
const LEAST_BOX = 8;
const WIDEST = 15;

/** What is drawn of columns, by column: lines are worked out once for each chart. */
const lines = new WeakMap<PointAndFigure, ColumnLine[]>();

/**
 * Columns in ink, as candles are: boxes hollow in a rising column, filled in a falling one, apart by a hair; where
 * boxes are too low to be told apart a column is one figure.
 */
export function drawColumns({ chart }: ColumnLayer, scale: Scale): Shape[] {
  const { view, slot } = scale;
  const hollow: number[][] = [];
  const filled: number[][] = [];
  const width = Math.min(WIDEST, Math.max(1, Math.floor(slot * 0.72)));
  const first = Math.max(0, Math.floor(view.from));
  const last = Math.min(chart.columns.length - 1, Math.ceil(view.to));
  for (let c = first; c <= last; c++) {
    const { isRising, bottom, top } = chart.columns[c];
    const left = Math.round(scale.x(c) - width / 2) + 0.5;
    const into = isRising ? hollow : filled;
    const half = Math.abs(scale.y(chart.priceOf(bottom)) - scale.y(chart.priceOf(bottom + 1))) / 2;
    if (2 * half < LEAST_BOX) {
      into.push(box(left, width, scale.y(chart.priceOf(top)) - half, scale.y(chart.priceOf(bottom)) + half));
      continue;
    }
    for (let b = bottom; b <= top; b++) {
      const y = scale.y(chart.priceOf(b));
      const tall = Math.abs(y - scale.y(chart.priceOf(b + 1))) / 2;
      if (y + tall < scale.plot.top || y - tall > scale.plot.top + scale.plot.height) continue;
      into.push(box(left, width, y - tall + 1, y + tall - 1));
    }
  }
  return [
    { kind: "path", paths: hollow, stroke: "ink", fill: "sheet", width: 1, closed: true },
    { kind: "path", paths: filled, fill: "ink", closed: true },
  ];
}

function box(left: number, width: number, top: number, bottom: number): number[] {
  const [a, b] = [Math.round(top) + 0.5, Math.max(Math.round(top) + 1.5, Math.round(bottom) - 0.5)];
  return [left, a, left + width, a, left + width, b, left, b];
}

/** Lines of 45 degrees: those that hold whole, those that are over fine and dotted. */
export function drawColumnLines({ chart }: ColumnLayer, { view, x, y }: Scale): Shape[] {
  const known = lines.get(chart) ?? columnLines(chart.columns);
  lines.set(chart, known);
  const end = chart.columns.length - 1;
  return known.flatMap(({ isRising, column, box: from, endedAt }): Shape[] => {
    const to = endedAt ?? end + 4;
    if (to < view.from || column > view.to || to - column < 3) return [];
    const points: number[] = [];
    // On a scale of percents a line of 45 degrees is bent: a point a column.
    for (let c = column; c <= to; c++) points.push(x(c), y(chart.priceOf(from + (isRising ? 1 : -1) * (c - column))));
    const holds = endedAt === undefined;
    return [
      {
        kind: "path",
        paths: [points],
        stroke: holds ? "slate" : "ink3",
        width: holds ? 1.3 : 0.8,
        ...(holds ? {} : { dash: [1, 3] }),
      },
    ];
  });
}

/** Targets that stand, at the right edge, with what was counted: waiting dashed, in force whole. */
export function drawColumnTargets({ chart, targets }: ColumnLayer, scale: Scale, market: MarketFacts): Shape[] {
  const { plot, view } = scale;
  const last = chart.columns.length - 1;
  const right = plot.left + plot.width;
  const left = Math.max(plot.left, scale.x(last + 1));
  return targets.flatMap(({ kind, isUp, count, target, state }): Shape[] => {
    const price = chart.priceOf(target);
    if (price > view.top || price < view.bottom) return [];
    const y = Math.round(scale.y(price)) + 0.5;
    const counted = kind === "vertical" ? countText(count, "box", "boxes") : countText(count, "column");
    const dash = state === "waiting" ? { dash: [6, 4] } : {};
    return [
      { kind: "path", paths: [[left, y, right, y]], stroke: "verdigris", width: 1.2, ...dash },
      {
        ...{ kind: "text", x: right - 4, y: y - 2, color: "verdigris", size: 11, align: "right", baseline: "bottom" },
        text: `${isUp ? "up" : "down"}, ${counted}  ${priceText(price, market)}`,
        ...{ movable: true, halo: "paper" },
      },
    ];
  });
}

/** A box in words: "1.00 %", "5.00". */
export function boxText(chart: Pick<PointAndFigure, "box">, isPercent: boolean, market: MarketFacts): string {
  const { box: size = 0 } = chart;
  return isPercent ? percentText(size, 2) : priceText(size, market);
}
