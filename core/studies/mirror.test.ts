import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { barAt, fromBars, type Series } from "#core/series/series";
import { STUDIES, studyOf } from "#core/studies/registry";
import { columnsOf, type StudyParams } from "#core/studies/study";
import { walk } from "#core/testing/openData";

/** Prices are mirrored about half of this: a high becomes a low. */
const ABOUT = 1024;

function mirrored(series: Series): Series {
  return fromBars(
    Array.from({ length: series.length }, (_, i) => {
      const { time, open, high, low, close, volume } = barAt(series, i);
      const across = (price: number) => ABOUT - price;
      return { time, open: across(open), high: across(low), low: across(high), close: across(close), volume };
    }),
  );
}

/** What a line becomes where prices are mirrored: which line it is then, and what its value is. */
type Mirrored = readonly [line: string, value: (value: number) => number];
const price = (line: string): Mirrored => [line, (value) => ABOUT - value];
const turned = (line: string): Mirrored => [line, (value) => -value];
const same = (line: string): Mirrored => [line, (value) => value];
const within = (line: string, sum: number): Mirrored => [line, (value) => sum - value];

const AVERAGE = { value: price("value") };
const LAWS: Readonly<Record<string, Readonly<Record<string, Mirrored>>>> = {
  sma: AVERAGE,
  ema: AVERAGE,
  wma: AVERAGE,
  donchianMiddle: AVERAGE,
  rsi: { value: within("value", 100) },
  atr: { value: same("value") },
  macd: { macd: turned("macd"), signal: turned("signal"), histogram: turned("histogram") },
  directionalMovement: { plus: same("minus"), minus: same("plus"), adx: same("adx") },
  bollinger: { middle: price("middle"), upper: price("lower"), lower: price("upper") },
  keltner: { middle: price("middle"), upper: price("lower"), lower: price("upper") },
  donchian: { middle: price("middle"), upper: price("lower"), lower: price("upper") },
  stochastic: { k: within("k", 100), d: within("d", 100) },
  cloud: Object.fromEntries(["conversion", "base", "spanA", "spanB"].map((line) => [line, price(line)])),
  onBalanceVolume: { value: turned("value") },
  commodityChannel: { value: turned("value") },
  heikinAshi: { open: price("open"), high: price("low"), low: price("high"), close: price("close") },
  linearRegression: {
    ...{ value: price("value"), slope: turned("slope"), intercept: price("intercept") },
    ...{ error: same("error"), r2: same("r2"), upper: price("lower"), lower: price("upper") },
  },
  anchoredAverage: { value: price("value"), deviation: same("deviation"), weighted: same("weighted") },
  williamsR: { value: within("value", -100) },
  aroon: { up: same("down"), down: same("up"), oscillator: turned("oscillator") },
  zscore: { value: turned("value") },
  distanceFromMean: { value: turned("value") },
  pivotLevels: { P: price("P"), R1: price("S1"), S1: price("R1"), R2: price("S2"), S2: price("R2") },
  rangeAhead: { upper: price("lower"), lower: price("upper"), usual: same("usual") },
  openingRange: { upper: price("lower"), lower: price("upper") },
  rangeUse: { used: same("used"), usual: same("usual"), share: same("share"), left: same("left") },
};
/** Shares of prices, and flows that are weighted by them: what is worth more has no mirror. */
const OF_SHARES = ["rateOfChange", "relative", "beta", "correlation", "moneyFlow"];

function paramsOf(name: string): StudyParams {
  return Object.fromEntries(
    studyOf(name)!.parameters.map((parameter, n): [string, number | string] => {
      if (parameter.kind === "whole") return [parameter.name, Math.max(parameter.least, 3 + n)];
      if (parameter.kind === "time") return [parameter.name, 0];
      return [parameter.name, parameter.kind === "market" ? "" : (parameter.fallback ?? 2)];
    }),
  );
}

describe("mirrored prices", () => {
  it("every study has a law of its own, or is of shares", () =>
    expect([...Object.keys(LAWS), ...OF_SHARES].sort()).toEqual(STUDIES.map(({ name }) => name).sort()));
  const steps = fc.array(
    fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
    { minLength: 3, maxLength: 40 },
  );
  it.each(Object.entries(LAWS))("mirror %s", (name, laws) => {
    const study = studyOf(name)!;
    const context = { tick: 0.25, periodAt: (time: number) => Math.floor(time / (4 * 86_400_000)) };
    const lines = (series: Series) => {
      const columns = columnsOf(study, paramsOf(name), series, context);
      return Object.fromEntries(study.lines.map((line, i) => [line.name, columns[i]]));
    };
    fc.assert(
      fc.property(steps, (drawn) => {
        const bars = walk(drawn, 500);
        const [plain, turnedOver] = [lines(bars), lines(mirrored(bars))];
        for (const [line, [other, value]] of Object.entries(laws))
          plain[line].forEach((one, i) => {
            if (Number.isNaN(one)) expect(turnedOver[other][i]).toBeNaN();
            else expect(Math.abs(turnedOver[other][i] - value(one))).toBeLessThan(1e-7);
          });
      }),
      { numRuns: 30 },
    );
  });
});
