import type { Detector, Track } from "#core/series/track";
import type { StructureDetector } from "#core/structure/structure";
import { GapFollower, type GapLife } from "#core/zones/gaps";

export type OpeningGapKind = "common" | "breakaway" | "runaway" | "exhaustion";

/** The prices a market skipped while it was closed: from the last close to the first open. */
export interface OpeningGap extends GapLife {
  /** Whether at least one whole day lay between. */
  weekend: boolean;
  kind: OpeningGapKind;
}

/** A gap smaller than this share of the ATR is not one. */
export const LEAST_GAP = 0.1;
/** A runaway gap filled within this many bars was one of exhaustion. */
const SOON = 5;

/**
 * Opening and weekend gaps, found and followed. Kinds after Edwards and Magee (Technical Analysis of Stock Trends,
 * 1948), from memory, decided at the close of the bar that opened: breakaway when that bar breaks or shifts structure
 * the gap's way, runaway when the trend already runs that way, common otherwise; a runaway gap filled within five bars
 * is one of exhaustion from then on. A gap that its own bar fills before it closes is filled at once.
 */
export class OpeningGapDetector implements Detector {
  readonly found: OpeningGap[] = [];
  private readonly follower: GapFollower;
  private running: OpeningGap[] = [];

  /**
   * `closedBefore` tells how a bar follows the one before it: without a pause, after a closed one, after a whole day
   * and more.
   */
  constructor(
    private readonly track: Track,
    private readonly structure: StructureDetector,
    private readonly closedBefore: (i: number) => "open" | "closed" | "days",
  ) {
    this.follower = new GapFollower(track);
  }

  next(i: number): void {
    const gap = this.gapAt(i);
    if (gap) this.found.push(this.follower.add(gap));
    this.follower.next(i);
    this.running = this.running.filter((one) => {
      if (one.state === "filled") one.kind = "exhaustion";
      return one.state !== "filled" && i - one.at < SOON;
    });
    if (gap?.kind === "runaway" && gap.state !== "filled") this.running.push(gap);
  }

  shareOf(gap: OpeningGap): number {
    // The bar that opened beyond it is the first that may fill it.
    return this.follower.shareOf({ ...gap, at: gap.at - 1 });
  }

  private gapAt(i: number): OpeningGap | undefined {
    const pause = i > 0 ? this.closedBefore(i) : "open";
    if (pause === "open") return undefined;
    const { open, close, atr } = this.track;
    const [before, now] = [close[i - 1], open[i]];
    if (Math.abs(now - before) < LEAST_GAP * atr[i - 1]) return undefined;
    const direction = now > before ? "up" : "down";
    return {
      at: i,
      direction,
      bottom: Math.min(before, now),
      top: Math.max(before, now),
      state: "untouched",
      weekend: pause === "days",
      kind: this.kindOf(direction, i),
    };
  }

  private kindOf(direction: GapLife["direction"], i: number): OpeningGapKind {
    const { events, trend } = this.structure;
    const last = events.at(-1);
    if (last?.at === i && last.direction === direction && (last.event === "break" || last.event === "shift"))
      return "breakaway";
    return trend?.way === direction ? "runaway" : "common";
  }
}
