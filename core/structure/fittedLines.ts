import type { Track } from "#core/series/track";
import type { Side, Swing } from "#core/structure/swings";

/** A line through two swings of one side, judged by what happened since the first. */
export interface FittedLine {
  side: Side;
  from: Swing;
  to: Swing;
  /** Price a bar, and price at the last bar. */
  perBar: number;
  now: number;
  /** Swings that end on it, its own two counted; closes beyond it. */
  touches: number;
  violations: number;
  /**
   * The swing of the other side, between the two, that lies furthest from it: the parallel through it makes a channel.
   */
  opposite?: Swing;
}

export interface LineRules {
  /**
   * Swings of a side that are looked back on, bars they may reach back, and how near (ATR) a swing must end to touch.
   */
  swings: number;
  bars: number;
  near: number;
  /** Most closes beyond that a proposal may have. */
  violations: number;
}

export const LINE_RULES: LineRules = { swings: 14, bars: 400, near: 0.15, violations: 0 };

/**
 * Trend lines that swings respect, best first: of every two of the last swings of a side, those with a third touch or
 * more and no more closes beyond than allowed, up to the last bar (definition our own; touches and closes as common
 * practice has them). A rising line stands under lows, a falling one over highs. The tolerance is of the ATR known when
 * the second swing was confirmed. Cost: swings squared times bars since the first, both bounded by the rules.
 */
export function fittedLines(track: Track, swings: readonly Swing[], rules: LineRules = LINE_RULES): FittedLine[] {
  const out: FittedLine[] = [];
  for (const side of ["low", "high"] as const) {
    const own = swings
      .filter((swing) => swing.side === side && swing.index >= track.length - rules.bars)
      .slice(-rules.swings);
    for (let b = 1; b < own.length; b++)
      for (let a = 0; a < b; a++) {
        const line = judge(track, own, own[a], own[b], rules);
        if (line) out.push({ ...line, ...oppositeOf(swings, line) });
      }
  }
  return apart(
    out.sort((a, b) => b.touches - a.touches || b.to.index - b.from.index - (a.to.index - a.from.index)),
    track,
  );
}

function judge(track: Track, own: readonly Swing[], from: Swing, to: Swing, rules: LineRules): FittedLine | undefined {
  const { close, atr, length } = track;
  const perBar = (to.price - from.price) / (to.index - from.index);
  const sign = from.side === "low" ? 1 : -1;
  if (sign * perBar <= 0) return undefined;
  const at = (i: number) => from.price + perBar * (i - from.index);
  const near = rules.near * atr[to.knownAt];
  const touches = own.filter(
    (swing) => swing.index >= from.index && Math.abs(swing.price - at(swing.index)) <= near,
  ).length;
  if (touches < 3) return undefined;
  let violations = 0;
  for (let i = from.index; i < length; i++)
    if (sign * (close[i] - at(i)) < 0 && ++violations > rules.violations) return undefined;
  return { side: from.side, from, to, perBar, now: at(length - 1), touches, violations };
}

function oppositeOf(swings: readonly Swing[], { from, to, perBar, side }: FittedLine): { opposite?: Swing } {
  const sign = side === "low" ? 1 : -1;
  let opposite: Swing | undefined;
  let furthest = 0;
  for (const swing of swings) {
    if (swing.side === side || swing.index <= from.index || swing.index >= to.index) continue;
    const away = sign * (swing.price - from.price - perBar * (swing.index - from.index));
    if (away > furthest) [opposite, furthest] = [swing, away];
  }
  return opposite ? { opposite } : {};
}

/** Of lines that say the same (the same prices now and where the shorter begins) the first stays. */
function apart(lines: readonly FittedLine[], { atr, length }: Track): FittedLine[] {
  const near = atr[length - 1] / 2;
  const out: FittedLine[] = [];
  for (const line of lines) {
    const begin = (one: FittedLine, i: number) => one.from.price + one.perBar * (i - one.from.index);
    const same = out.some((one) => {
      const i = Math.max(one.from.index, line.from.index);
      return (
        one.side === line.side &&
        Math.abs(one.now - line.now) <= near &&
        Math.abs(begin(one, i) - begin(line, i)) <= near
      );
    });
    if (!same) out.push(line);
  }
  return out;
}
