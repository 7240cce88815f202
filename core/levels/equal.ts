import { RestingPrices, type Resting } from "#core/levels/resting";
import type { Detector, Track } from "#core/series/track";
import type { SwingDetector } from "#core/structure/swingDetector";
import type { Side, Swing } from "#core/structure/swings";

/** Two or more swings of one side at one price: orders rest beyond the outermost of them. */
export interface EqualLevel extends Resting {
  swings: Swing[];
  /** How far apart its swings may lie; frozen when the second was confirmed (price units). */
  tolerance: number;
  knownAt: number;
}

/**
 * A row of at least three rising lows or falling highs; `price` is that of its first, beyond which all of it is run.
 */
export interface Row extends Resting {
  swings: Swing[];
  knownAt: number;
}

/** Share of the ATR that equal swings may lie apart. */
export const EQUAL_TOLERANCE = 0.1;
const LEAST_OF_ROW = 3;

/**
 * Equal highs and lows, and rows of rising lows or falling highs (common practice, no source). Two swings are equal
 * when they lie within `tolerance` x the ATR known at the confirmation of the second (inclusive) and no swing between
 * went further beyond the first; a third joins while the pool is untouched. Swept by a wick strictly beyond the
 * outermost, taken by a close. O(1) amortised a bar.
 */
export class EqualLevels implements Detector {
  readonly found: EqualLevel[] = [];
  readonly rows: Row[] = [];
  private readonly resting: RestingPrices;
  /**
   * Swings nothing has gone beyond, newest last: each nearer to price than the one before it, but for the tolerance.
   */
  private readonly single: Record<Side, Swing[]> = { high: [], low: [] };
  private readonly pools: Record<Side, EqualLevel[]> = { high: [], low: [] };
  private readonly last: Record<Side, Swing[]> = { high: [], low: [] };
  private readonly row: Record<Side, Row | undefined> = { high: undefined, low: undefined };

  constructor(
    private readonly track: Track,
    private readonly swings: SwingDetector,
    private readonly tolerance = EQUAL_TOLERANCE,
  ) {
    this.resting = new RestingPrices(track);
  }

  next(i: number): void {
    this.resting.next(i);
    for (const swing of this.swings.confirmed) {
      this.match(swing);
      this.lineUp(swing);
    }
  }

  private match(swing: Swing): void {
    const { side, price, knownAt } = swing;
    const sign = side === "high" ? 1 : -1;
    // Half a tick for what binary fractions add: ties are judged on the tick grid.
    const reach = this.tolerance * this.track.atr[knownAt] + this.track.tick / 1000;
    const pools = this.pools[side];
    while (pools.length > 0 && pools[pools.length - 1].state !== "untouched") pools.pop();
    const pool = pools.findLast((one) => one.state === "untouched" && Math.abs(one.price - price) <= one.tolerance);
    if (pool) {
      pool.swings.push(swing);
      return;
    }
    const single = this.single[side];
    while (single.length > 0 && sign * (price - single[single.length - 1].price) > reach) single.pop();
    const other = single.at(-1);
    if (!other || Math.abs(other.price - price) > reach) {
      single.push(swing);
      return;
    }
    single.pop();
    const outermost = sign * (price - other.price) > 0 ? price : other.price;
    const made: EqualLevel = {
      side,
      price: outermost,
      state: "untouched",
      swings: [other, swing],
      tolerance: reach,
      knownAt,
    };
    pools.push(made);
    this.found.push(this.resting.add(made));
  }

  private lineUp(swing: Swing): void {
    const { side } = swing;
    const sign = side === "low" ? 1 : -1;
    const line = this.last[side];
    const before = line.at(-1);
    if (before && sign * (swing.price - before.price) > 0) line.push(swing);
    else {
      this.last[side] = [swing];
      this.row[side] = undefined;
      return;
    }
    const row = this.row[side];
    if (row) row.swings.push(swing);
    else if (line.length >= LEAST_OF_ROW) {
      const made: Row = { side, price: line[0].price, state: "untouched", swings: [...line], knownAt: swing.knownAt };
      this.row[side] = made;
      this.rows.push(this.resting.add(made));
    }
  }
}
