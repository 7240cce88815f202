import type { Detector, Track } from "#core/series/track";
import type { Side, Swing } from "#core/structure/swings";

/**
 * Swings by reversal: an extreme is one as soon as a wick has moved `multiple` x ATR(14) away from it, the ATR known at
 * the extreme's own bar. Highs and lows alternate. A bar that prints a new extreme is not looked at for the move away
 * from it, for what came first is not known. The first extreme is the one whose move away is confirmed first. O(1) a
 * bar.
 */
export class ReversalDetector implements Detector {
  readonly found: Swing[] = [];
  confirmed: readonly Swing[] = [];
  private top = { price: -Infinity, index: -1 };
  private bottom = { price: Infinity, index: -1 };
  private seeking: Side | undefined;

  constructor(
    private readonly track: Track,
    private readonly multiple = 3,
  ) {}

  next(i: number): void {
    const { high, low, atr } = this.track;
    this.confirmed = [];
    const newTop = this.seeking !== "low" && high[i] > this.top.price;
    const newBottom = this.seeking !== "high" && low[i] < this.bottom.price;
    if (newTop) this.top = { price: high[i], index: i };
    if (newBottom) this.bottom = { price: low[i], index: i };
    if (
      this.seeking !== "low" &&
      !newTop &&
      this.top.index >= 0 &&
      this.top.price - low[i] >= this.multiple * atr[this.top.index]
    )
      this.turn("high", i);
    else if (
      this.seeking !== "high" &&
      !newBottom &&
      this.bottom.index >= 0 &&
      high[i] - this.bottom.price >= this.multiple * atr[this.bottom.index]
    )
      this.turn("low", i);
  }

  private turn(side: Side, i: number): void {
    const { time, high, low } = this.track;
    const { price, index } = side === "high" ? this.top : this.bottom;
    const swing: Swing = { index, time: time[index], side, price, knownAt: i };
    this.found.push(swing);
    this.confirmed = [swing];
    this.seeking = side === "high" ? "low" : "high";
    // The move away has an extreme of its own already.
    let spot = { price: side === "high" ? low[i] : high[i], index: i };
    for (let j = index + 1; j < i; j++)
      if (side === "high" ? low[j] < spot.price : high[j] > spot.price)
        spot = { price: side === "high" ? low[j] : high[j], index: j };
    if (side === "high") this.bottom = spot;
    else this.top = spot;
  }
}
