import fc from "fast-check";
import { linearRegression as regression, standardDeviation } from "simple-statistics";
import { HeikinAshi, KeltnerChannels } from "technicalindicators";
import { DonchianChannels } from "trading-signals";
import { beforeAll, describe, expect, it } from "vitest";
import { barAt, fromBars, slice, type Series } from "#core/series/series";
import { Track } from "#core/series/track";
import { STUDIES, studyOf } from "#core/studies/registry";
import { columnsOf, type StudyContext, type StudyParams } from "#core/studies/study";
import { days, sp500, walk } from "#core/testing/openData";
import { loadTalib, type TaLib } from "#core/testing/talib";

// Open data: S&P 500, 2000 to 2010, carried by vega-datasets (npm).
const series = sp500();
const TICK = 0.01;

type Lines = Record<string, Float64Array>;

function lines(name: string, bars: Series, params: StudyParams, context: StudyContext = { tick: TICK }): Lines {
  const study = studyOf(name)!;
  const columns = columnsOf(study, params, bars, context);
  return Object.fromEntries(study.lines.map((line, i) => [line.name, columns[i]]));
}

/** Ours agrees with a reference that ends at the same bar, and is undefined before it begins. */
function agree(ours: Float64Array, reference: readonly number[], relative = 1e-9): void {
  const offset = ours.length - reference.length;
  expect([...ours.slice(0, offset)].every(Number.isNaN)).toBe(true);
  reference.forEach((value, i) =>
    expect(Math.abs(ours[offset + i] - value) / Math.max(1, Math.abs(value)), String(i)).toBeLessThan(relative),
  );
}

describe("on open data, against reference libraries", () => {
  let talib: TaLib;
  beforeAll(async () => void (talib = await loadTalib()));
  const [high, low, close, volume] = [series.high, series.low, series.close, series.volume].map((one) => [...one]);
  const defined = (output: readonly number[], warmUp: number) => output.slice(0, series.length - warmUp);

  // TA-Lib compiled to WebAssembly, talib-web 0.1.3 (npm).
  it.each([5, 20, 50])("commodity channel of %i", (period) =>
    agree(
      lines("commodityChannel", series, { period, constant: 0.015 }).value,
      defined(talib.CCI({ high, low, close, timePeriod: period }).output, period - 1),
      1e-7,
    ),
  );
  it.each([5, 14])("distance from the top of the range of %i", (period) =>
    agree(
      lines("williamsR", series, { period }).value,
      defined(talib.WILLR({ high, low, close, timePeriod: period }).output, period - 1),
    ),
  );
  it.each([1, 10])("rate of change over %i", (period) =>
    agree(
      lines("rateOfChange", series, { period, of: "close" }).value,
      defined(talib.ROCP({ inReal: close, timePeriod: period }).output, period),
    ),
  );
  it.each([5, 25])("age of highs and lows over %i", (period) => {
    const both = talib.AROON({ high, low, timePeriod: period }) as unknown as {
      aroonDown: number[];
      aroonUp: number[];
    };
    const ours = lines("aroon", series, { period });
    agree(ours.up, defined(both.aroonUp, period));
    agree(ours.down, defined(both.aroonDown, period));
    agree(ours.oscillator, defined(talib.AROONOSC({ high, low, timePeriod: period }).output, period));
  });
  it("on-balance volume, but for where it begins", () => {
    const { value } = lines("onBalanceVolume", series, {});
    const { output } = talib.OBV({ inReal: close, volume });
    // The reference begins at the first bar's volume, ours at 0.
    agree(
      value,
      output.slice(0, series.length).map((one) => one - output[0]),
    );
  });
  it.each([14, 60])("a regression over %i", (period) => {
    const ours = lines("linearRegression", series, { period, of: "close", deviations: 2 });
    const asked = { inReal: close, timePeriod: period };
    agree(ours.value, defined(talib.LINEARREG(asked).output, period - 1), 1e-7);
    agree(ours.slope, defined(talib.LINEARREG_SLOPE(asked).output, period - 1), 1e-7);
    agree(ours.intercept, defined(talib.LINEARREG_INTERCEPT(asked).output, period - 1), 1e-7);
  });
  // technicalindicators 3.1 (npm); it takes the average of typical price, so that closes stand for all four here.
  it("bands of range", () => {
    const flat = { ...series, high: series.close, low: series.close };
    const asked = { maPeriod: 20, atrPeriod: 10, useSMA: false, multiplier: 2 };
    const theirs = KeltnerChannels.calculate({ ...asked, high: close, low: close, close });
    const ours = lines("keltner", flat, { period: 20, atr: 10, multiple: 2 });
    agree(
      ours.middle,
      theirs.map(({ middle }) => middle),
      1e-4,
    );
    expect(ours.upper[400] - ours.middle[400]).toBeCloseTo(theirs.at(400 - 19)!.upper - theirs.at(400 - 19)!.middle, 2);
  });
  it("average candles", () => {
    const { open } = series;
    const theirs = HeikinAshi.calculate({ open: [...open], high, low, close } as never) as unknown as Record<
      "open" | "high" | "low" | "close",
      number[]
    >;
    const ours = lines("heikinAshi", series, {});
    expect(ours.close[0]).toBeCloseTo((open[0] + high[0] + low[0] + close[0]) / 4, 9);
    for (const i of [500, 1_000, 2_000]) {
      expect(ours.open[i]).toBeCloseTo(theirs.open[i], 6);
      expect(ours.close[i]).toBeCloseTo(theirs.close[i], 6);
      expect(ours.high[i]).toBeCloseTo(theirs.high[i], 6);
    }
  });
  // trading-signals 8.3 (npm).
  it("the channel of highs and lows", () => {
    const reference = new DonchianChannels(20);
    const theirs = close.flatMap((_, i) => reference.add({ high: high[i], low: low[i] }) ?? []);
    const ours = lines("donchian", series, { period: 20 });
    agree(
      ours.upper,
      theirs.map(({ upper }) => upper),
    );
    agree(
      ours.lower,
      theirs.map(({ lower }) => lower),
    );
    agree(
      lines("donchianMiddle", series, { period: 20 }).value,
      theirs.map(({ middle }) => middle),
    );
  });
  // simple-statistics (npm).
  it("distance in deviations, the regression's error and its share explained", () => {
    const period = 20;
    const z = lines("zscore", series, { period, of: "close" }).value;
    const { error, r2, upper, value } = lines("linearRegression", series, { period, of: "close", deviations: 2 });
    for (const i of [19, 700, 2_400]) {
      const window = close.slice(i - period + 1, i + 1);
      const mean = window.reduce((sum, one) => sum + one, 0) / period;
      expect(z[i]).toBeCloseTo((close[i] - mean) / standardDeviation(window), 9);
      const { m, b } = regression(window.map((one, x) => [x, one]));
      const rest = window.reduce((sum, one, x) => sum + (one - m * x - b) ** 2, 0);
      const all = window.reduce((sum, one) => sum + (one - mean) ** 2, 0);
      expect(error[i]).toBeCloseTo(Math.sqrt(rest / (period - 2)), 7);
      expect(r2[i]).toBeCloseTo(1 - rest / all, 9);
      expect(upper[i] - value[i]).toBeCloseTo(2 * error[i], 9);
    }
  });
});

/** Bars that are flat for a while have no range, no deviation and no way. */
const flat = days(...Array.from({ length: 8 }, (): [number, number, number, number] => [10, 10, 10, 10]));

describe("by hand", () => {
  const steps = days([10, 11, 9, 10], [10, 13, 10, 12], [12, 12, 8, 9], [9, 10, 9, 10]);
  const withVolume = (volumes: readonly number[]) =>
    fromBars(volumes.map((volume, i) => ({ ...barAt(steps, i), volume })));
  const all = (name: string, bars: Series, params: StudyParams = {}) =>
    Object.fromEntries(Object.entries(lines(name, bars, params)).map(([line, column]) => [line, [...column]]));

  it("volume is summed with the sign of the close, from the first bar that has any", () => {
    expect(all("onBalanceVolume", withVolume([0, 5, 7, 2])).value).toEqual([NaN, 5, -2, 0]);
    expect(all("onBalanceVolume", withVolume([3, 5, 7, 2])).value).toEqual([0, 5, -2, 0]);
    expect(all("onBalanceVolume", withVolume([0, 0, 0, 0])).value).toEqual([NaN, NaN, NaN, NaN]);
  });
  it("an anchored average is weighted where its own bar has volume, by every bar alike where not", () => {
    const from = steps.time[1];
    const weighted = all("anchoredAverage", withVolume([9, 2, 0, 6]), { from, of: "close" });
    expect(weighted.value).toEqual([NaN, 12, 12, (2 * 12 + 6 * 10) / 8]);
    expect(weighted.weighted).toEqual([NaN, 1, 1, 1]);
    const alike = all("anchoredAverage", withVolume([9, 0, 5, 6]), { from, of: "close" });
    expect(alike.value).toEqual([NaN, 12, 10.5, expect.closeTo(31 / 3, 12)]);
    expect(alike.deviation).toEqual([NaN, 0, 1.5, expect.closeTo(Math.sqrt(14 / 9), 12)]);
    expect(alike.weighted).toEqual([NaN, 0, 0, 0]);
    expect(all("anchoredAverage", steps, { from: steps.time[3] + 1, of: "close" }).value).toEqual([NaN, NaN, NaN, NaN]);
  });
  it("of equal highs the newest counts", () => {
    const equal = days([1, 5, 1, 2], [2, 5, 2, 3], [3, 4, 1, 2]);
    expect(all("aroon", equal, { period: 2 })).toEqual({
      up: [NaN, NaN, 50],
      down: [NaN, NaN, 100],
      oscillator: [NaN, NaN, -50],
    });
  });
  it("average candles open half way through the one before", () => {
    const { open, close, high, low } = all("heikinAshi", steps);
    expect([open[0], close[0]]).toEqual([10, 10]);
    expect([open[1], close[1]]).toEqual([10, 11.25]);
    expect([open[2], high[1], low[1]]).toEqual([10.625, 13, 10]);
  });
  it("bars without range or change give nothing, or the middle, and never a figure that is none", () => {
    expect(all("williamsR", flat, { period: 3 }).value.slice(2)).toEqual([-50, -50, -50, -50, -50, -50]);
    expect(all("commodityChannel", flat, { period: 3, constant: 0.015 }).value.at(-1)).toBe(0);
    expect(all("zscore", flat, { period: 3, of: "close" }).value.at(-1)).toBe(0);
    expect(all("distanceFromMean", flat, { period: 3, average: "sma", atr: 3 }).value.every(Number.isNaN)).toBe(true);
    const { slope, error, r2, value } = all("linearRegression", flat, { period: 4, of: "close", deviations: 2 });
    expect([slope.at(-1), error.at(-1), r2.at(-1), value.at(-1)]).toEqual([0, 0, NaN, 10]);
  });
  it("against another market only common bars count, and one that stands still says nothing", () => {
    const other = fromBars([0, 2, 3].map((i) => ({ ...barAt(steps, i), close: [5, 0, 6, 4][i] })));
    const context = { tick: TICK, other };
    const relative = lines("relative", steps, {}, context);
    expect([...relative.ratio]).toEqual([2, NaN, 1.5, 2.5]);
    expect([...relative.value]).toEqual([100, NaN, 75, 125]);
    const [own, theirs] = [
      [9 / 10 - 1, 10 / 9 - 1],
      [6 / 5 - 1, 4 / 6 - 1],
    ];
    const { m } = regression(own.map((one, i) => [theirs[i], one]));
    expect([...lines("beta", steps, { period: 2 }, context).value]).toEqual([NaN, NaN, NaN, expect.closeTo(m, 12)]);
    const still = fromBars(Array.from({ length: 4 }, (_, i) => ({ ...barAt(steps, i), close: 7 })));
    expect([...lines("beta", steps, { period: 2 }, { tick: TICK, other: still }).value].every(Number.isNaN)).toBe(true);
  });
  it("a period's range is held against those before it", () => {
    const periodAt = (time: number) => Math.floor((time - steps.time[0]) / (2 * 86_400_000));
    const used = lines("rangeUse", steps, { period: "P2D", n: 1 }, { tick: TICK, periodAt });
    expect([...used.used]).toEqual([NaN, NaN, 4, 4]);
    expect([...used.usual]).toEqual([NaN, NaN, 4, 4]);
    expect([...used.share]).toEqual([NaN, NaN, 1, 1]);
    expect([...used.left]).toEqual([NaN, NaN, 0, 0]);
  });
});

/** Parameters small enough for short series; everything else as it usually is. */
function smallOf({ parameters }: (typeof STUDIES)[number]): StudyParams {
  return Object.fromEntries(
    parameters.flatMap((parameter, n): [string, number | string][] => {
      if (parameter.kind === "whole") return [[parameter.name, Math.max(parameter.least, 3 + n)]];
      if (parameter.kind === "time") return [[parameter.name, days([1, 1, 1, 1]).time[0]]];
      return parameter.kind === "market" ? [] : [[parameter.name, parameter.fallback ?? 2]];
    }),
  );
}

describe("for every study and any bars", () => {
  const steps = fc.array(
    fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
    { minLength: 3, maxLength: 40 },
  );
  const beside = walk(Array.from({ length: 40 }, (_, i) => [((i * 5) % 7) - 3, i % 3, (i * 2) % 4]));
  const context: StudyContext = { tick: 0.25, other: beside, periodAt: (time) => Math.floor(time / (4 * 86_400_000)) };
  const runs = (drawn: [number, number, number][]) => walk(drawn, 400);

  it.each(STUDIES.map(({ name }) => name))("%s: later bars change nothing, grown bars give the same", (name) => {
    const study = studyOf(name)!;
    const params = smallOf(study);
    fc.assert(
      fc.property(steps, fc.nat(40), (drawn, at) => {
        const bars = runs(drawn);
        const whole = columnsOf(study, params, bars, context);
        const cut = slice(bars, 0, Math.min(at, bars.length));
        columnsOf(study, params, cut, context).forEach((column, i) =>
          expect([...column]).toEqual([...whole[i].slice(0, cut.length)]),
        );
        // A track takes other arrays as it grows.
        const track = new Track(slice(bars, 0, 0), 0.25);
        const next = study.begin(params, context);
        for (let i = 0; i < bars.length; i++) {
          track.push(barAt(bars, i));
          expect([...next(track, i)]).toEqual(whole.map((column) => column[i]));
        }
        for (const column of whole) for (const value of column) expect(Math.abs(value)).not.toBe(Infinity);
      }),
      { numRuns: 40 },
    );
  });
  it.each(STUDIES.map(({ name }) => name))("%s: prices times 1024 scale what is a price and leave the rest", (name) => {
    const study = studyOf(name)!;
    const params = smallOf(study);
    fc.assert(
      fc.property(steps, (drawn) => {
        const bars = runs(drawn);
        const times = (by: Series) =>
          fromBars(
            Array.from({ length: by.length }, (_, i) => {
              const { time, open, high, low, close, volume } = barAt(by, i);
              return { time, open: 1024 * open, high: 1024 * high, low: 1024 * low, close: 1024 * close, volume };
            }),
          );
        const plain = columnsOf(study, params, bars, context);
        const scaled = columnsOf(study, params, times(bars), { ...context, tick: 1024 * 0.25, other: times(beside) });
        study.lines.forEach(({ unit }, i) => {
          const factor = unit === "price" ? 1024 : 1;
          plain[i].forEach((value, n) => {
            if (Number.isNaN(value)) expect(scaled[i][n]).toBeNaN();
            else
              expect(Math.abs(scaled[i][n] - factor * value)).toBeLessThanOrEqual(
                1e-9 * Math.max(1, Math.abs(factor * value)),
              );
          });
        });
      }),
      { numRuns: 25 },
    );
  });
  it("each has a name of its own, a title, a source and at least one line", () => {
    expect(new Set(STUDIES.map(({ name }) => name)).size).toBe(STUDIES.length);
    for (const { name, title, source, lines: own } of STUDIES) {
      expect(
        [title, source].every((text) => text.length > 3),
        name,
      ).toBe(true);
      expect(own.length, name).toBeGreaterThan(0);
    }
  });
});
