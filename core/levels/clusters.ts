import { bisector } from "d3-array";
import type { Detector, Track } from "#core/series/track";
import type { SwingDetector } from "#core/structure/swingDetector";
import type { Swing } from "#core/structure/swings";

const { right: byPrice } = bisector(({ price }: { price: number }) => price);

/** A price that swings gather about. */
export interface Cluster {
  /** Price of its first swing, and how far others may lie from it; both frozen (price units). */
  price: number;
  tolerance: number;
  swings: Swing[];
  highs: number;
  lows: number;
}

/** Share of the ATR within which swings gather. */
export const CLUSTER_TOLERANCE = 0.25;

/**
 * Support and resistance by touches: a swing joins the nearest cluster within the tolerance that cluster was born with,
 * or begins one of its own. Events only: a cluster grows and is never split or moved. One that has served as high and
 * as low has changed roles. O(log n) a swing, and the price of keeping a sorted list.
 */
export class Clusters implements Detector {
  /** From low to high. */
  readonly found: Cluster[] = [];

  constructor(
    private readonly track: Track,
    private readonly swings: SwingDetector,
    private readonly tolerance = CLUSTER_TOLERANCE,
  ) {}

  next(): void {
    for (const swing of this.swings.confirmed) this.join(swing);
  }

  private join(swing: Swing): void {
    const at = this.firstAbove(swing.price);
    const cluster = [this.found[at - 1], this.found[at]]
      .filter((one) => one && Math.abs(one.price - swing.price) <= one.tolerance)
      .sort((a, b) => Math.abs(a.price - swing.price) - Math.abs(b.price - swing.price))
      .at(0);
    const joined = cluster ?? {
      price: swing.price,
      tolerance: this.tolerance * this.track.atr[swing.knownAt],
      swings: [],
      highs: 0,
      lows: 0,
    };
    joined.swings.push(swing);
    joined[swing.side === "high" ? "highs" : "lows"]++;
    if (!cluster) this.found.splice(at, 0, joined);
  }

  private firstAbove(price: number): number {
    return byPrice(this.found, price);
  }
}
