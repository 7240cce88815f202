import { Heap } from "#core/levels/heap";
import type { Series } from "#core/series/series";
import type { Detector, Track } from "#core/series/track";
import { fairGapAt } from "#core/zones/fairGap";
import { FurthestSince } from "#core/series/furthest";

export type GapState = "untouched" | "partly" | "filled";

/** Prices between two candles that nobody traded at, and what later bars did to them. */
export interface GapLife {
  /** Index of the bar at whose close it is known; those after it act on it. */
  at: number;
  direction: "up" | "down";
  bottom: number;
  top: number;
  state: GapState;
  /** Indices of the first bar whose wick was strictly inside, and of the one that reached the far edge. */
  firstTouch?: number;
  filledAt?: number;
}

export interface Gap extends GapLife {
  /** Deepest share that later wicks worked through from the near edge, 0 to 1. */
  filledShare: number;
}

/**
 * Follows gaps of any kind. They wait in heaps by the price that changes them, so a bar costs O(log gaps) for each it
 * changes and looks at no other.
 */
export class GapFollower implements Detector {
  // Up gaps are met from above: their keys are turned, so that the highest comes first.
  private readonly waiting = { up: new Heap<GapLife>(), down: new Heap<GapLife>() };
  private readonly touched = { up: new Heap<GapLife>(), down: new Heap<GapLife>() };
  private readonly lowest: FurthestSince;
  private readonly highest: FurthestSince;

  constructor(private readonly track: Pick<Series, "high" | "low">) {
    this.lowest = new FurthestSince(track, "low");
    this.highest = new FurthestSince(track, "high");
  }

  add<T extends GapLife>(gap: T): T {
    this.waiting[gap.direction].push(gap.direction === "up" ? -gap.top : gap.bottom, gap);
    return gap;
  }

  next(i: number): void {
    this.meet("up", -this.track.low[i], i);
    this.meet("down", this.track.high[i], i);
    this.lowest.next(i);
    this.highest.next(i);
  }

  /** Deepest share of a gap that wicks have worked through, 0 to 1. */
  shareOf({ direction, bottom, top, state, at }: GapLife): number {
    if (state !== "partly") return state === "filled" ? 1 : 0;
    return (
      (direction === "up" ? top - this.lowest.since(at + 1) : this.highest.since(at + 1) - bottom) / (top - bottom)
    );
  }

  private meet(direction: GapLife["direction"], wick: number, i: number): void {
    const [waiting, touched] = [this.waiting[direction], this.touched[direction]];
    while (waiting.least < wick) {
      const gap = waiting.pop();
      if (!gap) break;
      gap.state = "partly";
      gap.firstTouch = i;
      touched.push(direction === "up" ? -gap.bottom : gap.top, gap);
    }
    while (touched.least <= wick) {
      const gap = touched.pop();
      if (!gap) break;
      gap.state = "filled";
      gap.filledAt = i;
    }
  }
}

export interface FairGap extends GapLife {
  /** Whether the market was closed between two of the three candles. */
  acrossClose?: boolean;
}

/** Fair value gaps (common practice, no source), found and followed one bar after the other. */
export class GapDetector implements Detector {
  readonly found: FairGap[] = [];
  private readonly follower: GapFollower;

  /** `isFirst` tells whether a bar is the first after the market was closed. */
  constructor(
    private readonly track: Track | Series,
    private readonly isFirst: (i: number) => boolean = () => false,
  ) {
    this.follower = new GapFollower(track);
  }

  next(i: number): void {
    this.follower.next(i);
    const found = fairGapAt(this.track, i);
    if (!found) return;
    const gap: FairGap = { at: i, ...found, state: "untouched" };
    if (this.isFirst(i) || this.isFirst(i - 1)) gap.acrossClose = true;
    this.found.push(this.follower.add(gap));
  }

  shareOf(gap: FairGap): number {
    return this.follower.shareOf(gap);
  }
}

/** Every fair value gap of a series: the prices between the first and the third of three candles, and their lives. */
export function gaps(series: Series): Gap[] {
  const detector = new GapDetector(series);
  for (let i = 0; i < series.length; i++) detector.next(i);
  return detector.found.map((gap) => ({ ...gap, filledShare: detector.shareOf(gap) }));
}
