import { priceOn, type PatternForm } from "#core/patterns/shape";

export type PatternState = "forming" | "confirmed" | "met" | "failed" | "negated";

/** Where a pattern stands; bars by index, prices as the market has them. Plain data. */
export interface PatternLife {
  state: PatternState;
  /** The way it was left, once it is confirmed: 1 up, -1 down. */
  way?: 1 | -1;
  confirmedAt?: number;
  /** The line at the bar that closed beyond it, that bar's close, and what follows from them. */
  broke?: number;
  entry?: number;
  target?: number;
  stop?: number;
  retestedAt?: number;
  /** The bar that met, failed or negated it. */
  endedAt?: number;
  /** Negated by time: nothing confirmed it by its last bar. */
  isLate?: true;
}

export const FORMING: PatternLife = { state: "forming" };
export const isOver = ({ state }: PatternLife): boolean => state !== "forming" && state !== "confirmed";

/** A price counts as one that was computed within a thousandth of a tick. */
const REACH = 1e-3;

interface LifeBar {
  high: number;
  low: number;
  close: number;
}

/**
 * The life after one more closed bar; the same object where nothing changed. Confirmed and negated by closes, retested
 * and met by wicks, failed by a close beyond the stop; a bar that meets the target and closes beyond the stop failed,
 * for what came first is not known. Where prices are above 0 a target that is not is none.
 */
export function advancePattern(
  form: PatternForm,
  sign: 1 | -1,
  life: PatternLife,
  bar: LifeBar,
  i: number,
  tick: number,
): PatternLife {
  if (isOver(life)) return life;
  const within = REACH * tick;
  if (life.state === "confirmed") return afterBreak(form, sign, life, bar, i, within);
  const close = sign * bar.close;
  const [up, down] = [priceOn(form.confirm, i), priceOn(form.against, i)];
  if (i <= form.until && close > up + within) return confirmed(form, sign, 1, up, bar, i);
  if (close < down - within)
    return form.isEither && i <= form.until
      ? confirmed(form, sign, -1, down, bar, i)
      : { state: "negated", endedAt: i };
  return i >= form.until ? { state: "negated", endedAt: i, isLate: true } : life;
}

/** `side` is 1 beyond the line it waited for, -1 beyond the other one. */
function confirmed(form: PatternForm, sign: 1 | -1, side: 1 | -1, line: number, bar: LifeBar, i: number): PatternLife {
  const target = sign * (side > 0 && form.target !== undefined ? form.target : line + side * form.height);
  return {
    ...{ state: "confirmed", way: (sign * side) as 1 | -1, confirmedAt: i, broke: sign * line, entry: bar.close },
    ...(target > 0 || bar.close <= 0 ? { target } : {}),
    stop: sign * (side > 0 ? form.stop : form.otherStop),
  };
}

function afterBreak(
  form: PatternForm,
  sign: 1 | -1,
  life: PatternLife,
  bar: LifeBar,
  i: number,
  within: number,
): PatternLife {
  const way = life.way!;
  const [ahead, back] = way > 0 ? [bar.high, bar.low] : [-bar.low, -bar.high];
  if (way * bar.close < way * life.stop! - within) return { ...life, state: "failed", endedAt: i };
  if (life.target !== undefined && ahead >= way * life.target - within) return { ...life, state: "met", endedAt: i };
  const line = sign * priceOn(way * sign > 0 ? form.confirm : form.against, i);
  const isRetest = life.retestedAt === undefined && back <= way * line + within && way * bar.close > way * line;
  return isRetest ? { ...life, retestedAt: i } : life;
}
