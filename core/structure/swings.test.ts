import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { slice } from "#core/series/series";
import { swings } from "#core/structure/swings";
import { days, sp500, walk } from "#core/testing/openData";

const steps = fc.array(
  fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
  { maxLength: 120 },
);

describe("swings", () => {
  it("a high between lower highs is a swing, known k bars later", () => {
    const series = days([1, 2, 1, 2], [2, 3, 2, 3], [3, 6, 3, 5], [4, 5, 2, 3], [3, 4, 2, 2]);
    expect(swings(series, 2)).toEqual([{ index: 2, time: series.time[2], side: "high", price: 6, knownAt: 4 }]);
  });
  it("of two equal highs the later stands, or none where strictness on both sides is asked", () => {
    const series = days([1, 2, 1, 2], [2, 5, 2, 3], [3, 5, 3, 4], [3, 4, 2, 3], [2, 3, 2, 2]);
    expect(swings(series, 1).map(({ index, side }) => `${side} ${index}`)).toContain("high 2");
    expect(swings(series, 1, "none").filter(({ side }) => side === "high")).toEqual([]);
  });
  it("agrees with a plain second implementation on open data", () => {
    const series = sp500();
    const expected: string[] = [];
    for (let i = 3; i < series.length - 3; i++) {
      const others = [-3, -2, -1, 1, 2, 3].map((step) => i + step);
      if (others.every((j) => series.high[j] < series.high[i])) expected.push(`high ${i}`);
      if (others.every((j) => series.low[j] > series.low[i])) expected.push(`low ${i}`);
    }
    expect(swings(series, 3, "none").map(({ side, index }) => `${side} ${index}`)).toEqual(expected);
    expect(expected.length).toBeGreaterThan(300);
  });
  it("what is known as of a bar is what the series cut there gives", () => {
    fc.assert(
      fc.property(steps, fc.nat(119), fc.integer({ min: 1, max: 4 }), (drawn, at, k) => {
        const series = walk(drawn);
        const cut = Math.min(at, series.length);
        expect(swings(series, k).filter(({ knownAt }) => knownAt < cut)).toEqual(swings(slice(series, 0, cut), k));
      }),
    );
  });
  it("mirrored prices swap highs and lows", () => {
    fc.assert(
      fc.property(steps, (drawn) => {
        const series = walk(drawn);
        const mirror = (values: Float64Array) => values.map((value) => 1000 - value);
        const turned = {
          ...series,
          open: mirror(series.open),
          close: mirror(series.close),
          high: mirror(series.low),
          low: mirror(series.high),
        };
        const key = (list: ReturnType<typeof swings>, flip: boolean) =>
          list.map(({ index, side }) => `${index} ${(side === "high") !== flip}`).sort();
        expect(key(swings(turned), true)).toEqual(key(swings(series), false));
      }),
    );
  });
});
