import { advanceBand, FRESH, type Band, type BandEvent, type BandState } from "#core/levels/band";
import { Heap } from "#core/levels/heap";
import type { Detector, Track } from "#core/series/track";
import type { Bar } from "#core/series/series";

/** A band that is followed, what became of it, and every event of its life. */
export interface FollowedBand {
  band: Band;
  state: BandState;
  events: BandEvent[];
}

/**
 * Follows any number of bands by the rules of `advanceBand`. A band that price is away from waits in a heap by the
 * price that reaches it, so a bar looks only at those it meets: O(log bands) a meeting, nothing for the rest.
 */
export class Bands implements Detector {
  private readonly above = new Heap<FollowedBand>();
  private readonly below = new Heap<FollowedBand>();
  private near: FollowedBand[] = [];
  /** Where the events of the band that is being advanced go. */
  private events: BandEvent[] = [];
  private readonly keep = (event: BandEvent) => this.events.push(event);
  private readonly bar: Bar = { time: 0, open: 0, high: 0, low: 0, close: 0, volume: 0 };

  constructor(private readonly track: Track) {}

  /**
   * A band that bars from `from` on act on: those that are there already at once, up to `through`, the others as they
   * come.
   */
  add(band: Band, from: number, through: number): FollowedBand {
    const followed: FollowedBand = { band, state: FRESH, events: [] };
    for (let i = from; i <= through; i++) this.advance(followed, i);
    if (followed.state.status !== "flipped" && !this.wait(followed)) this.near.push(followed);
    return followed;
  }

  next(i: number): void {
    const { high, low } = this.track;
    while (this.above.least <= high[i]) this.meet(this.above);
    while (this.below.least <= -low[i]) this.meet(this.below);
    let kept = 0;
    for (const followed of this.near) {
      this.advance(followed, i);
      if (followed.state.status !== "flipped" && !this.wait(followed)) this.near[kept++] = followed;
    }
    this.near.length = kept;
  }

  private advance(followed: FollowedBand, i: number): void {
    const { bar, track } = this;
    bar.time = track.time[i];
    bar.open = track.open[i];
    bar.high = track.high[i];
    bar.low = track.low[i];
    bar.close = track.close[i];
    this.events = followed.events;
    followed.state = advanceBand(followed.band, followed.state, bar, this.keep);
  }

  private meet(heap: Heap<FollowedBand>): void {
    const met = heap.pop();
    if (met) this.near.push(met);
  }

  /** Puts a band that nothing but price's coming to some place can change where that coming finds it. */
  private wait(followed: FollowedBand): boolean {
    const { band, state } = followed;
    const up = band.side === "demand";
    if (state.status === "pending") return false;
    if (state.status === "broken") {
      if (state.tested) return false;
      // It is met again from the other side, at its far edge, once price has gone away beyond that.
      if (state.away) this.park(up ? this.above : this.below, up ? band.bottom : band.top, followed);
      else this.park(up ? this.below : this.above, up ? band.bottom - band.leave : band.top + band.leave, followed);
    } else if (state.away) this.park(up ? this.below : this.above, up ? band.top : band.bottom, followed);
    else return false;
    return true;
  }

  private park(heap: Heap<FollowedBand>, price: number, followed: FollowedBand): void {
    heap.push(heap === this.above ? price : -price, followed);
  }
}
