import { Heap } from "#core/levels/heap";
import type { Swing } from "#core/structure/swings";

export interface NestedSwing extends Swing {
  /**
   * The leg size (price units) up to which this swing stands: it is one of every degree whose smallest leg is at most
   * this.
   */
  size: number;
}

/**
 * Alternating swings nested by repeated merging: the smallest leg goes first, and with it the two swings it joins, so
 * that every pivot of a coarser degree is one of each finer degree and highs and lows always alternate. A leg at either
 * end goes with its outer swing alone. Returns all swings, each with the leg
 * size it survives; the last two survive everything. O(n log n).
 */
export function nested(swings: readonly Swing[]): NestedSwing[] {
  const n = swings.length;
  const out = swings.map((swing): NestedSwing => ({ ...swing, size: Infinity }));
  const before = Int32Array.from({ length: n }, (_, i) => i - 1);
  const after = Int32Array.from({ length: n }, (_, i) => (i + 1 < n ? i + 1 : -1));
  const gone = new Uint8Array(n);
  const legs = new Heap<[number, number]>();
  const size = (a: number, b: number) => Math.abs(swings[a].price - swings[b].price);
  for (let i = 1; i < n; i++) legs.push(size(i - 1, i), [i - 1, i]);
  let left = n;
  let reached = 0;
  while (left > 2) {
    const key = legs.least;
    const leg = legs.pop();
    if (!leg) break;
    const [a, b] = leg;
    if (gone[a] || gone[b] || after[a] !== b) continue;
    // A larger degree never ends before a smaller one.
    reached = Math.max(reached, key);
    const ends = [before[a] < 0 ? [a] : after[b] < 0 ? [b] : [a, b]].flat();
    for (const swing of ends) {
      out[swing].size = reached;
      gone[swing] = 1;
      left--;
    }
    const [from, to] = ends.length === 2 ? [before[a], after[b]] : ends[0] === a ? [-1, b] : [a, -1];
    if (from >= 0) after[from] = to;
    if (to >= 0) before[to] = from;
    if (from >= 0 && to >= 0) legs.push(size(from, to), [from, to]);
  }
  return out;
}

/** The swings of the degree whose smallest leg is larger than `size`. */
export function degreeOf(swings: readonly NestedSwing[], size: number): NestedSwing[] {
  return swings.filter((swing) => swing.size > size);
}
