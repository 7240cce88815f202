import { ema } from "#core/indicators/ema";

export interface Macd {
  macd: Float64Array;
  signal: Float64Array;
  /** The first less the second. */
  histogram: Float64Array;
}

/** A fast less a slow exponential average, and an exponential average of that (G. Appel, about 1979; from memory). */
export function macd(values: Float64Array, fast = 12, slow = 26, signal = 9): Macd {
  const [quick, calm] = [ema(values, fast), ema(values, slow)];
  const line = quick.map((value, i) => value - calm[i]);
  const mean = ema(line, signal);
  return { macd: line, signal: mean, histogram: line.map((value, i) => value - mean[i]) };
}
