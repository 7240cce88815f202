import { describe, expect, it } from "vitest";
import { grown } from "#core/series/grown";
import { barAt, fromBars, slice, type Series } from "#core/series/series";
import { sp500 } from "#core/testing/openData";
import { buildPyramid, goesOn, growPyramid, visible, type Pyramid } from "./pyramid.ts";

const levels = ({ levels: all }: Pyramid) =>
  all.map((series) => Array.from({ length: series.length }, (_, i) => barAt(series, i)));

describe("a pyramid that grows", () => {
  // Open data: a daily index, 2000 to 2020 (vega-datasets).
  it("is the one that is built at once, after every bar and every change of the last one", () => {
    const whole = sp500();
    let series: Series = slice(whole, 0, 3000);
    let pyramid = buildPyramid(series);
    for (let n = 3001; n < 3140; n++) {
      // The new last bar is still being made, then it is whole.
      const running = fromBars([{ ...barAt(whole, n - 1), close: whole.low[n - 1], high: whole.open[n - 1] }]);
      for (const last of [running, slice(whole, n - 1, n)]) {
        const before = series;
        series = grown(series, last);
        expect(goesOn(series, before)).toBe(true);
        pyramid = growPyramid(pyramid, series);
      }
      expect(levels(pyramid)).toEqual(levels(buildPyramid(slice(whole, 0, n))));
    }
  });
  it("of another beginning, or a shorter series, is none", () => {
    const whole = sp500();
    expect(goesOn(slice(whole, 1, 100), slice(whole, 0, 99))).toBe(false);
    expect(goesOn(slice(whole, 0, 50), slice(whole, 0, 99))).toBe(false);
    expect(goesOn(whole, slice(whole, 0, 0))).toBe(false);
  });
  it("draws no more bars than there is room for, each over all it stands for", () => {
    const whole = sp500();
    const { series, step } = visible(buildPyramid(whole), 0, whole.length, 600);
    expect(series.length).toBeLessThanOrEqual(602);
    expect(Math.max(...series.high)).toBe(Math.max(...whole.high));
    expect(step).toBe(16);
  });
});
