import { describe, expect, it } from "vitest";
import { cloud } from "#core/studies/cloud";
import { ema } from "#core/studies/ema";
import { rsi } from "#core/studies/rsi";
import { sma } from "#core/studies/sma";
import { columnsOf, type StudyParams } from "#core/studies/study";
import { studyOf } from "#core/studies/registry";
import { wma } from "#core/studies/wma";
import { Meter, type MeterTerms } from "#core/observe/meter";
import { Track } from "#core/series/track";
import { sp500 } from "#core/testing/openData";

const series = sp500();
const track = new Track(series, 0.01);

const columns = (name: string, params: StudyParams) => columnsOf(studyOf(name)!, params, series, { tick: 0.01 });

/** What a meter says bar by bar, NaN where it says nothing. */
function measured(terms: MeterTerms, value = 0): number[] {
  const meter = new Meter(terms);
  return Array.from({ length: track.length }, (_, i) => meter.next(track, i)?.[value] ?? NaN);
}

function agree(ours: readonly number[], theirs: ArrayLike<number>): void {
  expect(ours).toHaveLength(theirs.length);
  ours.forEach((value, i) => {
    if (Number.isNaN(theirs[i])) expect(value, String(i)).toBeNaN();
    else expect(value, String(i)).toBeCloseTo(theirs[i], 8);
  });
  expect(ours.filter(Number.isFinite).length).toBeGreaterThan(2_000);
}

describe("a meter told bar by bar is the indicator of the whole series (S&P 500, vega-datasets)", () => {
  it("simple, weighted and exponential averages", () => {
    agree(measured({ quantity: "sma", period: 50 }), sma(series.close, 50));
    agree(measured({ quantity: "wma", period: 20 }), wma(series.close, 20));
    agree(measured({ quantity: "ema", period: 50 }), ema(series.close, 50));
  });
  it("RSI, stochastic and MACD", () => {
    agree(measured({ quantity: "rsi", period: 14 }), rsi(series.close, 14));
    agree(
      measured({ quantity: "stochastic", period: 14, smoothing: 3 }),
      columns("stochastic", { period: 14, smoothing: 3, signal: 3 })[0],
    );
    const [difference, signal] = columns("macd", { fast: 12, slow: 26, signal: 9 });
    const terms = { quantity: "macd", fast: 12, slow: 26, signal: 9 } as const;
    // The two are said together, once both are known.
    const both = difference.map((value, i) => (Number.isNaN(signal[i]) ? NaN : value));
    agree(measured(terms), both);
    agree(measured(terms, 1), signal);
  });
  it("the cloud that stands at a bar, computed 26 bars before", () => {
    const { spanA, spanB } = cloud(series);
    const at = (edge: (a: number, b: number) => number) =>
      series.close.map((_, i) => (i < 26 ? NaN : edge(spanA[i - 26], spanB[i - 26])));
    const terms = { quantity: "cloud", conversion: 9, base: 26, span: 52 } as const;
    agree(measured(terms), at(Math.min));
    agree(measured(terms, 1), at(Math.max));
  });
});
