import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { axisRoom } from "./axisRoom.ts";
import { boxOf } from "./labels.ts";
import { layOut } from "./picture.ts";
import { buildPyramid } from "./pyramid.ts";
import { makeScale, MARGIN, plotOf } from "./scale.ts";
import { Viewport } from "./viewport.ts";

const bars = (price: number) =>
  buildPyramid(
    fromBars(
      Array.from({ length: 40 }, (_, i) => ({
        time: i * 86_400_000,
        open: price,
        high: price * 1.01,
        low: price * 0.99,
        close: price,
        volume: 1,
      })),
    ),
  );

describe("the price axis", () => {
  it("has its usual room for usual prices, and more for longer ones", () => {
    expect(axisRoom(bars(440.85), { decimals: 2 })).toBe(MARGIN.right);
    expect(axisRoom(bars(1.234567), { decimals: 6 })).toBe(MARGIN.right + 12);
    expect(axisRoom(bars(-1234.567), { decimals: 6 })).toBeGreaterThan(axisRoom(bars(1234.567), { decimals: 2 }));
    expect(axisRoom(buildPyramid(fromBars([])), { decimals: 10 })).toBe(MARGIN.right);
  });
  it.each([
    [440.85, 2],
    [1.234567, 6],
    [23456.123456, 6],
    [0.0000123456, 10],
  ])("a tag at %d with %d decimals ends within the picture", (price, decimals) => {
    const pyramid = bars(price);
    const market = { id: "m", name: "M", tick: 10 ** -decimals, pip: 1, pipName: "pip", decimals };
    const [width, height] = [800, 400];
    const plot = plotOf(width, height, axisRoom(pyramid, market));
    const { tags } = layOut(
      {
        pyramid,
        market,
        timeframe: { count: 1, unit: "day" },
        calendar: new Calendar(ALL_HOURS),
        future: [],
        marks: [],
        scenarios: [],
        selected: [],
        unfinished: false,
      },
      makeScale({ from: 0, to: 40, bottom: price * 0.9, top: price * 1.1 }, plot),
    );
    expect(tags.length).toBeGreaterThan(0);
    for (const tag of tags) expect(tag.kind === "text" && boxOf(tag).right + 6).toBeLessThanOrEqual(width);
  });
  it("keeps the bars in view while its room changes with the market", () => {
    const viewport = new Viewport(bars(440));
    viewport.resize(870, 540);
    viewport.showBars(20);
    const before = viewport.scale;
    viewport.setRoom(110);
    expect(viewport.scale.view).toMatchObject({ from: before.view.from, to: before.view.to });
    expect(viewport.scale.plot.width).toBe(before.plot.width - 40);
  });
});
