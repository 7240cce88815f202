import { describe, expect, it } from "vitest";
import { boxText, columnLayerOf, drawColumnLines, drawColumns, drawColumnTargets } from "./columns.ts";
import { makeScale, plotOf, type View } from "./scale.ts";
import type { PathShape, TextShape } from "./shapes.ts";
import { fromBars } from "#core/series/series";
import { market } from "#core/testing/marks";
import { sp500 } from "#core/testing/openData";

const closes = (...prices: number[]) =>
  fromBars(
    prices.map((price, i) => ({
      ...{ time: Date.UTC(2024, 0, 1 + i), open: price, high: price, low: price, close: price, volume: 1 },
    })),
  );
const RULES = { box: 1, reversal: 3, method: "highLow" } as const;
// O 109-90, X 91-95, O 94-91, X 92-95, O 94-91, X 92-98, O 97-94.
const base = columnLayerOf(closes(110, 90, 95, 91, 95, 91, 98, 94), RULES, 0.01);
const scaleOf = (view: Partial<View> = {}) =>
  makeScale({ from: -0.5, to: 12, bottom: 80, top: 120, ...view }, plotOf(600, 500));
const paths = (shapes: readonly { kind: string }[], fill: string) =>
  shapes.flatMap((shape) => ((shape as PathShape).fill === fill ? (shape as PathShape).paths : []));

describe("columns as they are drawn", () => {
  it("a box each, hollow where price rose and filled where it fell", () => {
    const shapes = drawColumns(base.layer, scaleOf());
    expect([paths(shapes, "sheet").length, paths(shapes, "ink").length]).toEqual([5 + 4 + 7, 20 + 4 + 4 + 4]);
  });
  it("a figure a column where boxes are too low to be told apart", () => {
    const shapes = drawColumns(base.layer, scaleOf({ bottom: 0, top: 1_000 }));
    expect([paths(shapes, "sheet").length, paths(shapes, "ink").length]).toEqual([3, 4]);
  });
  it("nothing of columns out of sight, and no box above or below the plot", () => {
    const few = drawColumns(base.layer, scaleOf({ from: 0.6, to: 1.4, bottom: 92.6, top: 97 }));
    expect(paths(few, "sheet").length).toBeLessThan(8);
    expect(paths(drawColumns(base.layer, scaleOf({ from: 100, to: 120 })), "ink")).toEqual([]);
  });
});

describe("targets and lines", () => {
  it("a target in sight is named with what was counted and its price; waiting is dashed", () => {
    const shapes = drawColumnTargets(base.layer, scaleOf(), market);
    const texts = shapes.filter((shape): shape is TextShape => shape.kind === "text").map(({ text }) => text);
    expect(texts).toEqual(
      base.layer.targets.flatMap(({ target }) =>
        target < 120 && target > 80 ? [expect.stringContaining(`${target}.00`) as string] : [],
      ),
    );
    expect(texts.join()).toMatch(/up, 5 columns {2}106\.00/);
    const lines = shapes.filter((shape): shape is PathShape => shape.kind === "path");
    base.layer.targets.forEach(({ state }, i) => expect(lines[i].dash !== undefined).toBe(state === "waiting"));
    expect(drawColumnTargets(base.layer, scaleOf({ bottom: 200, top: 300 }), market)).toEqual([]);
  });
  it("lines of 45 degrees are whole while they hold, and a point a column", () => {
    const { layer } = columnLayerOf(sp500(), { ...RULES, box: { percent: 1 } }, 0.01);
    const shapes = drawColumnLines(layer, scaleOf({ from: 0, to: 1_000, bottom: 600, top: 2_000 }));
    expect(shapes.length).toBeGreaterThan(5);
    expect(shapes.filter((shape) => (shape as PathShape).dash === undefined)).toHaveLength(1);
  });
  it("a box is said in percent or as a price", () => {
    expect(boxText(base.layer.chart, false, market)).toBe("1.00");
    expect(boxText({ box: 0.01 }, true, market)).toBe("1.00 %");
  });
});
