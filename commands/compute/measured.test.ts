import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { SP500_FILE } from "#core/testing/openData";
import { compute } from "./compute.ts";

const folder = mkdtempSync(path.join(tmpdir(), "measured-"));
let files = 0;

/** A file of daily bars: [high, low, close], each opening at the close before. */
function daily(rows: readonly (readonly [number, number, number])[], first = Date.UTC(2024, 0, 1)): { file: string } {
  const name = path.join(folder, `${++files}.csv`);
  const lines = rows.map(([high, low, close], i) => {
    const open = i === 0 ? close : rows[i - 1][2];
    const [top, bottom] = [Math.max(high, open), Math.min(low, open)];
    return [new Date(first + i * 86_400_000).toISOString().slice(0, 10), open, top, bottom, close].join(",");
  });
  writeFileSync(name, ["date,open,high,low,close", ...lines].join("\n"));
  return { file: name };
}

const ask = (bars: object | undefined, request: object) =>
  compute({ ...(bars ? { bars } : {}), ask: [request] }).answers[0].values;
const day = (n: number) => new Date(Date.UTC(2024, 0, n)).toISOString().slice(0, 10);

describe("measured moves", () => {
  const points = { a: { time: day(1), price: 100 }, b: { time: day(3), price: 110 }, c: { time: day(4), price: 104 } };
  it("lay multiples of a leg off from a third point, with or without bars (worked by hand)", () => {
    expect(ask(undefined, { quantity: "measuredMove", ...points, ratios: [0.5, 1] })).toEqual([
      { ratio: 0.5, price: 109, change: expect.closeTo(109 / 104 - 1, 12) as number },
      { ratio: 1, price: 114, change: expect.closeTo(114 / 104 - 1, 12) as number },
    ]);
    const [log] = ask(undefined, { quantity: "measuredMove", ...points, ratios: [1], scale: "log" });
    expect(log.price).toBeCloseTo(104 * 1.1, 9);
  });
  it("name the first bar after the third point that reached one, a tolerance before it included", () => {
    const bars = daily([
      [101, 100, 101],
      [105, 100, 104],
      [110, 104, 108],
      [120, 104, 105],
      [108, 104, 106],
      [109, 106, 108],
      [113, 108, 112],
    ]);
    const met = (tolerance: number) =>
      ask(bars, { quantity: "measuredMove", ...points, ratios: [0.5, 1, 2], tolerance }).map(({ metAt, bars: n }) => [
        metAt,
        n,
      ]);
    expect(met(0)).toEqual([
      [day(6), 2],
      [undefined, undefined],
      [undefined, undefined],
    ]);
    expect(met(1)).toEqual([
      [day(5), 1],
      [day(7), 3],
      [undefined, undefined],
    ]);
  });
  it("downwards are the mirror of upwards", () => {
    const mirrored = Object.fromEntries(
      Object.entries(points).map(([name, { time, price }]) => [name, { time, price: 220 - price }]),
    );
    const [up, down] = [points, mirrored].map(
      (leg) => ask(undefined, { quantity: "measuredMove", ...leg, ratios: [1] })[0],
    );
    expect(down.price).toBe(220 - (up.price as number));
  });
  it.each([
    [{ ...points, b: { time: day(3), price: 100 } }, /no length/],
    [{ ...points, c: { time: day(4), price: 0 } }, /above 0/],
    [{ ...points, ratios: [0] }, /above 0/],
    [{ ...points, tolerance: -1 }, /0 or more/],
  ])("of no leg are a fault", (asked, words) =>
    expect(() => ask(undefined, { quantity: "measuredMove", ...asked })).toThrow(words),
  );
});

describe("times", () => {
  const bars = daily(Array.from({ length: 12 }, (_, i) => [10 + i, 8 + i, 9 + i] as const));
  it("are multiples of a leg's bars from a third bar, in bars that are there or ahead", () => {
    const asked = { quantity: "timeRatios", a: day(2), b: day(7), c: day(8), ratios: [0.5, 0.618, 1] };
    expect(ask(bars, asked)).toEqual([
      // 2.5 bars are rounded up: 3.
      { ratio: 0.5, bars: 3, time: day(11) },
      { ratio: 0.618, bars: 3, time: day(11) },
      { ratio: 1, bars: 5, ahead: 1 },
    ]);
  });
  it("outside of the bars, or of no leg, are a fault", () => {
    const times = { a: day(2), b: day(7), c: day(8) };
    expect(() => ask(bars, { quantity: "timeRatios", ...times, c: day(13) })).toThrow(/"c" lies outside/);
    expect(() => ask(bars, { quantity: "timeRatios", ...times, b: day(2) })).toThrow(/later bar/);
  });
});

describe("a cycle", () => {
  const lows = [5, 9, 8, 9, 5, 9, 9, 8, 9, 5, 9, 8, 5, 9];
  const bars = daily(lows.map((low, i) => [low + 3 + (i === 6 ? 2 : 0), low, low + 1] as const));
  it("tells how far off each trough was, its peak between, and when the next is due (worked by hand)", () => {
    const [{ troughs, n, period, next }] = ask(bars, {
      quantity: "cycles",
      troughs: [day(1), day(5), day(10), day(13)],
      window: 1,
    }) as never as [Record<string, never>];
    expect([n, period]).toEqual([3, 4]);
    expect(troughs).toMatchObject([
      { time: day(1), price: 5, knownAt: day(1) },
      { time: day(5), bars: 4 },
      {
        time: day(10),
        bars: 5,
        period: 4,
        error: 1,
        share: 0.25,
        state: "on time",
        peak: { time: day(7), bars: 2, state: "early" },
      },
      { time: day(13), bars: 3, period: 4.5, error: -1.5, state: "early" },
    ]);
    expect(next).toEqual({ from: 3, ideal: 4, to: 5, ahead: 3, state: "ahead" });
  });
  it("is proposed from the swing lows, each known so many bars later", () => {
    const [{ troughs }] = ask(bars, { quantity: "cycles", k: 2 }) as never as [
      { troughs: { time: string; knownAt: string }[] },
    ];
    expect(troughs.map(({ time, knownAt }) => [time, knownAt])).toEqual([
      [day(5), day(7)],
      [day(10), day(12)],
    ]);
  });
  it("of one trough, of a label without a bar, or falling, is a fault or says nothing", () => {
    expect(() => ask(bars, { quantity: "cycles", troughs: [day(1)] })).toThrow(/two labels/);
    expect(() => ask(bars, { quantity: "cycles", troughs: [day(1), day(40)] })).toThrow(/label of no bar/);
    expect(() => ask(bars, { quantity: "cycles", troughs: [day(5), day(1)] })).toThrow(/must rise/);
    expect(ask(daily([[2, 1, 1]]), { quantity: "cycles" })).toEqual([{ troughs: [], n: 0 }]);
  });
});

describe("divergences", () => {
  it("a lower low with a higher value is regular and up, a higher high with a lower one regular and down", () => {
    const closes = [20, 18, 14, 10, 13, 15, 12, 9.5, 12, 14, 13];
    const bars = daily(closes.map((close) => [close + 0.5, close - 0.5, close] as const));
    const [first] = ask(bars, { quantity: "divergences", k: 2, of: { quantity: "rateOfChange", period: 2 } });
    expect(first).toMatchObject({
      ...{ time: day(8), kind: "regular", direction: "up", bars: 4, knownAt: day(10) },
      from: { time: day(4), price: 9.5, value: expect.closeTo(10 / 18 - 1, 9) as number },
      to: { time: day(8), price: 9, value: expect.closeTo(9.5 / 15 - 1, 9) as number },
    });
    expect(
      ask(bars, { quantity: "divergences", k: 2, longest: 3, of: { quantity: "rateOfChange", period: 2 } }),
    ).toEqual([]);
  });
  it("values that are the same are none, whatever price did", () => {
    // Both lows are 10/18 of what was two bars before, the second one higher.
    const closes = [20, 18, 14, 10, 13, 19.8, 15, 11, 12, 14, 13];
    const bars = daily(closes.map((close) => [close + 0.5, close - 0.5, close] as const));
    const asked = { quantity: "divergences", k: 2, of: { quantity: "rateOfChange", period: 2 } };
    expect(ask(bars, asked)).toEqual([]);
    const higher = daily(
      [...closes.slice(0, 5), 19.9, ...closes.slice(6)].map((close) => [close + 0.5, close - 0.5, close] as const),
    );
    expect(ask(higher, asked)).toMatchObject([{ kind: "hidden", direction: "up" }]);
  });
  it("on open data every one of them is what it says (S&P 500, vega-datasets)", () => {
    const found = ask({ file: SP500_FILE }, { quantity: "divergences" }) as never as {
      kind: string;
      direction: string;
      from: { price: number; value: number };
      to: { price: number; value: number };
    }[];
    expect(found.length).toBeGreaterThan(60);
    for (const { kind, direction, from, to } of found) {
      const [price, value] = [Math.sign(to.price - from.price), Math.sign(to.value - from.value)];
      expect(price).toBe(-value);
      expect(kind === "regular").toBe(price < 0 === (direction === "up"));
    }
  });
  it.each([
    [{ of: { quantity: "sma", period: 3 } }, /must be one of rsi/],
    [{ of: { quantity: "rsi" } }, /needs "period"/],
    [{ of: { quantity: "rsi", period: 3, odd: 1 } }, /no field "odd"/],
    [{ of: { quantity: "macd" }, field: "k" }, /must be one of macd, signal, histogram/],
  ])("of what is no oscillator are a fault", (asked, words) =>
    expect(() => ask({ file: SP500_FILE }, { quantity: "divergences", ...asked })).toThrow(words),
  );
});

describe("lead and lag", () => {
  // Planted: the other market repeats the own one's returns two days later.
  const returns = Array.from({ length: 200 }, (_, i) => (((i * 7919) % 101) - 50) / 1000);
  const prices = (shift: number) => {
    let price = 100;
    return returns.map((_, i) => {
      price *= 1 + (returns[i - shift] ?? 0);
      return [price * 1.01, price * 0.99, price] as const;
    });
  };
  it("finds who moves first, by how much and whether that is more than chance", () => {
    const rows = ask(daily(prices(0)), { quantity: "leadLag", with: daily(prices(2)), lags: 4 });
    expect(rows.map(({ lag }) => lag)).toEqual([-4, -3, -2, -1, 0, 1, 2, 3, 4]);
    const best = rows.reduce((most, row) => ((row.value as number) > (most.value as number) ? row : most));
    expect(best).toMatchObject({
      lag: 2,
      n: 197,
      outside: true,
      band: expect.closeTo(1.959963984540054 / Math.sqrt(199), 12) as number,
    });
    expect(best.value).toBeGreaterThan(0.95);
    const other = ask(daily(prices(2)), { quantity: "leadLag", with: daily(prices(0)), lags: 4 });
    other.forEach(({ value }, i) => expect(value).toBeCloseTo(rows.at(-1 - i)!.value as number, 9));
  });
  it("of too few bars, or of a market that stands still, is nothing", () => {
    const still = daily(returns.map(() => [5, 5, 5] as const));
    expect(ask(daily(prices(0)), { quantity: "leadLag", with: still })).toEqual([]);
    expect(
      ask(daily(prices(0).slice(0, 5)), { quantity: "leadLag", with: daily(prices(0).slice(0, 5)), lags: 4 }),
    ).toEqual([]);
  });
});

describe("the range expected", () => {
  // Fourteen days from a Monday: two whole weeks, ranges 8 and 10.
  const bars = daily(Array.from({ length: 15 }, (_, i) => [20 + (i < 7 ? 4 : 5), 20 - (i < 7 ? 4 : 5), 20] as const));
  it("is laid about the close of each complete period, or the next one's open", () => {
    expect(ask(bars, { quantity: "expectedRange", n: 2, percentile: 0.5 })).toEqual([
      {
        ...{ time: day(8), for: day(15), mean: 9, wide: 9, reference: 20 },
        ...{ upper: 29, lower: 11, wideUpper: 29, wideLower: 11 },
      },
    ]);
    const [first, second] = ask(bars, { quantity: "expectedRange", n: 1, reach: 0.5 });
    expect([first.upper, second.upper]).toEqual([24, 25]);
    expect(ask(bars, { quantity: "expectedRange", n: 1, from: "open" })).toHaveLength(2);
    expect(() => ask(bars, { quantity: "expectedRange", percentile: 1.5 })).toThrow(/from 0 to 1/);
  });
});
