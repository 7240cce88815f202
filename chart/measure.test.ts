import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { measure, measureText, spanText } from "./measure.ts";

const HOUR = 3_600_000;
const series = fromBars(
  [0, 1, 2, 3, 50].map((hour) => ({ time: hour * HOUR, open: 1, high: 1, low: 1, close: 1, volume: 1 })),
);
const market = { pip: 0.0001, pipName: "pip", decimals: 5 };
const future = [51 * HOUR, 52 * HOUR];

describe("the ruler", () => {
  it("counts bars, not hours, where the market was shut between, and goes on into the future's room", () => {
    expect(
      measure({ time: HOUR, price: 1.2 }, { time: 52 * HOUR, price: 1.206 }, series, future, market),
    ).toMatchObject({ bars: 5, time: 51 * HOUR });
  });
  it(
    "says the move as price, percent and pips (a pip of a currency is its fourth decimal: common practice, " +
      "no source)",
    () => {
      const up = measure({ time: 0, price: 1.2 }, { time: 3 * HOUR, price: 1.206 }, series, future, market);
      expect(measureText(up, market)).toBe("3 bars, 3 h, +0.00600, +0.50 %, +60 pip");
      const down = measure({ time: 3 * HOUR, price: 1.206 }, { time: 0, price: 1.2 }, series, future, market);
      expect(measureText(down, market)).toBe("3 bars, 3 h, \u22120.00600, \u22120.50 %, \u221260 pip");
    },
  );
  it("of a price of zero it says no percent", () => {
    expect(
      measureText(measure({ time: 0, price: 0 }, { time: 0, price: 5 }, series, [], { pip: 1 }), {
        pipName: "pt",
        decimals: 0,
      }),
    ).toBe("0 bars, 0 min, +5, +5 pt");
  });
  it.each([
    [35 * 60_000, "35 min"],
    [2 * HOUR, "2 h"],
    [2.5 * HOUR, "2 h 30 min"],
    [76 * HOUR, "3 days 4 h"],
    [-24 * HOUR, "1 day"],
    [90 * 24 * HOUR, "90 days"],
  ])("%d ms are %s", (span, text) => expect(spanText(span)).toBe(text));
});
