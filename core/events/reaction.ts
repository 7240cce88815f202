import { median } from "simple-statistics";
import { atr } from "#core/studies/atr";
import { lastAtOrBefore, type Series } from "#core/series/series";
import { DAY } from "#core/time/dates";

/** How far a market went after releases of one name, in ATR(14) of the day. */
export interface Reaction {
  /** Releases that bars tell of. */
  n: number;
  median: number;
}

/** What counts as after a release, and how old the last price before it may be. */
const AFTER = 60 * 60_000;
const OLDEST = DAY;

/**
 * The furthest that price went from the last close before each instant within the hour after it, whichever way, over
 * the ATR(14) of the days that were over by then. `fine`: bars of `length` ms by their opening instants; `days` by
 * dates (midnight UTC). Instants of which bars tell nothing have none.
 */
export function reactionsTo(instants: readonly number[], fine: Series, length: number, days: Series): number[] {
  const ranges = atr(days);
  return instants.flatMap((at) => {
    const before = lastAtOrBefore(fine, at - length);
    const day = lastAtOrBefore(days, Math.floor(at / DAY) * DAY - DAY);
    const usual = day < 0 ? NaN : ranges[day];
    if (before < 0 || at - fine.time[before] > OLDEST || !(usual > 0)) return [];
    let furthest = NaN;
    for (let i = before + 1; i < fine.length && fine.time[i] < at + AFTER; i++) {
      if (fine.time[i] < at) continue;
      const moved = Math.max(Math.abs(fine.high[i] - fine.close[before]), Math.abs(fine.low[i] - fine.close[before]));
      furthest = Number.isNaN(furthest) ? moved : Math.max(furthest, moved);
    }
    return Number.isNaN(furthest) ? [] : [furthest / usual];
  });
}

export function reactionOf(moves: readonly number[]): Reaction | undefined {
  return moves.length === 0 ? undefined : { n: moves.length, median: median([...moves]) };
}
