import { describe, expect, it } from "vitest";
import { moveOfTarget } from "#core/columns/asMove";
import { columnSeries } from "#core/columns/columnSeries";
import { agrees, leadingTargets } from "#core/columns/leading";
import { pointAndFigureOf, type PointAndFigure } from "#core/columns/pointAndFigure";
import type { BoxSize } from "#core/columns/grid";
import { columnLines } from "#core/columns/trendLines";
import { measuredMove } from "#core/marks/measuring/measuredMove";
import { targetAt } from "#core/marks/measuring/targetKind";
import { fromBars, type Series } from "#core/series/series";
import { sp500 } from "#core/testing/openData";

const closes = (...prices: number[]): Series =>
  fromBars(
    prices.map((price, i) => ({
      ...{ time: Date.UTC(2024, 0, 1 + i), open: price, high: price, low: price, close: price, volume: 1 },
    })),
  );
const chartOf = (series: Series, box: BoxSize = 1, reversal = 3) =>
  pointAndFigureOf(series, { box, reversal, method: "highLow" }, 0.01);
const base = closes(110, 90, 95, 91, 95, 91, 96, 98, 94);

describe("a counted target as a measured move", () => {
  const laid = (chart: PointAndFigure, series: Series, n: number, isPercent = false) => {
    const move = moveOfTarget(chart, chart.targets[n], series, isPercent)!;
    const [{ price: from }, { price: to }] = move.anchors;
    return { move, price: targetAt({ leg: { from, to }, origin: to, wrong: from }, move.ratio, move.scale) };
  };
  it("vertical: twice the thrust beyond its end, from the low it came off", () => {
    const series = closes(100, 90, 95, 92);
    const { move, price } = laid(chartOf(series), series, 0);
    expect(move.anchors).toEqual([
      { time: series.time[1], price: 90 },
      { time: series.time[2], price: 95 },
    ]);
    expect([move.ratio, price]).toEqual([2, 105]);
  });
  it("horizontal: from the lowest box of the base to its highest, and on", () => {
    const chart = chartOf(base);
    const n = chart.targets.findIndex(({ kind }) => kind === "horizontal");
    const { move, price } = laid(chart, base, n);
    expect(move.anchors.map(({ price: at }) => at)).toEqual([91, 95]);
    expect(price).toBeCloseTo(106, 9);
  });
  // Open data: S&P 500, carried by vega-datasets (npm).
  it.each<[string, BoxSize, number]>([
    ["fixed boxes", 10, 3],
    ["boxes in percent", { percent: 1 }, 3],
    ["one box of ATR turns", { atr: 14, multiple: 0.5 }, 1],
  ])("every target of ten years, %s, is the same price as a mark that can be kept", (_, box, reversal) => {
    const series = sp500();
    const chart = chartOf(series, box, reversal);
    const isPercent = typeof box === "object" && "percent" in box;
    let seen = 0;
    chart.targets.forEach((target, n) => {
      const move = moveOfTarget(chart, target, series, isPercent);
      if (!move) return;
      const { price } = laid(chart, series, n, isPercent);
      expect(Math.abs(price / chart.priceOf(target.target) - 1)).toBeLessThan(1e-9);
      expect(move.ratio).toBeGreaterThan(0);
      expect(measuredMove.readProps({ ratios: [move.ratio], scale: move.scale })).toBeDefined();
      const [from, to] = move.anchors;
      expect(from.time).toBeLessThan(to.time);
      seen++;
    });
    expect(seen).toBeGreaterThan(0.95 * chart.targets.length);
  });
});

describe("targets that stand", () => {
  it("of nested counts from one extreme the widest leads; what is over is left out", () => {
    const chart = chartOf(closes(120, 90, 99, 91, 95, 91, 95, 91, 96, 100, 97));
    const leading = leadingTargets(chart.targets).filter(({ target }) => target.kind === "horizontal");
    expect(leading.map(({ target, nested }) => [target.count, nested.map(({ count }) => count)])).toEqual([
      [7, [6, 5]],
    ]);
    expect(leadingTargets(chart.targets).every(({ target }) => !["met", "negated"].includes(target.state))).toBe(true);
  });
  it("agree within a box, the same way", () => {
    const chart = chartOf(base);
    expect(agrees(chart, { isUp: true, price: 107 })).toBe(true);
    expect(agrees(chart, { isUp: true, price: 107.5 })).toBe(false);
    expect(agrees(chart, { isUp: false, price: 106 })).toBe(false);
  });
});

// Common practice, no source: from the box below a low a box a column, until a falling column goes below it.
describe("lines of 45 degrees", () => {
  const at = (...columns: [isRising: boolean, bottom: number, top: number][]) =>
    columnLines(columns.map(([isRising, bottom, top]) => ({ isRising, bottom, top })));
  it("hold while columns stay beyond them, their own box included", () => {
    expect(at([true, 10, 14], [false, 11, 13], [true, 12, 18])).toEqual([{ isRising: true, column: 0, box: 9 }]);
    expect(at([true, 10, 14], [false, 10, 13])).toEqual([{ isRising: true, column: 0, box: 9 }]);
  });
  it("end at the column that goes beyond, and the next begins at the furthest since", () =>
    expect(at([true, 10, 14], [false, 11, 13], [true, 12, 18], [false, 5, 17])).toEqual([
      { isRising: true, column: 0, box: 9, endedAt: 3 },
      { isRising: false, column: 2, box: 19 },
    ]));
  it("of no column there are none, and of many they come to an end", () => {
    expect(columnLines([])).toEqual([]);
    const lines = columnLines(chartOf(sp500(), { percent: 1 }).columns);
    expect(lines.length).toBeGreaterThan(10);
    lines.slice(0, -1).forEach(({ endedAt, column }) => expect(endedAt).toBeGreaterThan(column));
    expect(lines.at(-1)!.endedAt).toBeUndefined();
  });
});

it("columns are bars dated by what began them; the last closes at the last price", () => {
  const series = closes(100, 90, 95, 92.5);
  const columns = columnSeries(chartOf(series), series);
  expect(Array.from(columns.time)).toEqual([1, 2].map((i) => series.time[i]).concat());
  expect([columns.open[0], columns.close[0], columns.high[0], columns.low[0]]).toEqual([99, 90, 99, 90]);
  expect([columns.open[1], columns.close[1], columns.high[1], columns.low[1]]).toEqual([91, 92.5, 95, 91]);
});
