import { describe, expect, it } from "vitest";
import { baseAround, edgesOf, zoneEdges } from "#core/zones/edges";
import { days } from "#core/testing/openData";

/** Twenty lively bars, so that the ATR is about 4, then what the test adds. */
const lively = Array.from({ length: 20 }, (_, i): [number, number, number, number] =>
  i % 2 === 0 ? [100, 104, 100, 103] : [103, 104, 100, 100],
);

// The rule is a fact of the trade: common practice, no source.
describe("the edges of a zone", () => {
  it("demand runs from the top of the last bearish body of the base to its lowest wick", () => {
    const series = days([10, 11, 9, 10.5], [10.5, 10.8, 9.5, 9.8], [9.8, 10.2, 9.2, 10]);
    expect(edgesOf(series, { from: 0, to: 2 }, "demand")).toEqual({ bottom: 9, top: 10.5 });
  });
  it("supply is its mirror: from the bottom of the last bullish body to the highest wick", () => {
    const series = days([10, 11, 9, 10.5], [10.5, 10.8, 9.5, 9.8], [9.8, 10.2, 9.2, 10]);
    expect(edgesOf(series, { from: 0, to: 2 }, "supply")).toEqual({ bottom: 9.8, top: 11 });
  });
  it("without an opposite candle the body's edge stands in", () => {
    expect(edgesOf(days([10, 11, 9.5, 10.4], [10.4, 10.9, 10.1, 10.7]), { from: 0, to: 1 }, "demand")).toEqual({
      bottom: 9.5,
      top: 10.7,
    });
  });
  it("the base is the run of quiet bars about the one that was clicked", () => {
    const series = days(...lively, [100, 101, 99.5, 100.5], [100.5, 101, 100, 100.2], [100, 108, 100, 108]);
    expect(baseAround(series, 21)).toEqual({ from: 20, to: 21 });
  });
  it("a strong leg up out of it makes demand, and a departed one", () => {
    const series = days(...lively, [100, 101, 99.5, 100.5], [100.5, 101, 100, 100.2], [100, 110, 100, 110]);
    expect(zoneEdges(series, { from: 20, to: 21 })).toMatchObject({
      side: "demand",
      departed: true,
      bottom: 99.5,
      top: 100.5,
    });
  });
  it("a weak leg leaves it pending", () => {
    const series = days(...lively, [100, 101, 99.5, 100.5], [100.5, 101, 100, 100.2], [100, 102, 100, 101]);
    expect(zoneEdges(series, { from: 20, to: 21 }).departed).toBe(false);
  });
});
