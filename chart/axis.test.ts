import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { Calendar } from "#core/time/calendar";
import { drawNights, nights } from "./nights.ts";
import { buildPyramid } from "./pyramid.ts";
import { makeScale } from "./scale.ts";
import { priceTicks } from "./ticks.ts";
import { Viewport } from "./viewport.ts";
import { drawVolume } from "./volume.ts";

const plot = { left: 0, top: 10, width: 800, height: 400 };
const scaleOf = (bottom: number, top: number, log: boolean) => makeScale({ from: 0, to: 100, bottom, top, log }, plot);

describe("a log axis", () => {
  it("gives equal ratios equal room, and leads back from pixels to prices", () => {
    const { y, price } = scaleOf(10, 1000, true);
    expect(y(10) - y(100)).toBeCloseTo(y(100) - y(1000), 9);
    fc.assert(
      fc.property(fc.double({ min: 10, max: 1000, noNaN: true }), (value) => {
        expect(price(y(value)) / value).toBeCloseTo(1, 9);
      }),
    );
  });
  it("is an even one where prices reach zero or below, as of a spread", () => {
    const { y } = scaleOf(-5, 5, true);
    expect(y(0)).toBeCloseTo(plot.top + plot.height / 2, 9);
  });
  it("has round ticks that are apart, also over many powers of ten", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-4, max: 1e4, noNaN: true }),
        fc.double({ min: 2.1, max: 1e6, noNaN: true }),
        (bottom, ratio) => {
          const { y } = scaleOf(bottom, bottom * ratio, true);
          const ticks = priceTicks(bottom, bottom * ratio, plot.height, true);
          for (let i = 1; i < ticks.length; i++) expect(y(ticks[i - 1]) - y(ticks[i])).toBeGreaterThan(51);
          for (const tick of ticks) expect(Number(tick.toPrecision(6)) / tick).toBeCloseTo(1, 9);
        },
      ),
    );
  });
  it("of prices that no number lies between, or that span everything, has no ticks and is soon done", () => {
    expect(priceTicks(400, 400.0000000000001, 400)).toEqual([]);
    expect(priceTicks(1e-300, 1e300, 400, true).length).toBeLessThan(10);
    expect(priceTicks(NaN, NaN, 400)).toEqual([]);
    expect(priceTicks(400, 410, 400).length).toBeGreaterThan(3);
  });
  it("is fitted and stretched by ratios", () => {
    const viewport = new Viewport(
      buildPyramid(
        fromBars(
          Array.from({ length: 200 }, (_, i) => ({
            time: i,
            open: 10,
            high: i === 190 ? 1000 : 20,
            low: 10,
            close: 15,
            volume: 1,
          })),
        ),
      ),
    );
    viewport.resize(870, 540);
    viewport.setLog(true);
    viewport.showLatest();
    const { bottom, top } = viewport.scale.view;
    expect(10 / bottom).toBeCloseTo(top / 1000, 9);
    viewport.setPrices(bottom, top, 2);
    const wide = viewport.scale.view;
    expect(Math.log(wide.top / wide.bottom)).toBeCloseTo(2 * Math.log(top / bottom), 9);
    viewport.movePrices(wide.bottom, wide.top, 0.5);
    expect(viewport.scale.view.bottom).toBeCloseTo(Math.sqrt(wide.bottom * wide.top), 6);
    viewport.fitPrices();
    expect(viewport.manual).toBe(false);
  });
});

describe("going to a bar", () => {
  it("puts it into the middle, as wide as the view was", () => {
    const viewport = new Viewport(
      buildPyramid(
        fromBars(Array.from({ length: 5000 }, (_, i) => ({ time: i, open: 1, high: 2, low: 1, close: 1, volume: 1 }))),
      ),
    );
    viewport.resize(870, 540);
    viewport.showLatest();
    const width = viewport.scale.view.to - viewport.scale.view.from;
    viewport.centre(1234);
    const { from, to } = viewport.scale.view;
    expect([(from + to) / 2, to - from]).toEqual([1234, width]);
  });
});

const calendar = new Calendar({
  zone: "UTC",
  sessions: [
    { days: [1, 2, 3, 4, 5], open: "20:00", close: "08:00", opensDayBefore: true, kind: "overnight" },
    { days: [1, 2, 3, 4, 5], open: "08:00", close: "20:00" },
  ],
});
const START = Date.UTC(2024, 0, 2);
const hours = fromBars(
  Array.from({ length: 72 }, (_, i) => ({
    time: START + i * 3_600_000,
    open: 1,
    high: 2,
    low: 1,
    close: 1,
    volume: i % 24 < 8 ? 10 : 40,
  })),
);

describe("nights and volume", () => {
  it("a night is the stretch of its bars, and what is traded in it is paler", () => {
    const found = nights((i) => hours.time[i], 0, 71, calendar);
    expect(found).toEqual([
      { from: 0, to: 7 },
      { from: 20, to: 31 },
      { from: 44, to: 55 },
      { from: 68, to: 71 },
    ]);
    const scale = makeScale({ from: -0.5, to: 71.5, bottom: 0, top: 3 }, plot);
    expect(drawNights(found, scale)).toHaveLength(1);
    const [day, night] = drawVolume(buildPyramid(hours), scale, found);
    const count = (shape: typeof day) => (shape.kind === "path" ? shape.paths.length : 0);
    expect([count(day), count(night)]).toEqual([36, 36]);
  });
  it("the tallest volume in view takes an eighth of the plot, whatever lies beyond", () => {
    const scale = makeScale({ from: -0.5, to: 6.5, bottom: 0, top: 3 }, plot);
    const [day] = drawVolume(buildPyramid(hours), scale, []);
    if (day.kind !== "path") throw new Error("no columns");
    const tops = day.paths.slice(0, 7).map(([, foot, , top]) => foot - top);
    expect(Math.max(...tops) / plot.height).toBeGreaterThan(0.03);
    expect(Math.max(...tops) / plot.height).toBeLessThanOrEqual(0.13 + 1e-9);
  });
  it("without volume, and with more bars than a night is wide, nothing is drawn", () => {
    const none = fromBars([{ time: START, open: 1, high: 1, low: 1, close: 1, volume: 0 }]);
    expect(drawVolume(buildPyramid(none), makeScale({ from: 0, to: 1, bottom: 0, top: 1 }, plot), [])).toEqual([]);
    expect(nights(() => START, 0, 7000, calendar)).toEqual([]);
  });
});
