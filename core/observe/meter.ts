import type { Track } from "#core/series/track";

/** What can be measured at every close of a rung, with its parameters as `compute` names them. */
export type MeterTerms =
  | { quantity: "sma" | "ema" | "wma" | "rsi"; period: number }
  | { quantity: "macd"; fast: number; slow: number; signal: number }
  | { quantity: "stochastic"; period: number; smoothing: number }
  | { quantity: "cloud"; conversion: number; base: number; span: number };

export type MeterName = MeterTerms["quantity"];

/** One name for one meter: two conditions on the same average share it. */
export function meterName(terms: MeterTerms): string {
  return Object.values(terms).join(" ");
}

type Next = (track: Track, i: number) => readonly number[] | undefined;

/**
 * An indicator that is told of one bar after the other: the same values as the whole series gives (`core/indicators/`).
 * Values: one; of `macd` the difference and its signal; of `cloud` the bottom and the top of the cloud that stands at
 * the bar, which was computed `base` bars before. O(period) a bar at most.
 */
export class Meter {
  readonly next: Next;

  constructor(terms: MeterTerms) {
    this.next = nextOf(terms);
  }
}

function nextOf(terms: MeterTerms): Next {
  switch (terms.quantity) {
    case "sma":
      return (track, i) => one(meanOf(track.close, i, terms.period));
    case "wma":
      return (track, i) => one(weighted(track.close, i, terms.period));
    case "ema": {
      const average = emaOf(terms.period);
      return (track, i) => one(average(track.close[i]));
    }
    case "rsi":
      return rsiOf(terms.period);
    case "macd": {
      const [fast, slow, signal] = [emaOf(terms.fast), emaOf(terms.slow), emaOf(terms.signal)];
      return (track, i) => {
        const [quick, calm] = [fast(track.close[i]), slow(track.close[i])];
        if (quick === undefined || calm === undefined) return undefined;
        const line = signal(quick - calm);
        return line === undefined ? undefined : [quick - calm, line];
      };
    }
    case "stochastic":
      return (track, i) => {
        const raw = Array.from({ length: terms.smoothing }, (_, n) => placeInRange(track, i - n, terms.period));
        return raw.some((value) => value === undefined)
          ? undefined
          : [(raw as number[]).reduce((sum, value) => sum + value, 0) / terms.smoothing];
      };
    case "cloud":
      return (track, i) => {
        const at = i - terms.base;
        const [quick, calm, long] = [terms.conversion, terms.base, terms.span].map((n) => middle(track, at, n));
        if (quick === undefined || calm === undefined || long === undefined) return undefined;
        const spanA = (quick + calm) / 2;
        return [Math.min(spanA, long), Math.max(spanA, long)];
      };
  }
}

function one(value: number | undefined): readonly number[] | undefined {
  return value === undefined ? undefined : [value];
}

function meanOf(values: Float64Array, i: number, period: number): number | undefined {
  if (i + 1 < period) return undefined;
  let sum = 0;
  for (let n = i - period + 1; n <= i; n++) sum += values[n];
  return sum / period;
}

function weighted(values: Float64Array, i: number, period: number): number | undefined {
  if (i + 1 < period) return undefined;
  let sum = 0;
  for (let n = 1; n <= period; n++) sum += n * values[i - period + n];
  return sum / ((period * (period + 1)) / 2);
}

/** Seeded with the mean of the first `period` values. */
function emaOf(period: number): (value: number) => number | undefined {
  let count = 0;
  let sum = 0;
  let average = NaN;
  return (value) => {
    count++;
    if (count <= period) sum += value;
    if (count < period) return undefined;
    average = count === period ? sum / period : average + (2 / (period + 1)) * (value - average);
    return average;
  };
}

function rsiOf(period: number): Next {
  let gain = 0;
  let loss = 0;
  return (track, i) => {
    if (i === 0) return undefined;
    const change = track.close[i] - track.close[i - 1];
    const [up, down] = [Math.max(change, 0), Math.max(-change, 0)];
    gain += i <= period ? up / period : (up - gain) / period;
    loss += i <= period ? down / period : (down - loss) / period;
    if (i < period) return undefined;
    return [gain + loss === 0 ? 50 : (100 * gain) / (gain + loss)];
  };
}

function rangeOf({ high, low }: Track, i: number, period: number): [number, number] | undefined {
  if (i + 1 < period || i < 0) return undefined;
  let [bottom, top] = [Infinity, -Infinity];
  for (let n = i - period + 1; n <= i; n++) {
    bottom = Math.min(bottom, low[n]);
    top = Math.max(top, high[n]);
  }
  return [bottom, top];
}

function middle(track: Track, i: number, period: number): number | undefined {
  const range = rangeOf(track, i, period);
  return range && (range[0] + range[1]) / 2;
}

/** Where a close stands in the range of the last bars, 0 to 100. */
function placeInRange(track: Track, i: number, period: number): number | undefined {
  const range = rangeOf(track, i, period);
  if (!range) return undefined;
  const [bottom, top] = range;
  return top > bottom ? (100 * (track.close[i] - bottom)) / (top - bottom) : 50;
}
