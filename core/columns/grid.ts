/** How large a box is: price units, a share of the price, or a multiple of the ATR a chart begins with. */
export type BoxSize = number | { percent: number } | { atr: number; multiple: number };

/** The prices boxes stand at, by whole numbers. */
export interface BoxGrid {
  /** Price units a box; of percent boxes the share. */
  size: number;
  /** The price of a box. */
  priceOf(box: number): number;
  /** The highest box at or below a price. */
  upTo(price: number): number;
  /** The lowest box at or above a price. */
  downTo(price: number): number;
}

/** Prices reach a box within this share of a tick: what decimals leave of a computed price. */
const REACH = 1e-3;

/** Boxes of one size in price units: box j stands at j x `size`. @throws RangeError for a box below one tick. */
export function fixedGrid(size: number, tick: number): BoxGrid {
  if (!(size >= tick * (1 - REACH))) throw new RangeError(`A box must be at least one tick, which is ${tick}.`);
  return gridBy(
    size,
    (box) => box * size,
    (price) => Math.floor(price / size),
    tick,
  );
}

/**
 * Boxes that grow with the price: box j stands at (1 + percent / 100)^j. Prices not above 0 have none: asked for one it
 * throws a RangeError. Where a box is smaller than a tick a price may pass several at once.
 */
export function percentGrid(percent: number, tick: number): BoxGrid {
  const share = percent / 100;
  const step = Math.log1p(share);
  return gridBy(
    share,
    (box) => (1 + share) ** box,
    (at) => Math.floor(Math.log(at) / step),
    tick,
  );
}

/** What is guessed of a price's box is put right by the prices boxes have: equal within a thousandth of a tick. */
function gridBy(
  size: number,
  priceOf: (box: number) => number,
  guess: (price: number) => number,
  tick: number,
): BoxGrid {
  const within = tick * REACH;
  const upTo = (price: number) => {
    if (!(price > 0) && priceOf(0) > 0) throw new RangeError("Boxes in percent need prices above 0.");
    let box = guess(price);
    while (priceOf(box + 1) <= price + within) box++;
    while (priceOf(box) > price + within) box--;
    return box;
  };
  return {
    ...{ size, priceOf, upTo },
    downTo(price) {
      const box = upTo(price);
      return priceOf(box) >= price - within ? box : box + 1;
    },
  };
}
