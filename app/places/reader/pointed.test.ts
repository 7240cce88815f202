import { describe, expect, it } from "vitest";
import type { Pointing } from "../../../server/readers/pointing.ts";
import { barText, barTime, pointedAt, steppedFrom, type Place } from "./pointed.ts";

// Ten bars of 10 pixels each from index 40 on, five to come; 100 to 200 over 100 pixels.
const pointing: Pointing = {
  size: { width: 200, height: 130 },
  plot: { left: 0, top: 10, width: 150, height: 100 },
  view: { from: 39.5, to: 54.5, bottom: 100, top: 200 },
  first: 40,
  bars: Array.from({ length: 10 }, (_, i) => [i * 60_000, 110 + i, 112 + i, 108 + i, 111 + i]),
};
const line = (price: number, says: string): Place => ({ bottom: price, top: price, says });

describe("a picture that is pointed at", () => {
  it("tells the bar under the pointer and the price at its height; the cross stands on the bar's middle", () => {
    // 60 pixels below the top of the plot: 200 - 60.
    expect(pointedAt(pointing, [], 33, 70)).toMatchObject({ x: 35, y: 70, price: 140, bar: pointing.bars[3] });
    expect(pointedAt(pointing, [], 39.9, 70)?.bar).toEqual(pointing.bars[3]);
    expect(pointedAt(pointing, [], 40.1, 70)?.bar).toEqual(pointing.bars[4]);
  });

  it("tells the price alone where bars are still to come, and nothing outside the plot", () => {
    expect(pointedAt(pointing, [], 125, 70)).toMatchObject({ price: 140, bar: undefined });
    for (const [x, y] of [
      [-1, 70],
      [151, 70],
      [30, 9],
      [30, 111],
    ])
      expect(pointedAt(pointing, [], x, y)).toBeUndefined();
  });

  it("means the published price that is near, the narrowest of several, and none that is far", () => {
    const zone: Place = { bottom: 130, top: 160, says: "supply" };
    const places = [zone, line(141, "target 1"), line(170, "stop")];
    const meant = (y: number) => pointedAt(pointing, places, 30, y)?.place?.says;
    expect(meant(70)).toBe("target 1");
    expect(meant(79)).toBe("supply");
    expect(meant(85)).toBe("supply");
    expect(meant(95)).toBeUndefined();
    expect(meant(42)).toBe("stop");
  });

  it("is walked from bar to bar, at the close of each, and no further than there are bars", () => {
    const last = steppedFrom(pointing, undefined, -1);
    expect(pointedAt(pointing, [], last.x, last.y)).toMatchObject({ bar: pointing.bars[9], price: 120 });
    const at = pointedAt(pointing, [], last.x, last.y);
    const before = steppedFrom(pointing, at, -3);
    expect(pointedAt(pointing, [], before.x, before.y)?.bar).toEqual(pointing.bars[6]);
    expect(steppedFrom(pointing, at, 1)).toEqual(last);
    expect(steppedFrom(pointing, at, -1e6).x).toBe(5);
  });

  it("says when a bar was: the date of a day, the moment of less", () => {
    const moment = (time: number) => `moment ${time}`;
    const day = Date.parse("2026-08-28T00:00Z");
    expect(barTime(day, "P1D", moment)).toBe("Fri 28 Aug 2026");
    expect(barTime(day, "P1W", moment)).toBe("Fri 28 Aug 2026");
    expect(barTime(day, "PT4H", moment)).toBe(`moment ${day}`);
  });

  it("says the values of a bar as the market's prices are written", () => {
    expect(barText(pointing.bars[0], { decimals: 2 })).toBe("open 110.00, high 112.00, low 108.00, close 111.00");
  });
});
