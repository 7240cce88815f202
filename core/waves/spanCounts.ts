import type { Series } from "#core/series/series";
import { CountingMachine, type FoundWave } from "#core/waves/machine";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import type { FoundRoot } from "#core/waves/roots";
import { checkTree, STRICT } from "#core/waves/rules";
import { nestedStatements } from "#core/waves/statements";
import { turnsInLogs, type Turns } from "#core/waves/turns";
import { directionOf, isComplete, type Wave } from "#core/waves/wave";

/** The price that ends a count, strictly beyond it on `side`. */
export interface Kill {
  price: number;
  side: "below" | "above";
}

/** A count of a span before it has odds. */
export interface Candidate {
  root: Wave;
  kill: Kill;
  /** ln likelihood of the turns as it explains them, with how usual it is and what stood before. */
  score: number;
  /** Places of its pivots among the turns of the span. */
  turns: readonly number[];
  /** What its score says a turn, without what stood before: above 0 where it explains the turns better than chance. */
  evidence: number;
  /** Whether it begins early enough and covers enough of the whole view. */
  covers: boolean;
}

export interface SpanCounting {
  degrees: number;
  /**
   * Price of the turn it begins at; without one the span is all there is: its counts are to cover it, wherever they
   * begin in its first fifth.
   */
  start: number | undefined;
  /** The count that stood first before, if it still stands. */
  first: Pick<Candidate, "root" | "kill" | "score"> | undefined;
}

/** Turns a span is counted by. */
const TURNS = 60;
/** Roots asked for, and counts kept. */
const ASKED = 150;
const KEPT = 60;
/** Within which first share of the bars a count of the whole view begins, and the share of bars and range it covers. */
const FIRST_PART = 0.2;
const COVERED = 0.8;
const STARTS = 6;
/**
 * How much rarer each pattern is as the root of a view than its share among patterns says: the search finds a
 * combination wherever it looks, for it may be put together in the most ways (natural logs; our own judgement, held
 * against nothing yet but planted counts, of which it loses about as many as it finds).
 */
const ROOT_PRIOR: Readonly<Record<Pattern, number>> = {
  impulse: 0,
  leadingDiagonal: -2,
  leadingDiagonalExpanding: -3,
  endingDiagonal: -3,
  endingDiagonalExpanding: -4,
  zigzag: -0.5,
  flat: -1,
  triangle: -1.5,
  triangleExpanding: -4,
  doubleZigzag: -2.5,
  tripleZigzag: -6,
  doubleThree: -2.5,
  tripleThree: -6,
};
/** A largest wave of whose inside nothing is said though so many prominent turns lie in it, and what that costs. */
const TURNS_INSIDE = 8;
const BARE = -12;
/** What a count of the whole view that does not cover it costs; what having stood first before is worth. */
const SHORT = -40;
const STOOD = 4;
/** What one that stood first loses each time the search does not find it. */
const FADES = 0.5;

/** Counts of a span, the likeliest first; none breaks a rule, none has been ended by its own bars. */
export function countsFrom(series: Series, { degrees, start, first }: SpanCounting): Candidate[] {
  const turns = turnsInLogs(series, TURNS, start);
  const isWhole = start === undefined;
  if (turns.price.length < 4) return [];
  const machine = new CountingMachine(turns);
  while (machine.fill() < 1);
  const starts = isWhole ? startsOf(turns, series) : [0];
  const roots = machine.roots({ best: ASKED, alike: true, ...(starts.length > 0 ? { starts } : {}) });
  const chance = machine.cells.chance;
  const found: Candidate[] = [];
  for (const root of roots) {
    const candidate = candidateOf(root, machine, turns, series, degrees);
    if (!candidate) continue;
    const stood = first && isSameCount(first.root, candidate.root) ? STOOD : 0;
    const missed = isWhole && !candidate.covers ? SHORT : 0;
    const score = candidate.score - chance;
    found.push({ ...candidate, evidence: score / turns.price.length, score: score + stood + missed });
  }
  found.sort((a, b) => b.score - a.score).splice(KEPT);
  // What is held to is not lost because other counts crowd it out of the search; each time it weighs less.
  if (first && !found.some(({ root }) => isSameCount(first.root, root))) {
    const top = found.at(0)?.score ?? first.score;
    const score = Math.min(top, first.score) - FADES + STOOD;
    found.push({
      ...first,
      score,
      turns: [],
      evidence: found.at(0)?.evidence ?? 0,
      covers: found.at(0)?.covers ?? true,
    });
    found.sort((a, b) => b.score - a.score);
  }
  return found;
}

/** Turns in the first fifth of the bars from which on four fifths of the range are still to come. */
function startsOf({ index, size }: Turns, series: Series): number[] {
  const whole = rangeOf(series, 0, series.length - 1);
  return Array.from(index, (_, n) => n)
    .filter(
      (n) =>
        index[n] <= FIRST_PART * (series.length - 1) &&
        rangeOf(series, index[n], series.length - 1) >= COVERED * whole &&
        n < index.length - 3,
    )
    .sort((a, b) => size[b] - size[a] || a - b)
    .slice(0, STARTS)
    .sort((a, b) => a - b);
}

/** ln of the highest to the lowest price of bars. */
function rangeOf({ high, low }: Series, from: number, to: number): number {
  let [top, bottom] = [-Infinity, Infinity];
  for (let i = from; i <= to; i++) [top, bottom] = [Math.max(top, high[i]), Math.min(bottom, low[i])];
  return Math.log(top / bottom);
}

function candidateOf(
  found: FoundRoot,
  machine: CountingMachine,
  turns: Turns,
  series: Series,
  degrees: number,
): Candidate | undefined {
  const waveOf = ({ pattern, turns: at, inner }: FoundWave): Wave => ({
    pattern,
    pivots: at.map((turn) => ({ time: turns.time[turn], price: turns.price[turn] })),
    inner: PATTERNS[pattern].labels.map((_, i) => (inner[i] ? waveOf(inner[i]) : undefined)),
  });
  const root = waveOf(machine.tree(found, degrees));
  if (!checkTree(root, { ...STRICT, scale: "log" }).every(({ rules }) => rules.every(({ holds }) => holds)))
    return undefined;
  const at = found.turns.map((turn) => turns.index[turn]);
  const kill = killOf(root);
  const last = at[at.length - 1];
  for (let i = last; i < series.length; i++) if (reachedBy(kill, series, i)) return undefined;
  const end = isComplete(root) ? last : series.length - 1;
  const covers =
    at[0] <= FIRST_PART * (series.length - 1) &&
    end - at[0] >= COVERED * (series.length - 1) &&
    rangeOf(series, at[0], end) >= COVERED * rangeOf(series, 0, series.length - 1);
  const bare = isLargestBare(root, turns, series) ? BARE : 0;
  return { root, kill, covers, turns: found.turns, evidence: 0, score: found.score + ROOT_PRIOR[found.pattern] + bare };
}

/**
 * The price that ends a count: by the first rule its labels bring into play or, where none does, by its last label: a
 * wave that has ended at a price does not go on beyond it.
 */
function killOf(root: Wave): Kill {
  const said = nestedStatements(root, { ...STRICT, scale: "log" }).find(
    ({ asserted, at, killPrice }) => asserted && at.length === 0 && killPrice > 0,
  );
  if (said) return { price: said.killPrice, side: said.killSide };
  const { pivots } = root;
  const rises = (pivots.length % 2 === 0) === directionOf(pivots) > 0;
  return { price: pivots[pivots.length - 1].price, side: rises ? "above" : "below" };
}

/** Whether the wicks of a bar go strictly beyond the price that ends a count. */
export function reachedBy({ price, side }: Kill, { high, low }: Pick<Series, "high" | "low">, i: number): boolean {
  return side === "above" ? high[i] > price : low[i] < price;
}

/** Whether no bar from a count's last pivot to bar `i` has ended it. */
export function isStanding(
  { root: { pivots }, kill }: Pick<Candidate, "root" | "kill">,
  series: Series,
  i: number,
): boolean {
  const last = pivots[pivots.length - 1].time;
  for (let n = i; n >= 0 && series.time[n] >= last; n--) if (reachedBy(kill, series, n)) return false;
  return true;
}

/** The same count as it goes on: its pattern and pivots, but that the last may have moved and more may have come. */
export function isSameCount(before: Wave, now: Wave): boolean {
  return (
    before.pattern === now.pattern &&
    now.pivots.length >= before.pivots.length &&
    before.pivots
      .slice(0, -1)
      .every(({ time, price }, i) => time === now.pivots[i].time && price === now.pivots[i].price)
  );
}

/** Whether nothing is said of the inside of the largest wave though many prominent turns lie in it. */
function isLargestBare({ pivots, inner }: Wave, turns: Turns, { high, low, time, length }: Series): boolean {
  const ends = pivots.map(({ time: at }) => time.indexOf(at));
  let [largest, wave] = [0, 0];
  for (let n = 0; n < inner.length && n < pivots.length; n++) {
    const start = pivots[n].price;
    const from = ends[n];
    let reach = n + 1 < pivots.length ? Math.abs(Math.log(pivots[n + 1].price / start)) : 0;
    if (n + 1 === pivots.length)
      for (let i = from + 1; i < length; i++)
        reach = Math.max(reach, Math.log(high[i] / start), Math.log(start / low[i]));
    if (reach > largest) [largest, wave] = [reach, n];
  }
  if (inner[wave]) return false;
  const to = ends[wave + 1] ?? length;
  return turns.index.filter((index) => index > ends[wave] && index < to).length >= TURNS_INSIDE;
}
