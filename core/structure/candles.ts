import { candlesAt, type CandleName, type CandleSeen } from "#core/candles/candles";
import type { Series } from "#core/series/series";

/** What a candle says in one word, where one word is asked for; nothing anywhere else than where it stands. */
export type Candle = "indecision" | "engulfing up" | "engulfing down";

const ONE_WORD: readonly CandleName[] = ["engulfing", "pin", "indecision"];

/**
 * Of what was seen at a close: engulfing, or else an indecision, for which a small body counts and a long wick as well.
 */
export function wordOf(seen: readonly CandleSeen[]): Candle | undefined {
  const engulfing = seen.find(({ name }) => name === "engulfing");
  if (engulfing) return engulfing.way === "up" ? "engulfing up" : "engulfing down";
  return seen.some(({ name }) => name === "pin" || name === "indecision") ? "indecision" : undefined;
}

/** What the candle at bar `i` is, in one word. A candle without range says nothing. */
export function candleAt(
  prices: Pick<Series, "open" | "high" | "low" | "close">,
  i: number,
  tick: number,
): Candle | undefined {
  return wordOf(candlesAt(prices, i, tick, { names: ONE_WORD }));
}
