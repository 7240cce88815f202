import { SMA } from "trading-signals";
import { atr } from "#core/studies/atr";
import { ema } from "#core/studies/ema";
import { rsi } from "#core/studies/rsi";
import { sma } from "#core/studies/sma";
import { resample } from "#core/series/resample";
import { allocate, COLUMNS, type Series } from "#core/series/series";
import { swings } from "#core/structure/swings";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { seeded } from "../demo/random.ts";
import type { Side } from "./side.ts";
import { sized } from "./size.ts";

/** A random walk of minutes: the worst case for branches, the usual case for memory. */
export function millionBars(length = sized(1_000_000, 30_000)): Series {
  const random = seeded("bench");
  const series = allocate(length);
  let price = 10_000;
  for (let i = 0; i < length; i++) {
    series.time[i] = Date.UTC(2022, 0, 3) + i * 60_000;
    series.open[i] = price;
    price += Math.round(random.between(-4, 4));
    series.close[i] = price;
    series.high[i] = Math.max(series.open[i], price) + Math.round(random.between(0, 3));
    series.low[i] = Math.min(series.open[i], price) - Math.round(random.between(0, 3));
    series.volume[i] = 1;
  }
  return series;
}

/** Reads every column once: the least any computation over bars can cost. */
export function scan(series: Series): number {
  let sum = 0;
  for (const name of COLUMNS) {
    const column = series[name];
    for (let i = 0; i < column.length; i++) sum += column[i];
  }
  return sum;
}

export function coreSides(): Side[] {
  const series = millionBars();
  const scanned = { other: () => scan(series), otherName: "a plain scan of the six columns" };
  const calendar = new Calendar(ALL_HOURS);
  const plainMean = () => {
    const out = new Float64Array(series.length).fill(NaN);
    let sum = 0;
    for (let i = 0; i < series.length; i++) {
      sum += series.close[i] - (i >= 20 ? series.close[i - 20] : 0);
      if (i >= 19) out[i] = sum / 20;
    }
    return out;
  };
  const libraryMean = () => {
    const mean = new SMA(20);
    let last: unknown;
    for (let i = 0; i < series.length; i++) last = mean.add(series.close[i]);
    return last;
  };
  return [
    { name: "swings of 1,000,000 bars", ours: () => swings(series, 3), ...scanned },
    {
      name: "SMA of 20, 1,000,000 bars",
      ours: () => sma(series.close, 20),
      other: plainMean,
      otherName: "a plain running sum",
    },
    {
      name: "SMA of 20, 1,000,000 bars",
      ours: () => sma(series.close, 20),
      other: libraryMean,
      otherName: "trading-signals",
      pairs: 3,
    },
    { name: "EMA of 20, 1,000,000 bars", ours: () => ema(series.close, 20), ...scanned },
    { name: "RSI of 14, 1,000,000 bars", ours: () => rsi(series.close, 14), ...scanned },
    { name: "ATR of 14, 1,000,000 bars", ours: () => atr(series), ...scanned },
    {
      name: "hours from 1,000,000 minutes",
      ours: () => resample(series, { count: 1, unit: "minute" }, { count: 1, unit: "hour" }, calendar),
      ...scanned,
    },
  ];
}
