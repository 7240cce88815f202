import type { Bar } from "#core/series/series";

/**
 * A price band that bars meet: a supply or demand zone, or a level (a band without height). "Near" is the edge
 * price comes back to, "far" the one beyond which it is wrong.
 */
export interface Band {
  side: "demand" | "supply";
  bottom: number;
  top: number;
  /** How far a wick must go beyond the near edge, with a close outside, to end a touch (price units). */
  leave: number;
}

export type BandStatus = "pending" | "fresh" | "touched" | "spent" | "broken" | "flipped";

export interface BandState {
  status: BandStatus;
  touches: number;
  /** Deepest share of the band a wick reached, 0 to 1; for a level 0 until it is reached, then 1. */
  deepest: number;
  /** Whether price has left, so that the next contact is a new touch. */
  away: boolean;
  /** Whether it came back from the other side after the break. */
  tested: boolean;
}

export type BandEventName = "touched" | "left" | "swept" | "spent" | "broken" | "flipped";

export interface BandEvent {
  event: BandEventName;
  time: number;
  touches: number;
  deepest: number;
}

/** When a band counts as used up: judged each time price has left it again. */
export const SPENT = { deepest: 0.5, touches: 3 };

export const FRESH: BandState = { status: "pending", touches: 0, deepest: 0, away: false, tested: false };

/**
 * One bar of the band's own rung. Rules, all inclusive at the edge named:
 * - it is pending until a close beyond the near edge; that bar and those before cannot touch it;
 * - a touch is a wick that reaches the near edge after price was away; one touch lasts until a wick goes `leave`
 *   beyond the near edge and that bar closes outside; a bar that itself reached the band leaves only by its close,
 *   for its far wick may have come first;
 * - spent is judged on leaving; broken is a close strictly beyond the far edge (by a wick alone it is swept);
 * - flipped is a broken band that price meets again from the other side and leaves without a close through it.
 * Returns the same object when nothing changed.
 */
export function advanceBand(band: Band, state: BandState, bar: Bar, emit: (event: BandEvent) => void): BandState {
  if (state.status === "flipped") return state;
  const up = band.side === "demand";
  const height = band.top - band.bottom;
  const near = up ? band.top : band.bottom;
  const far = up ? band.bottom : band.top;
  const sign = up ? 1 : -1;
  const toward = up ? bar.low : bar.high;
  const outward = up ? bar.high : bar.low;
  if (state.status === "pending")
    return sign * (bar.close - near) > 0 ? { ...state, status: "fresh", away: true } : state;

  if (state.status === "broken") {
    const reached = sign * (outward - far) >= 0;
    const through = sign * (bar.close - near) > 0;
    const gone = sign * (toward - far) <= -band.leave && sign * (bar.close - far) < 0;
    if (!state.away) return gone ? { ...state, away: true } : state;
    if (through) return { ...state, away: false, tested: false };
    if (state.tested && gone) {
      const next: BandState = { ...state, status: "flipped" };
      say("flipped", next, bar, emit);
      return next;
    }
    return reached && !state.tested ? { ...state, tested: true } : state;
  }

  let next = state;
  const reached = sign * (near - toward) >= 0;
  if (reached) {
    const share = height > 0 ? Math.min(1, (sign * (near - toward)) / height) : 1;
    if (state.away) {
      next = { ...next, status: next.status === "spent" ? "spent" : "touched", touches: next.touches + 1, away: false };
      if (share > next.deepest) next.deepest = share;
      say("touched", next, bar, emit);
    } else if (share > next.deepest) next = { ...next, deepest: share };
    if (sign * (bar.close - far) < 0) {
      next = { ...next, status: "broken", away: false };
      say("broken", next, bar, emit);
      return next;
    }
    if (sign * (toward - far) < 0) say("swept", next, bar, emit);
  }
  const furthest = reached ? bar.close : outward;
  if (!next.away && sign * (furthest - near) >= band.leave && sign * (bar.close - near) > 0) {
    next = { ...next, away: true };
    say("left", next, bar, emit);
    if (next.status === "touched" && (next.deepest >= SPENT.deepest || next.touches >= SPENT.touches) && height > 0) {
      next.status = "spent";
      say("spent", next, bar, emit);
    }
  }
  return next;
}

function say(
  event: BandEventName,
  { touches, deepest }: BandState,
  { time }: Bar,
  emit: (event: BandEvent) => void,
): void {
  emit({ event, time, touches, deepest });
}
