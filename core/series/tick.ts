import type { Series } from "#core/series/series";

/** Doubles tell about 16 digits apart; prices of a hundred millionth have theirs far behind the point. */
const MOST_DECIMALS = 20;
/** What binary fractions leave of a decimal one, as a share of it. */
const NOISE = 1e-11;

/** The coarsest power of ten, 1 at most, that every price lies on: the tick grid of a file that does not name one. */
export function tickOf({ open, high, low, close, length }: Series): number {
  let [decimals, scale] = [0, 1];
  for (const column of [open, high, low, close])
    for (let i = 0; i < length; i++)
      while (
        decimals < MOST_DECIMALS &&
        Math.abs(column[i] * scale - Math.round(column[i] * scale)) > NOISE * Math.abs(column[i] * scale)
      )
        scale = 10 ** ++decimals;
  return 1 / scale;
}
