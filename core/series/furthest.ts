import { bisectLeft } from "d3-array";
import type { Series } from "#core/series/series";
import type { Detector } from "#core/series/track";

/**
 * The lowest low, or highest high, since any bar: indices whose price nothing later has gone beyond, so that the answer
 * for a bar is the first of them at or after it. O(1) amortised a bar, O(log n) a question.
 */
export class FurthestSince implements Detector {
  private readonly indices: number[] = [];

  constructor(
    private readonly track: Pick<Series, "high" | "low">,
    private readonly side: "high" | "low",
  ) {}

  next(i: number): void {
    const { indices, side } = this;
    const prices = this.track[side];
    const sign = side === "high" ? 1 : -1;
    while (indices.length > 0 && sign * prices[indices[indices.length - 1]] <= sign * prices[i]) indices.pop();
    indices.push(i);
  }

  /** Index of the furthest price from bar `from` on; -1 when there is no such bar yet. */
  indexSince(from: number): number {
    const { indices } = this;
    return indices[bisectLeft(indices, from)] ?? -1;
  }

  since(from: number): number {
    return this.track[this.side][this.indexSince(from)];
  }
}
