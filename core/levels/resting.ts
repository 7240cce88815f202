import { Heap } from "#core/levels/heap";
import type { ExtremeState } from "#core/levels/periodExtremes";
import type { Detector, Track } from "#core/series/track";

/** A price beyond which orders rest: a high is run from below, a low from above. */
export interface Resting {
  side: "high" | "low";
  price: number;
  state: ExtremeState;
  /** Indices of the bar whose wick first went beyond, and of the first that closed beyond. */
  sweptAt?: number;
  takenAt?: number;
}

/**
 * Follows resting prices: swept by a wick strictly beyond, taken by a close strictly beyond. O(log n) for each that is
 * met.
 */
export class RestingPrices implements Detector {
  private readonly untouched = { high: new Heap<Resting>(), low: new Heap<Resting>() };
  private readonly swept = { high: new Heap<Resting>(), low: new Heap<Resting>() };

  constructor(private readonly track: Pick<Track, "high" | "low" | "close">) {}

  add<T extends Resting>(resting: T): T {
    this.untouched[resting.side].push(resting.side === "high" ? resting.price : -resting.price, resting);
    return resting;
  }

  next(i: number): void {
    const { high, low, close } = this.track;
    this.reach("high", high[i], close[i], i);
    this.reach("low", -low[i], -close[i], i);
  }

  private reach(side: Resting["side"], wick: number, close: number, i: number): void {
    const [untouched, swept] = [this.untouched[side], this.swept[side]];
    while (untouched.least < wick) {
      const met = untouched.pop();
      if (!met) break;
      met.state = "swept";
      met.sweptAt = i;
      swept.push(side === "high" ? met.price : -met.price, met);
    }
    while (swept.least < close) {
      const met = swept.pop();
      if (!met) break;
      met.state = "taken";
      met.takenAt = i;
    }
  }
}
