import { readFileSync } from "node:fs";
import { SMA } from "trading-signals";
import { beforeAll, describe, expect, it } from "vitest";
import { atr } from "#core/studies/atr";
import { ema } from "#core/studies/ema";
import { rsi } from "#core/studies/rsi";
import { sma } from "#core/studies/sma";
import { days, sp500 } from "#core/testing/openData";
import { loadTalib, type TaLib } from "#core/testing/talib";

const series = sp500();

/** Two columns agree where the reference is defined, and ours is undefined before. */
function agree(ours: Float64Array, reference: readonly number[], relative = 1e-9): void {
  const offset = ours.length - reference.length;
  expect([...ours.slice(0, offset)].every(Number.isNaN)).toBe(true);
  const worst = reference.reduce((most, value, i) => Math.max(most, Math.abs(ours[offset + i] / value - 1)), 0);
  expect(worst).toBeLessThan(relative);
}

describe("averages on open data", () => {
  // Reference: trading-signals 8.3 (npm).
  it.each([5, 20, 200])("a simple average of %i closes equals the reference library's", (period) => {
    const reference = new SMA(period);
    const values = [...series.close].map((close) => reference.add(close)).filter((value) => value !== null);
    agree(sma(series.close, period), values);
  });

  // Reference: TA-Lib compiled to WebAssembly, talib-web 0.1.3 (npm): EMA seeded with the SMA, Wilder's RSI and ATR.
  describe("against TA-Lib", () => {
    let talib: TaLib;
    beforeAll(async () => void (talib = await loadTalib()));

    // Its output begins at the first defined value and is as long as the input: the rest is left over memory.
    const defined = ({ output }: { output: number[] }, warmUp: number) => output.slice(0, series.length - warmUp);

    it.each([9, 26, 200])("an exponential average of %i", (period) => {
      agree(
        ema(series.close, period),
        defined(talib.EMA({ inReal: [...series.close], timePeriod: period }), period - 1),
      );
    });
    it.each([2, 14, 30])("relative strength of %i", (period) => {
      agree(
        rsi(series.close, period),
        defined(talib.RSI({ inReal: [...series.close], timePeriod: period }), period),
        1e-8,
      );
    });
    it.each([2, 14, 30])("average true range of %i", (period) => {
      const input = { high: [...series.high], low: [...series.low], close: [...series.close], timePeriod: period };
      agree(atr(series, period), defined(talib.ATR(input), period));
    });
  });

  // Reference: spreadsheet results on open data in the tests of @d3fc/d3fc-technical-indicator 8.1 (npm).
  describe("against a spreadsheet", () => {
    const read = (name: string) => {
      const [header, ...rows] = readFileSync(
        `node_modules/@d3fc/d3fc-technical-indicator/test/data/${name}.csv`,
        "utf8",
      )
        .trim()
        .split(/\r?\n/);
      const names = header.split(",");
      return (column: string) => rows.map((row) => Number.parseFloat(row.split(",")[names.indexOf(column)]));
    };
    const input = read("input");
    const compare = (ours: (values: Float64Array) => Float64Array, column: string, file: string, field: string) => {
      // The sheet has empty rows before its first price and after its last.
      const prices = input(column);
      const expected = read(file)(field);
      const first = prices.findIndex((value) => !Number.isNaN(value));
      const values = ours(Float64Array.from(prices.slice(first).filter((value) => !Number.isNaN(value))));
      let compared = 0;
      expected.slice(first).forEach((value, i) => {
        if (Number.isNaN(value) || i >= values.length) return;
        expect(values[i]).toBeCloseTo(value, 6);
        compared++;
      });
      expect(compared).toBeGreaterThan(50);
    };
    it("RSI of 14 closes", () => compare((values) => rsi(values, 14), "Close", "rsi", "RSI"));
    it("SMA of 10 opens", () => compare((values) => sma(values, 10), "Open", "movingAverage", "MA"));
    it("EMA of 9 opens", () => compare((values) => ema(values, 9), "Open", "exponentialMovingAverage", "EMA"));
  });
});

describe("edges of the averages", () => {
  it("nothing stands before the warm-up, not even with fewer bars than the period", () => {
    for (const average of [sma, ema, rsi]) expect([...average(Float64Array.of(1, 2, 3), 5)]).toEqual([NaN, NaN, NaN]);
    expect([...atr(days([1, 2, 1, 2]), 14)]).toEqual([NaN]);
  });
  it("a spike that leaves the window leaves nothing behind", () => {
    const values = Float64Array.from([1e15, 0.1, 0.2, 0.3, 0.4]);
    expect(sma(values, 2)[4]).toBeCloseTo(0.35, 12);
  });
  it("strength is 100 without losses, 0 without gains and 50 without either", () => {
    expect(rsi(Float64Array.of(1, 2, 3, 4), 3)[3]).toBe(100);
    expect(rsi(Float64Array.of(4, 3, 2, 1), 3)[3]).toBe(0);
    expect(rsi(Float64Array.of(2, 2, 2, 2), 3)[3]).toBe(50);
  });
  it("ATR of 14 begins at the 15th bar", () => {
    const values = atr(
      days(...Array.from({ length: 20 }, (): [number, number, number, number] => [10, 12, 9, 11])),
      14,
    );
    expect(values.findIndex((value) => !Number.isNaN(value))).toBe(14);
    expect(values[14]).toBeCloseTo(3, 12);
  });
});
