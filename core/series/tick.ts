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

/** Half a step of a 24-bit fraction: what single-precision numbers may be off by, as a share. */
const SINGLE = 2 ** -24;

/**
 * The fewest decimals that prices written with `written` of them really have: those that differ from a rounder price by
 * no more than single-precision storage does (1399.42 is written 1399.420044) are that price. Prices that use their
 * decimals keep them. O(n).
 */
export function gridDecimals(prices: readonly number[], written: number): number {
  if (prices.length === 0) return written;
  for (let decimals = 0; decimals < written; decimals++) {
    const scale = 10 ** decimals;
    const isOnGrid = (price: number) =>
      Math.abs(price - Math.round(price * scale) / scale) <= Math.abs(price) * SINGLE + 0.5 * 10 ** -written;
    // A grid finer than what such numbers can hold cannot be told from noise.
    const isHeld = (price: number) => Math.abs(price) * SINGLE < 0.1 / scale;
    if (prices.every((price) => isOnGrid(price) && isHeld(price))) return decimals;
  }
  return written;
}

/** Whether a price lies on a market's grid, but for a thousandth of a tick. */
export function isOnGrid(price: number, tick: number): boolean {
  return Math.abs(price / tick - Math.round(price / tick)) < 1e-3;
}

/** A price on the tick grid, free of the noise of binary fractions. */
export function toTick(price: number, tick: number, decimals: number): number {
  return Number((Math.round(price / tick) * tick).toFixed(decimals));
}

/** Decimals that distances in a market's unit are told with: as many as one tick of it has. */
export function pipDecimals({ tick, pip }: { tick: number; pip: number }): number {
  let decimals = 0;
  while (decimals < 8 && Math.abs((tick / pip) * 10 ** decimals - Math.round((tick / pip) * 10 ** decimals)) > 1e-6)
    decimals++;
  return decimals;
}
