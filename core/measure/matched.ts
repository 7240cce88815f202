import { signOf, type BandAtBirth, type Born } from "#core/measure/measured";
import type { JudgedBars } from "#core/measure/outcomes";

/** Times a band whose lower price would not be above zero is drawn anew. */
const TRIES = 100;

/** Shape of a band: as wide as another, and as far from the close, both in ATR. */
export interface Shape extends Pick<BandAtBirth, "side"> {
  width: number;
  distance: number;
}

export const shapeOf = ({ side, features: { width, distance } }: Born): Shape => ({ side, width, distance });

/**
 * A band of a given shape at bar `u`: its near edge the distance away from that bar's close, at least a tick, its far
 * edge the width beyond it, both on whole ticks. Nothing where its lower price is not above zero.
 */
export function bandAt({ side, width, distance }: Shape, u: number, bars: JudgedBars): BandAtBirth | undefined {
  const { close, atr, tick } = bars;
  const sign = signOf(side);
  const whole = (price: number) => Math.round(price / tick) * tick;
  const edge = close[u] - sign * Math.max(tick, distance * atr[u]);
  const [near, far] = [whole(edge), whole(edge - sign * width * atr[u])];
  const [bottom, top] = sign > 0 ? [far, near] : [near, far];
  return bottom > 0 ? { side, bottom, top, knownAt: u } : undefined;
}

/** A band of the same shape at a bar drawn from [first, first + count); none where a hundred draws give none. */
export function drawBand(
  shape: Shape,
  { first, count }: { first: number; count: number },
  bars: JudgedBars,
  draw: (below: number) => number,
): BandAtBirth | undefined {
  for (let n = 0; n < TRIES; n++) {
    const band = bandAt(shape, first + draw(count), bars);
    if (band) return band;
  }
  return undefined;
}

/** Index of the first bar that has an ATR above zero; the number of bars where none has. */
export function firstScaled({ atr }: JudgedBars, length: number): number {
  let i = 0;
  while (i < length && !(atr[i] > 0)) i++;
  return i;
}
