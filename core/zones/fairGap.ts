import type { Series } from "#core/series/series";

/**
 * The fair value gap that three candles leave with the last of them at `i`: prices between the first's and the third's
 * wicks that nobody traded at (common practice, no source). None where the wicks meet, or before there are three.
 */
export function fairGapAt(
  { high, low }: Pick<Series, "high" | "low">,
  i: number,
): { direction: "up" | "down"; bottom: number; top: number } | undefined {
  if (i < 2) return undefined;
  if (low[i] > high[i - 2]) return { direction: "up", bottom: high[i - 2], top: low[i] };
  return high[i] < low[i - 2] ? { direction: "down", bottom: high[i], top: low[i - 2] } : undefined;
}
