import { logistic } from "#core/statistics/logistic";
import type { Candidate, Kill } from "#core/waves/spanCounts";
import type { Pattern } from "#core/waves/patterns";
import type { Wave } from "#core/waves/wave";

/** A count of a span with its odds. */
export interface SpanCount {
  root: Wave;
  /** ln likelihood, as its candidate had it. */
  score: number;
  /** 0 to 1, those of its twins counted in. */
  odds: number;
  kill: Kill;
  /** Other names for the same pivots. */
  also: { pattern: Pattern; odds: number }[];
  /** The price that parts it from the next: of both kill prices the one nearer to the last close. */
  parts?: number;
}

/**
 * How much of a difference of scores is believed, and the log odds that any of the counts holds, by the score of the
 * best a turn: set on planted counts, alone and within longer histories, of another seed than the one reported, so that
 * what is said to be likely so many times in a hundred is so.
 */
const TEMPERATURE = 3;
const ANY_HOLDS = { at: -0.5, byScore: 2 };

/** The most distinct counts, likeliest first, with their odds. */
export function distinct(candidates: readonly Candidate[], most: number): SpanCount[] {
  if (candidates.length === 0) return [];
  const { score: top, evidence } = candidates[0];
  const any = logistic(ANY_HOLDS.at + ANY_HOLDS.byScore * evidence);
  const weights = candidates.map(({ score }) => Math.exp((score - top) / TEMPERATURE));
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  const told: { from: Candidate; count: SpanCount }[] = [];
  candidates.forEach((candidate, i) => {
    const { root, kill, score } = candidate;
    const odds = (any * weights[i]) / all;
    const twin = told.find(({ from }) => isTwin(from, candidate));
    if (!twin) {
      told.push({ from: candidate, count: { root, score, odds, kill, also: [] } });
      return;
    }
    twin.count.odds += odds;
    if (hasPivotsOf(twin.from, candidate)) twin.count.also.push({ pattern: root.pattern, odds });
  });
  return told
    .map(({ count }) => count)
    .sort((a, b) => b.odds - a.odds)
    .slice(0, most);
}

/**
 * Counts that price has left standing: what those it has ended were worth goes to the others and to none of them alike.
 */
export function standing(
  counts: readonly SpanCount[],
  isEnded: (kill: Kill) => boolean,
  close: number,
): { counts: SpanCount[]; none: number } {
  const left = counts.filter(({ kill }) => !isEnded(kill));
  const gone = counts.reduce((sum, { odds }) => sum + odds, 0) - left.reduce((sum, { odds }) => sum + odds, 0);
  const scale = 1 / Math.max(1e-9, 1 - gone);
  const told = left.map(({ parts: _parts, also, ...count }, i): SpanCount => {
    const next = left.at(i + 1);
    const parts = next && partingPrice(count.kill, next.kill, close);
    return {
      ...{ ...count, odds: count.odds * scale, also: also.map((twin) => ({ ...twin, odds: twin.odds * scale })) },
      ...(parts === undefined ? {} : { parts }),
    };
  });
  return { counts: told, none: Math.max(0, 1 - told.reduce((sum, { odds }) => sum + odds, 0)) };
}

/**
 * Whether two counts have the same pivots, or the same but for neighbouring turns and end by one price and side: what
 * would be done by them is the same.
 */
function isTwin(a: Candidate, b: Candidate): boolean {
  if (hasPivotsOf(a, b)) return true;
  return (
    a.root.pattern === b.root.pattern &&
    a.kill.price === b.kill.price &&
    a.turns.length > 0 &&
    a.turns.length === b.turns.length &&
    a.turns.every((turn, i) => Math.abs(turn - b.turns[i]) <= 2 && (turn - b.turns[i]) % 2 === 0)
  );
}

function hasPivotsOf({ root: a }: Candidate, { root: b }: Candidate): boolean {
  return (
    a.pivots.length === b.pivots.length &&
    a.pivots.every(({ time, price }, i) => time === b.pivots[i].time && price === b.pivots[i].price)
  );
}

function partingPrice(a: Kill, b: Kill, close: number): number | undefined {
  if (a.price === b.price && a.side === b.side) return undefined;
  return Math.abs(a.price - close) <= Math.abs(b.price - close) ? a.price : b.price;
}
