import type { Series } from "#core/series/series";

/** A single candle, or a pair of them, that says something where it stands; nothing anywhere else. */
export type Candle = "indecision" | "engulfing up" | "engulfing down";

export interface CandleRules {
  /** A body of at most this share of the candle's range is small. */
  body: number;
  /** A wick of at least this share of it is long. */
  wick: number;
}

export const CANDLE_RULES: CandleRules = { body: 1 / 4, wick: 3 / 5 };

/**
 * What the candle at bar `i` is (common practice, no source): engulfing when its body covers that of the candle before,
 * ends included, is longer, and goes the other way; indecision when its body is small or one of its wicks is long. A
 * candle without range says nothing.
 */
export function candleAt(
  { open, high, low, close }: Pick<Series, "open" | "high" | "low" | "close">,
  i: number,
  { body, wick }: CandleRules = CANDLE_RULES,
): Candle | undefined {
  const range = high[i] - low[i];
  if (!(range > 0)) return undefined;
  const own = close[i] - open[i];
  const before = i > 0 ? close[i - 1] - open[i - 1] : 0;
  const covers =
    i > 0 &&
    Math.min(open[i], close[i]) <= Math.min(open[i - 1], close[i - 1]) &&
    Math.max(open[i], close[i]) >= Math.max(open[i - 1], close[i - 1]);
  if (covers && own * before < 0 && Math.abs(own) > Math.abs(before))
    return own > 0 ? "engulfing up" : "engulfing down";
  const longest = Math.max(high[i] - Math.max(open[i], close[i]), Math.min(open[i], close[i]) - low[i]);
  return Math.abs(own) <= body * range || longest >= wick * range ? "indecision" : undefined;
}
