import { mean, median, sampleStandardDeviation } from "simple-statistics";
import { describe, expect, it } from "vitest";
import { breadthOf } from "#core/context/breadth";
import { commonCloses, ranksOf } from "#core/context/ranks";
import { seasonality } from "#core/context/seasonality";
import { dayOf, isoWeekOf, tradingHour } from "#core/context/seasonKeys";
import { fromBars, type Series } from "#core/series/series";
import { drawsOf } from "#core/statistics/intervals";
import { sp500 } from "#core/testing/openData";

const day = (n: number) => Date.UTC(2024, 0, 1 + n);
/** Closes by day; days without one are left out. */
const closes = (...prices: (number | undefined)[]): Series =>
  fromBars(
    prices.flatMap((price, n) =>
      price === undefined ? [] : [{ time: day(n), open: price, high: price, low: price, close: price, volume: 1 }],
    ),
  );

describe("keys of the calendar", () => {
  // ISO 8601: 1 January 2021 is a Friday of week 53; 4 January 2021 begins week 1; 30 December 2024 is of week 1.
  it.each([
    ["2021-01-01", 53],
    ["2021-01-04", 1],
    ["2024-12-30", 1],
    ["2024-12-29", 52],
    ["2020-12-31", 53],
  ])("%s is of week %i", (date, week) => expect(isoWeekOf(Date.parse(date))).toBe(week));
  it("a Sunday is the seventh day", () =>
    expect(dayOf(Date.parse("2024-03-31"))).toEqual({ month: 3, day: 31, weekday: 7 }));
  it("hours are the market's own, summer time included", () => {
    expect(tradingHour(Date.parse("2024-01-15T14:30:00Z"), "America/New_York")).toBe(9);
    expect(tradingHour(Date.parse("2024-07-15T13:30:00Z"), "America/New_York")).toBe(9);
  });
});

describe("seasonality", () => {
  // Open data: S&P 500, carried by vega-datasets (npm); figures held against simple-statistics (npm).
  const series = sp500();
  const returns = Array.from({ length: series.length - 1 }, (_, i) => ({
    key: dayOf(series.time[i + 1]).weekday,
    value: series.close[i + 1] / series.close[i] - 1,
  }));
  it("a reference library says the same of every day of the week", () => {
    const seasons = seasonality(returns);
    expect(seasons.map(({ key }) => key)).toEqual([1, 2, 3, 4, 5]);
    for (const { key, n, ...season } of seasons) {
      const own = returns.filter((one) => one.key === key).map(({ value }) => value);
      expect(n).toBe(own.length);
      expect(season.mean).toBeCloseTo(mean(own), 14);
      expect(season.median).toBeCloseTo(median(own), 14);
      expect(season.deviation).toBeCloseTo(sampleStandardDeviation(own), 12);
      expect(season.error).toBeCloseTo(sampleStandardDeviation(own) / Math.sqrt(n), 12);
      expect(season.rises).toBe(own.filter((value) => value > 0).length / n);
      expect(season.adjusted).toBe(Math.min(1, 5 * season.p!));
    }
  });
  it("p is near what dealing the keys out at random gives", () => {
    const part = returns.slice(0, 400);
    const [first] = seasonality(part);
    const draw = drawsOf(4);
    const total = mean(part.map(({ value }) => value));
    const away = Math.abs(first.mean - total);
    let further = 0;
    const deals = 2_000;
    for (let k = 0; k < deals; k++) {
      let sum = 0;
      const values = part.map(({ value }) => value);
      for (let i = 0; i < first.n; i++) {
        const at = i + draw(values.length - i);
        [values[i], values[at]] = [values[at], values[i]];
        sum += values[i];
      }
      if (Math.abs(sum / first.n - total) >= away) further++;
    }
    expect(Math.abs(further / deals - first.p!)).toBeLessThan(0.04);
  });
  it("dealt out at random, about one key in twenty is beyond 5 %, and adjusted nearly none", () => {
    const draw = drawsOf(9);
    let [beyond, adjusted, all] = [0, 0, 0];
    for (let k = 0; k < 60; k++)
      for (const { p, adjusted: of } of seasonality(
        returns.slice(0, 500).map(({ value }) => ({ key: draw(12), value })),
      )) {
        all++;
        if (p! < 0.05) beyond++;
        if (of! < 0.05) adjusted++;
      }
    expect(beyond / all).toBeGreaterThan(0.02);
    expect(beyond / all).toBeLessThan(0.08);
    expect(adjusted / all).toBeLessThan(0.015);
  });
  it("a planted month is found", () => {
    const planted = returns.map(({ value }, i) => ({ key: i % 12, value: value + (i % 12 === 3 ? 0.01 : 0) }));
    const [first, second] = seasonality(planted).sort((a, b) => a.p! - b.p!);
    expect(first.key).toBe(3);
    expect(first.adjusted).toBeLessThan(1e-9);
    expect(second.p!).toBeGreaterThan(1e3 * first.p!);
  });
  it("one key, one return, or no move have no chance to tell", () => {
    expect(seasonality([{ key: 1, value: 0.5 }])).toEqual([{ key: 1, n: 1, mean: 0.5, median: 0.5, rises: 1 }]);
    expect(seasonality([])).toEqual([]);
    expect(seasonality([1, 2].map((key) => ({ key, value: 0 })))[0]).not.toHaveProperty("p");
  });
});

// Worked by hand.
describe("ranks", () => {
  const market = closes(100, 100, 110, 121);
  const members = [
    { name: "b", series: closes(10, 11, 10, 15) },
    { name: "a", series: closes(20, 20, 20, 30) },
    { name: "c", series: closes(40, 44, 44, 44) },
  ];
  it("by return, equal ones share a rank, names by code units; the change is against the rank before", () => {
    const { time, rows } = ranksOf(market, members, { windows: [1, 3, 9], ago: 1 })!;
    expect(time).toBe(day(3));
    expect(rows.map(({ name, window, rank, change }) => [window, rank, name, change])).toEqual([
      [1, 1, "a", 0],
      [1, 1, "b", 2],
      [1, 3, "c", -2],
      [3, 1, "a", undefined],
      [3, 1, "b", undefined],
      [3, 3, "c", undefined],
    ]);
    expect(rows[0].return).toBeCloseTo(0.5, 12);
    expect(rows[0].excess).toBeCloseTo(0.4, 12);
  });
  it("only labels that all of them have count", () => {
    expect(commonCloses([closes(1, 2, undefined, 4), closes(5, undefined, 7, 8)])).toEqual({
      ...{ time: [day(0), day(3)] },
      closes: [
        [1, 4],
        [5, 8],
      ],
    });
    expect(ranksOf(closes(1), [{ name: "a", series: closes(undefined, 2) }], { windows: [1], ago: 5 })).toBeUndefined();
  });
});

// Worked by hand.
describe("breadth", () => {
  const market = closes(1, 1, 1, 1);
  it("shares of those that can be asked, at the market's labels alone", () => {
    const rows = breadthOf(market, [closes(10, 11, 12, 11), closes(undefined, 5, 4, 4)], { period: 2, extremes: 2 });
    expect(rows).toEqual([
      { time: day(1), n: 1, advancing: 1, declining: 0, above: 1 },
      { time: day(2), n: 2, advancing: 0.5, declining: 0.5, above: 0.5, newHighs: 1, newLows: 0, net: 1 },
      { time: day(3), n: 2, advancing: 0, declining: 0.5, above: 0, newHighs: 0, newLows: 0, net: 0 },
    ]);
  });
  it("of nobody there are no rows", () => {
    expect(breadthOf(market, [], { period: 2, extremes: 2 })).toEqual([]);
    expect(breadthOf(market, [closes(10)], { period: 2, extremes: 2 })).toEqual([]);
  });
});
