import type { Candidate, Kill } from "#core/waves/spanCounts";
import type { Pattern } from "#core/waves/patterns";
import type { Wave } from "#core/waves/wave";

/** A count of a span with its odds. */
export interface SpanCount {
  root: Wave;
  /** 0 to 1, those of its twins counted in. */
  odds: number;
  kill: Kill;
  /** Other names for the same pivots. */
  also: { pattern: Pattern; odds: number }[];
  /** The price that parts it from the next: of both kill prices the one nearer to the last close. */
  parts?: number;
}

export interface CountOdds {
  counts: SpanCount[];
  none: number;
}

/**
 * How much of a difference of scores is believed, and the odds that none of the counts holds before any is looked at: set
 * on planted counts within longer histories (another seed than the one reported) so that what is said to be likely so
 * many times in a hundred is so.
 */
export const TEMPERATURE = 6;
export const NONE_HOLDS = 0.35;

/** The most distinct counts, likeliest first, with odds that add up to 1 with those of none of them. */
export function oddsOf(candidates: readonly Candidate[], most: number, close: number): CountOdds {
  if (candidates.length === 0) return { counts: [], none: 1 };
  const top = candidates[0].score;
  const weights = candidates.map(({ score }) => Math.exp((score - top) / TEMPERATURE));
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  const counts: SpanCount[] = [];
  const known = new Map<string, SpanCount>();
  candidates.forEach(({ root, kill }, i) => {
    const odds = ((1 - NONE_HOLDS) * weights[i]) / all;
    const key = root.pivots.map(({ time, price }) => `${time} ${price}`).join();
    const twin = known.get(key);
    if (twin) {
      twin.odds += odds;
      twin.also.push({ pattern: root.pattern, odds });
      return;
    }
    const count: SpanCount = { root, odds, kill, also: [] };
    known.set(key, count);
    counts.push(count);
  });
  // The one that stands first is held to: the others follow by their odds.
  const [first, ...others] = counts;
  const told = [first, ...others.sort((a, b) => b.odds - a.odds)].sort((a, b) => b.odds - a.odds).slice(0, most);
  told.forEach((count, i) => {
    const parts = told[i + 1] && partingPrice(count.kill, told[i + 1].kill, close);
    if (parts !== undefined) count.parts = parts;
  });
  return { counts: told, none: Math.max(0, 1 - told.reduce((sum, { odds }) => sum + odds, 0)) };
}

function partingPrice(a: Kill, b: Kill, close: number): number | undefined {
  if (a.price === b.price && a.side === b.side) return undefined;
  return Math.abs(a.price - close) <= Math.abs(b.price - close) ? a.price : b.price;
}
