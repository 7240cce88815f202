import { sampleCorrelation } from "simple-statistics";
import { MACD, ADX } from "technicalindicators";
import { BollingerBands, StochasticOscillator } from "trading-signals";
import { beforeAll, describe, expect, it } from "vitest";
import fc from "fast-check";
import { cloud } from "#core/studies/cloud";
import { aligned, correlation, returns } from "#core/studies/correlation";
import { columnsOf, type StudyParams } from "#core/studies/study";
import { studyOf } from "#core/studies/registry";
import { stepped, WindowExtreme } from "#core/studies/steps";
import { wma } from "#core/studies/wma";
import { pivotsOf } from "#core/levels/pivots";
import { slice, type Series } from "#core/series/series";
import { tickOf } from "#core/series/tick";
import { days, sp500, walk } from "#core/testing/openData";
import { loadTalib, type TaLib } from "#core/testing/talib";

// Open data: S&P 500, 2000 to 2010, carried by vega-datasets (npm).
const series = sp500();
const TICK = 1e-6;

/** The lines of a study over a series, by their names. */
function lines(name: string, bars: Series, params: StudyParams, tick = TICK): Record<string, Float64Array> {
  const study = studyOf(name)!;
  const columns = columnsOf(study, params, bars, { tick });
  return Object.fromEntries(study.lines.map((line, i) => [line.name, columns[i]]));
}
const moneyFlow = (bars: Series, period: number, tick: number) => lines("moneyFlow", bars, { period }, tick).value;
const directionalMovement = (bars: Series, period: number, tick: number) =>
  lines("directionalMovement", bars, { period }, tick);
const macd = (bars: Series, fast = 12, slow = 26, signal = 9) => lines("macd", bars, { fast, slow, signal });
const bollinger = (bars: Series, period: number, deviations: number) =>
  lines("bollinger", bars, { period, deviations });
const stochastic = (bars: Series, period = 14, smoothing = 3, signal = 3) =>
  lines("stochastic", bars, { period, smoothing, signal });
const highest = (values: Float64Array, period: number) => stepped(values, new WindowExtreme(period, 1).next);
const lowest = (values: Float64Array, period: number) => stepped(values, new WindowExtreme(period, -1).next);

/** Ours agrees with a reference that ends at the same bar, and is undefined before it begins. */
function agree(ours: Float64Array, reference: readonly number[], relative = 1e-9): void {
  const offset = ours.length - reference.length;
  expect([...ours.slice(0, offset)].every(Number.isNaN)).toBe(true);
  const worst = reference.reduce(
    (most, value, i) => Math.max(most, Math.abs(ours[offset + i] - value) / Math.max(1, Math.abs(value))),
    0,
  );
  expect(worst).toBeLessThan(relative);
}

describe("on open data, against reference libraries", () => {
  let talib: TaLib;
  beforeAll(async () => void (talib = await loadTalib()));
  const defined = ({ output }: { output: number[] }, warmUp: number) => output.slice(0, series.length - warmUp);

  // TA-Lib compiled to WebAssembly, talib-web 0.1.3 (npm).
  it.each([2, 9, 65])("a weighted average of %i", (period) =>
    agree(wma(series.close, period), defined(talib.WMA({ inReal: [...series.close], timePeriod: period }), period - 1)),
  );
  it.each([2, 14, 40])("money flow of %i", (period) => {
    const input = {
      high: [...series.high],
      low: [...series.low],
      close: [...series.close],
      volume: [...series.volume],
      timePeriod: period,
    };
    agree(moneyFlow(series, period, TICK), defined(talib.MFI(input), period), 1e-7);
  });
  // technicalindicators 3.1 (npm).
  it("MACD of 12, 26, 9", () => {
    const rows = MACD.calculate({
      values: [...series.close],
      fastPeriod: 12,
      slowPeriod: 26,
      signalPeriod: 9,
      SimpleMAOscillator: false,
      SimpleMASignal: false,
    });
    const { macd: line, signal, histogram } = macd(series);
    agree(
      line,
      rows.map((row) => row.MACD!),
    );
    agree(
      signal,
      rows.flatMap((row) => row.signal ?? []),
    );
    agree(
      histogram,
      rows.flatMap((row) => row.histogram ?? []),
    );
  });
  it.each([5, 14])("directional movement of %i", (period) => {
    const rows = ADX.calculate({ high: [...series.high], low: [...series.low], close: [...series.close], period });
    const ours = directionalMovement(series, period, TICK);
    // The library's prices have six decimals here: it meets no tie, which it would count otherwise.
    for (const [name, key] of [
      ["plus", "pdi"],
      ["minus", "mdi"],
      ["adx", "adx"],
    ] as const) {
      const expected = rows.map((row) => row[key]);
      expect([...ours[name].slice(-500)].map((value) => value.toFixed(6))).toEqual(
        expected.slice(-500).map((value) => value.toFixed(6)),
      );
    }
    expect(ours.plus.findIndex((value) => !Number.isNaN(value))).toBe(period);
    expect(ours.adx.findIndex((value) => !Number.isNaN(value))).toBe(2 * period - 1);
  });
  // trading-signals 8.3 (npm).
  it.each([
    [20, 2],
    [5, 1.5],
  ])("bands of %i closes and %d population deviations", (period, deviations) => {
    const reference = new BollingerBands(period, deviations);
    const rows = [...series.close].map((close) => reference.add(close)).filter((row) => row !== null);
    const ours = bollinger(series, period, deviations);
    for (const name of ["middle", "upper", "lower"] as const)
      agree(
        ours[name],
        rows.map((row) => row[name]),
      );
  });
  it("the stochastic of 14, 3, 3", () => {
    const reference = new StochasticOscillator({ kPeriod: 14, kSlowingPeriod: 3, dPeriod: 3 });
    const rows = Array.from({ length: series.length }, (_, i) =>
      reference.add({ high: series.high[i], low: series.low[i], close: series.close[i] }),
    ).filter((row) => row !== null);
    const { k, d } = stochastic(series);
    agree(
      d,
      rows.map((row) => row.stochD),
      1e-8,
    );
    expect(k[14 + 3 - 2]).not.toBeNaN();
    expect(k[14 + 3 - 3]).toBeNaN();
    expect([...k.slice(-300)].map((value) => value.toFixed(8))).toEqual(
      rows.slice(-300).map((row) => row.stochK.toFixed(8)),
    );
  });
  // simple-statistics (npm).
  it("rolling correlation with the same index two days later", () => {
    const later = { ...series, close: Float64Array.from(series.close, (_, i) => series.close[Math.max(0, i - 2)]) };
    const { a, b } = aligned(series, later);
    const ours = correlation(a, b, 65);
    const [left, right] = [returns(a), returns(b)];
    for (const at of [70, 500, 2000])
      expect(ours[at]).toBeCloseTo(
        sampleCorrelation([...left.slice(at - 64, at + 1)], [...right.slice(at - 64, at + 1)]),
        10,
      );
    expect(ours.findIndex((value) => !Number.isNaN(value))).toBeGreaterThanOrEqual(65);
  });
});

describe("by hand", () => {
  it("the cloud is made of middles of ranges", () => {
    const bars = days(
      ...Array.from({ length: 6 }, (_, i): [number, number, number, number] => [i, i + 2, i - 1, i + 1]),
    );
    const { conversion, base, spanA, spanB } = cloud(bars, 2, 3, 5);
    // Of the last two bars: high 7, low 3; of three: 7 and 2; of five: 7 and 0.
    expect([conversion[5], base[5], spanA[5], spanB[5]]).toEqual([5, 4.5, 4.75, 3.5]);
    expect([conversion[0], base[1], spanB[3]]).toEqual([NaN, NaN, NaN]);
  });
  // Common practice, no source: the figures of a pivot table worked by hand.
  it("classic pivots of high 110, low 100, close 108", () => {
    expect(pivotsOf({ high: 110, low: 100, close: 108 })).toEqual({
      P: 106,
      R1: 112,
      R2: 116,
      R3: 122,
      S1: 102,
      S2: 96,
      S3: 92,
    });
  });
  it("a tie of both directional moves counts for neither, though binary fractions would miss it", () => {
    // High up by 0.1, low down by 0.1; as doubles the two differ in the last bit.
    const bars = days([1, 1.1, 0.3, 1], [1, 1.2, 0.2, 1], [1, 1.2, 0.2, 1]);
    expect(bars.high[1] - bars.high[0]).not.toBe(bars.low[0] - bars.low[1]);
    const { plus, minus } = directionalMovement(bars, 2, 0.1);
    expect([plus[2], minus[2]]).toEqual([0, 0]);
  });
  it("where nothing moves nothing is said: no direction, the middle of the range, no flow either way", () => {
    const flat = days(...Array.from({ length: 8 }, (): [number, number, number, number] => [5, 5, 5, 5]));
    expect(directionalMovement(flat, 2, 0.01).adx[7]).toBe(0);
    expect(stochastic(flat, 3, 2, 2).d[7]).toBe(50);
    expect(moneyFlow(flat, 3, 0.01)[7]).toBe(50);
    expect(correlation(flat.close, flat.close, 3)[7]).toBeNaN();
  });
  it("two series are compared at the times both have", () => {
    const [a, b] = [days([1, 1, 1, 1], [2, 2, 2, 2], [3, 3, 3, 3]), days([7, 7, 7, 7], [8, 8, 8, 8], [9, 9, 9, 9])];
    b.time[1] += 5;
    expect([...aligned(a, b).a]).toEqual([1, 3]);
    expect([...aligned(a, b).b]).toEqual([7, 9]);
  });
});

describe("the tick grid of a file", () => {
  it.each([
    [[1, 2, 3], 1],
    [[1.25, 2.5], 0.01],
    [[0.1 + 0.2, 7], 0.1],
    [[1455.219971], 1e-6],
  ])("of %j is %d", (prices, tick) => {
    const bars = days(...prices.map((price): [number, number, number, number] => [price, price, price, price]));
    expect(tickOf(bars)).toBeCloseTo(tick, 12);
  });
});

describe("for any bars", () => {
  const steps = fc.array(
    fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
    { minLength: 3, maxLength: 60 },
  );
  it("the highest and lowest of a window are what looking at each window finds", () => {
    fc.assert(
      fc.property(steps, fc.integer({ min: 1, max: 12 }), (drawn, period) => {
        const { high, low } = walk(drawn);
        const [top, bottom] = [highest(high, period), lowest(low, period)];
        for (let i = period - 1; i < high.length; i++) {
          expect(top[i]).toBe(Math.max(...high.slice(i - period + 1, i + 1)));
          expect(bottom[i]).toBe(Math.min(...low.slice(i - period + 1, i + 1)));
        }
      }),
    );
  });
  const all: Record<string, (bars: Series) => Float64Array[]> = {
    wma: ({ close }) => [wma(close, 5)],
    macd: (bars) => Object.values(macd(bars, 3, 6, 4)),
    directionalMovement: (bars) => Object.values(directionalMovement(bars, 4, 0.25)),
    bollinger: (bars) => Object.values(bollinger(bars, 5, 2)),
    stochastic: (bars) => Object.values(stochastic(bars, 5, 2, 2)),
    moneyFlow: (bars) => [moneyFlow(bars, 4, 0.25)],
    cloud: (bars) => Object.values(cloud(bars, 3, 5, 9)),
  };
  it.each(Object.keys(all))("%s: what is known at a bar is what the series cut there gives", (name) => {
    fc.assert(
      fc.property(steps, fc.nat(60), (drawn, at) => {
        const bars = walk(drawn);
        const cut = slice(bars, 0, Math.min(at, bars.length));
        const [whole, part] = [all[name](bars), all[name](cut)];
        part.forEach((column, i) => expect([...column]).toEqual([...whole[i].slice(0, cut.length)]));
      }),
    );
  });
});
