import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { usualOf } from "#core/studies/params";
import { studyOf } from "#core/studies/registry";
import { columnsOf } from "#core/studies/study";
import { sp500 } from "#core/testing/openData";
import { Calendar } from "#core/time/calendar";
import { layOut, type Picture } from "../picture.ts";
import { buildPyramid } from "../pyramid.ts";
import { makeScale, plotOf } from "../scale.ts";
import type { PathShape, Shape } from "../shapes.ts";
import { ChartStudies } from "./chartStudies.ts";
import { extremesOf, visibleColumn } from "./column.ts";
import { drawLine, strokeOf } from "./lines.ts";
import { valueScale } from "./panel.ts";

const series = sp500();
const market = { id: "i", name: "Index", tick: 0.01, pip: 1, pipName: "pt", decimals: 2 };
const calendar = new Calendar({ zone: "UTC", sessions: [] });
const day = { count: 1, unit: "day" } as const;
const on = { series, timeframe: day, calendar, market, unfinished: false, others: new Map<string, typeof series>() };

const chosen = (study: string, params: Record<string, number | string> = {}) => ({
  study,
  params: { ...Object.fromEntries(studyOf(study)!.parameters.map((one) => [one.name, usualOf(one)!])), ...params },
  rungs: [],
  height: 0.14,
});
const FULL = ["cloud", "sma", "ema", "rsi", "macd", "onBalanceVolume", "heikinAshi"].map((name) => chosen(name));
const layerOf = (of = FULL) => new ChartStudies().layer(of, "P1D", on, "")!;

function picture(of = FULL): Picture {
  const studies = layerOf(of);
  return {
    ...{ pyramid: buildPyramid(series), market, timeframe: day, calendar, future: [] as number[], marks: [] },
    ...{ scenarios: [], selected: [], unfinished: false, studies },
  };
}

const SIZE = { width: 900, height: 640 };
const scaleOf = (of = FULL, view = { from: 2_300, to: 2_500, bottom: 600, top: 1_600 }) =>
  makeScale(view, plotOf(SIZE.width, SIZE.height, 70, layerOf(of).heights(SIZE.height)));

describe("a column at halving densities", () => {
  it("keeps every extreme of what is in view, and passes over what has no value", () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.double({ min: -9, max: 9, noNaN: true }), fc.constant(NaN)), {
          minLength: 1,
          maxLength: 3_000,
        }),
        fc.nat(2_000),
        fc.nat(1_500),
        (values, from, width) => {
          const column = Float64Array.from(values);
          const { lows, highs, start, step } = visibleColumn(column, from, from + width, 100);
          const covered = [...column.subarray(start, start + lows.length * step)].filter((one) => !Number.isNaN(one));
          const drawn = [...lows, ...highs].filter((one) => !Number.isNaN(one));
          if (covered.length === 0) expect(drawn).toEqual([]);
          else expect([Math.min(...drawn), Math.max(...drawn)]).toEqual([Math.min(...covered), Math.max(...covered)]);
          expect(lows.length).toBeLessThanOrEqual(102);
        },
      ),
      { numRuns: 60 },
    );
  });
  it("says where a line lies in view, and nothing where it does not", () => {
    const column = Float64Array.from([NaN, 3, 1, 2, NaN]);
    expect(extremesOf(column, 0, 4)).toEqual([1, 3]);
    expect(extremesOf(Float64Array.from([NaN, NaN]), 0, 1)).toBeUndefined();
  });
});

describe("lines of a study", () => {
  const grid = { x: (index: number) => index, y: (value: number) => -value, from: 0, to: 6, width: 100 };
  const stroke = strokeOf("main", 0);
  const linePaths = (...[values, on, ahead, steps]: [Float64Array, typeof grid, number?, boolean?]) =>
    (drawLine(values, on, stroke, ahead, steps) as PathShape).paths;
  it("go through their values, and break where there are none", () =>
    expect(linePaths(Float64Array.from([1, 2, NaN, 3, 4, 5]), grid)).toEqual([
      [0, -1, 1, -2],
      [3, -3, 4, -4, 5, -5],
    ]));
  it("are drawn so many bars later where they stand ahead", () =>
    expect(linePaths(Float64Array.from([1, 2]), grid, 3)).toEqual([[3, -1, 4, -2]]));
  it("that hold for periods end with them", () =>
    expect(linePaths(Float64Array.from([1, 1, 2, 2]), grid, 0, true)).toHaveLength(2));
  it("over more bars than pixels are upright strokes that meet, and keep their pattern", () => {
    const wide = { ...grid, x: (index: number) => index / 4, to: 4_000, width: 1_000 };
    const values = Float64Array.from({ length: 4_000 }, (_, i) => Math.sin(i / 90) * 200 + (i % 4));
    const whole = linePaths(values, wide);
    expect(whole.length).toBeGreaterThan(900);
    for (let n = 1; n < whole.length; n++) {
      const [before, at] = [whole[n - 1], whole[n]];
      expect(at[0]).toBe(at[2]);
      expect(Math.min(at[3], before[3]) - Math.max(at[1], before[1])).toBeGreaterThanOrEqual(0);
    }
    const dashed = drawLine(values, wide, { stroke: "ink2", dash: [8, 8] }) as PathShape;
    expect(dashed.dash).toBeUndefined();
    expect(dashed.paths.length / whole.length).toBeCloseTo(0.5, 1);
  });
  it("are ink, and two among the prices differ", () => {
    const strokes = [0, 1, 2, 3].map((order) => strokeOf("main", order));
    expect(new Set(strokes.map(({ dash }) => String(dash))).size).toBe(4);
  });
});

describe("studies on a chart", () => {
  const INK = new Set(["ink", "ink2", "ink3", "rule", "faint", "paper", "sheet", undefined]);
  const pigments = (shapes: readonly Shape[]) =>
    shapes.flatMap((shape) => (shape.kind === "path" ? [shape.stroke, shape.fill] : [shape.color, shape.halo]));

  it("are drawn in ink, never in a pigment: they are data", () => {
    const drawn = layOut(picture(), scaleOf());
    expect(pigments([...drawn.panels, ...drawn.heads]).filter((one) => !INK.has(one))).toEqual([]);
    expect(pigments(layerOf().amongPrices(scaleOf())).filter((one) => !INK.has(one))).toEqual([]);
  });
  it("stand one under the other beneath the prices, four at most, and leave those room", () => {
    const heights = layerOf().heights(SIZE.height);
    expect(heights).toHaveLength(4);
    const { plot } = scaleOf();
    expect(plot.height).toBeGreaterThan(150);
    expect(plot.top + plot.height + heights.reduce((sum, one) => sum + one, 0)).toBe(SIZE.height - 30);
    for (const small of [120, 200, 330])
      for (const height of layerOf().heights(small)) expect(height).toBeGreaterThanOrEqual(0);
  });
  it("draw nothing above their panel or beneath the last one", () => {
    const { plot } = scaleOf();
    const drawn = layOut(picture(), scaleOf()).panels.filter((shape) => shape.kind === "path");
    const ys = drawn.flatMap(({ paths }) => paths.flatMap((path) => path.filter((_, i) => i % 2 === 1)));
    expect(Math.min(...ys)).toBeGreaterThanOrEqual(plot.top + plot.height - 12);
    expect(Math.max(...ys)).toBeLessThanOrEqual(SIZE.height - 30 + 12);
  });
  it("name themselves with their value and what it reads", () => {
    const texts = layOut(picture(), scaleOf()).heads.flatMap((shape) => (shape.kind === "text" ? [shape.text] : []));
    const rsi = columnsOf(studyOf("rsi")!, { period: 14, of: "close" }, series, { tick: 0.01 })[0].at(-1)!;
    expect(texts).toContain("RSI 14");
    expect(texts.some((text) => text.startsWith(rsi.toFixed(1)))).toBe(true);
    expect(texts.some((text) => text.startsWith("SMA 50"))).toBe(true);
  });
  it("have the scale of their bounds, or as far as their lines go in view", () => {
    const plot = { left: 0, top: 0, width: 100, height: 100 };
    const of = (name: string) => {
      const study = studyOf(name)!;
      const { params } = chosen(name);
      return { study, params, columns: columnsOf(study, params, series, { tick: 0.01 }) };
    };
    const rsi = valueScale(of("rsi"), plot, { from: 2_300, to: 2_500 });
    expect([rsi.bottom, rsi.top]).toEqual([-6, 106]);
    const atr = of("atr");
    const { bottom, top } = valueScale(atr, plot, { from: 2_300, to: 2_500 });
    for (const value of atr.columns[0].slice(2_300, 2_501)) expect(value > bottom && value < top).toBe(true);
  });
  it("are gone on with when bars are added, and begun anew with others", () => {
    const kept = new ChartStudies();
    const before = kept.drawn(FULL, "P1D", on, "a");
    const after = kept.drawn(FULL, "P1D", on, "a");
    after.forEach(({ columns }, i) => expect([...columns[0]]).toEqual([...before[i].columns[0]]));
    expect(kept.drawn([], "P1D", on, "a")).toEqual([]);
  });
  it("that need another market or shorter bars are left out while there are none", () => {
    expect(new ChartStudies().drawn([chosen("correlation", { with: "x" })], "P1D", on, "")).toEqual([]);
    expect(new ChartStudies().drawn([chosen("openingRange")], "P1D", on, "")).toEqual([]);
    expect(new ChartStudies().drawn([chosen("pivotLevels")], "P1D", on, "")).toHaveLength(1);
    const others = new Map([["x", series]]);
    const [same] = new ChartStudies().drawn([chosen("correlation", { with: "x" })], "P1D", { ...on, others }, "");
    expect(same.columns[0].at(-1)).toBeCloseTo(1, 9);
  });
});
