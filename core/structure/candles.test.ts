import { bearishengulfingpattern, bullishengulfingpattern } from "technicalindicators";
import { describe, expect, it } from "vitest";
import { candleAt } from "#core/structure/candles";
import { days, sp500 } from "#core/testing/openData";
import { turned } from "#core/testing/mirror";

const last = (...bars: [number, number, number, number][]) => candleAt(days(...bars), bars.length - 1, 0.01);

describe("candles", () => {
  // Common practice, no source: today's body covers yesterday's and goes the other way.
  it("engulf when the body covers the one before, ends included, and is longer", () => {
    expect(last([102, 103, 99, 100], [99.5, 104, 99, 103])).toBe("engulfing up");
    expect(last([102, 103, 99, 100], [100, 104, 99.5, 102.5])).toBe("engulfing up");
    expect(last([100, 103, 99, 102], [102.5, 103, 98, 99.5])).toBe("engulfing down");
    // Equal bodies, the same colour, or a body that leaves one end uncovered are none.
    expect(last([102, 103, 99, 100], [100, 103, 99, 102])).toBeUndefined();
    expect(last([100, 103, 99, 102], [99.5, 104, 99, 103])).toBeUndefined();
    expect(last([102, 103, 99, 100], [100.25, 104, 99, 103])).toBeUndefined();
  });
  // Common practice, no source: a small body or a long tail.
  it("are undecided with a small body or a long wick, and say nothing without a range", () => {
    expect(last([100, 104, 96, 101])).toBe("indecision");
    expect(last([100, 110, 99.5, 103.5])).toBe("indecision");
    expect(last([100, 104, 99.5, 103.5])).toBeUndefined();
    expect(last([100, 100, 100, 100])).toBeUndefined();
  });
  it(
    "engulf wherever a reference library says so, which asks for both ends to lie beyond, on open data " +
      "(technicalindicators 3.1, npm; S&P 500, vega-datasets)",
    () => {
      const { open, high, low, close, length } = sp500();
      let [agreed, touching] = [0, 0];
      for (let i = 1; i < length; i++) {
        const pair = Object.fromEntries(
          Object.entries({ open, high, low, close }).map(([name, column]) => [name, [column[i - 1], column[i]]]),
        ) as unknown as Parameters<typeof bullishengulfingpattern>[0];
        const [up, down] = [bullishengulfingpattern(pair), bearishengulfingpattern(pair)];
        const own = candleAt({ open, high, low, close }, i, 1e-6);
        if (up || down) expect(own).toBe(up ? "engulfing up" : "engulfing down");
        else if (own?.startsWith("engulfing")) {
          touching++;
          expect(open[i] === close[i - 1] || close[i] === open[i - 1]).toBe(true);
        }
        if (up || down) agreed++;
      }
      expect(agreed).toBeGreaterThan(20);
      expect(touching).toBeGreaterThan(0);
    },
  );
  it("turned upside down go the other way", () => {
    const series = sp500();
    const other = turned(series, (price) => 3000 - price);
    const swap = {
      indecision: "indecision",
      "engulfing up": "engulfing down",
      "engulfing down": "engulfing up",
    } as const;
    for (let i = 0; i < series.length; i += 3) {
      const candle = candleAt(series, i, 1e-6);
      expect(candleAt(other, i, 1e-6)).toBe(candle && swap[candle]);
    }
  });
});
