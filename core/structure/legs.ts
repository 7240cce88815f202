import type { Track } from "#core/series/track";
import type { Swing } from "#core/structure/swings";

/** One leg between two alternating swings, measured. */
export interface Leg {
  from: Swing;
  to: Swing;
  direction: "up" | "down";
  /** Height in price units, bars from end to end, and ATR (known at its start) a bar. */
  size: number;
  bars: number;
  speed: number;
  /** Share of the leg before it that it took back, 0 to 1 and above; absent for the first. */
  retraced?: number;
  /**
   * Share of its bars that overlap the bar before them by more than half their own range: how laboured it is, 0 to 1.
   */
  overlap: number;
}

/**
 * Highs and lows in turn: of several on one side the outermost stays, of equal ones the first. One that does not turn,
 * a high not above the low before it, is none: after a gap price may print its whole bar beyond.
 */
export function alternating<T extends Swing>(swings: readonly T[]): T[] {
  const out: T[] = [];
  for (const swing of swings) {
    const last = out.at(-1);
    const isBeyond = !last || (swing.side === "high" ? swing.price > last.price : swing.price < last.price);
    if (!isBeyond) continue;
    if (last?.side === swing.side) out[out.length - 1] = swing;
    else out.push(swing);
  }
  return out;
}

/** Legs between alternating swings: an impulse is fast and little overlapped, a healthy pullback slow and shallow. */
export function legsOf(track: Track, swings: readonly Swing[]): Leg[] {
  const turns = alternating(swings);
  const legs: Leg[] = [];
  for (let n = 1; n < turns.length; n++) {
    const [from, to] = [turns[n - 1], turns[n]];
    const size = Math.abs(to.price - from.price);
    const bars = Math.max(1, to.index - from.index);
    const before = legs.at(-1);
    legs.push({
      from,
      to,
      direction: to.price > from.price ? "up" : "down",
      size,
      bars,
      speed: size / bars / track.atr[from.index],
      ...(before && before.size > 0 ? { retraced: size / before.size } : {}),
      overlap: overlapOf(track, from.index, to.index),
    });
  }
  return legs;
}

function overlapOf({ high, low }: Track, from: number, to: number): number {
  let overlapped = 0;
  for (let i = from + 1; i <= to; i++) {
    const shared = Math.min(high[i], high[i - 1]) - Math.max(low[i], low[i - 1]);
    if (shared > (high[i] - low[i]) / 2) overlapped++;
  }
  return to > from ? overlapped / (to - from) : 0;
}
