import type { Series } from "#core/series/series";
import { PIN } from "#core/waves/cells";
import { partsOf, type ScoreParts } from "#core/waves/explain";
import { CountingMachine, type FoundWave } from "#core/waves/machine";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import { checkTree, STRICT } from "#core/waves/rules";
import { turnAt, turnsOf, type Ends } from "#core/waves/turns";
import { allWaves, SCALES, type LengthScale, type Wave } from "#core/waves/wave";

/**
 * A turn the analyst has said the name of: it ends a wave of that label, so many degrees below the root if that is
 * said.
 */
export interface Pin {
  /** ms UTC of the turn's bar. */
  time: number;
  label: string;
  below?: number;
}

export interface CountingOptions {
  /** Turns counted at most, 10 to 400. */
  swings: number;
  /** Degrees a count is told down to, the root's included, 1 to 5. */
  degrees: number;
  /** Counts wanted, with distinct roots. */
  best: number;
  /** Bars on each side of a turn; 0 takes every bar that turns. */
  k: number;
  scale: LengthScale;
  pins: readonly Pin[];
  /** The root begins at the first turn. */
  fromFirst: boolean;
  /** Prices the root begins and ends at, where they are known. */
  ends?: Ends;
  /** What the root may be; anything when not given. */
  patterns?: readonly Pattern[];
  /** Only counts whose root ends with the series (true), only ones in progress (false). */
  ended?: boolean | undefined;
}

export const COUNTING: CountingOptions = {
  swings: 60,
  degrees: 2,
  best: 10,
  k: 0,
  scale: "arithmetic",
  pins: [],
  fromFirst: false,
};

export interface CountProposal {
  root: Wave;
  /**
   * ln odds of the turns as the count explains them against turns that stand each by itself; what two counts differ by
   * is their odds.
   */
  score: number;
  parts: ScoreParts;
}

/** How far the machine has come: a share of the work, and the best counts so far, from coarse turns to all of them. */
export interface CountingNews {
  done: number;
  proposals?: CountProposal[];
}

/** Turns of the first, coarse look. */
const COARSE = 24;
/** Shares of the work the coarse look and the rest make. */
const COARSE_SHARE = 0.05;

/**
 * The best counts of a series, as news: coarse ones at once, then all. Between two news a caller may stop it or let
 * others work. Every tree has passed the rule checker; the same series gives the same counts.
 */
export function* countWaves(series: Series, options: CountingOptions = COUNTING): Generator<CountingNews> {
  if (options.swings > COARSE && options.pins.length === 0 && !options.ends)
    yield* countTurns(series, { ...options, swings: COARSE }, 0, COARSE_SHARE);
  yield* countTurns(series, options, COARSE_SHARE, 1);
}

/** All of it at once. */
export function bestCounts(series: Series, options: CountingOptions = COUNTING): CountProposal[] {
  let best: CountProposal[] = [];
  for (const { proposals } of countTurns(series, options, 0, 1)) best = proposals ?? best;
  return best;
}

function* countTurns(
  series: Series,
  { swings, degrees, best, k, scale, pins, fromFirst, patterns, ended, ends }: CountingOptions,
  from: number,
  to: number,
): Generator<CountingNews> {
  const turns = turnsOf(
    series,
    swings,
    k,
    pins.map(({ time }) => time),
    ends,
  );
  if (turns.price.length < 4) return yield { done: to, proposals: [] };
  const value = scale === "log" ? turns.price.map(SCALES.log.on) : turns.price;
  // On the log scale a turn's size is its share of price.
  const size = scale === "log" ? turns.size.map((one, i) => one / turns.price[i]) : turns.size;
  // What is pinned at the root chooses among roots; what may stand anywhere draws the search to it.
  const labelsOf = (some: readonly Pin[]) =>
    new Map(some.map(({ time, label }) => [turnAt(turns.time, turns.size, time), label]));
  const labelAt = labelsOf(pins.filter(({ below }) => below !== 0));
  const machine = new CountingMachine({ time: turns.time, value, size }, labelAt);
  for (let done = machine.fill(); done < 1; done = machine.fill()) yield { done: from + (to - from) * done * 0.95 };
  const waveOf = ({ pattern, turns: at, inner }: FoundWave): Wave => ({
    pattern,
    pivots: at.map((turn) => ({ time: turns.time[turn], price: turns.price[turn] })),
    inner: PATTERNS[pattern].labels.map((_, i) => (inner[i] ? waveOf(inner[i]) : undefined)),
  });
  const proposals: CountProposal[] = [];
  // Pins and the rule checker may leave some out: more are asked for than are wanted.
  for (const root of machine.roots({
    best: best * (pins.length > 0 ? 20 : 2),
    ...(fromFirst ? { starts: [0] } : {}),
    ...(patterns ? { patterns } : {}),
    ended,
    pinned: labelsOf(pins.filter(({ below }) => below === 0)),
  })) {
    if (proposals.length >= best) break;
    const tree = waveOf(machine.tree(root, degrees));
    if (!keepsPins(tree, pins) || !isSound(tree, scale)) continue;
    const whole = machine.tree(root, EVERY_DEGREE);
    const score = root.score - machine.cells.chance - PIN * pinsUsed(whole, labelAt);
    proposals.push({ root: tree, score, parts: partsOf({ ...root, score }, whole, machine.data) });
  }
  yield { done: to, proposals };
}

const EVERY_DEGREE = 20;

/** What the search adds for each use of a pin, so that it looks there, is no likelihood. */
function pinsUsed({ pattern, turns, inner }: FoundWave, labelAt: ReadonlyMap<number, string>): number {
  if (labelAt.size === 0) return 0;
  const own = turns.filter((turn, i) => i > 0 && labelAt.get(turn) === PATTERNS[pattern].labels[i - 1]).length;
  return inner.reduce((sum, child) => sum + (child ? pinsUsed(child, labelAt) : 0), own);
}

function isSound(tree: Wave, scale: LengthScale): boolean {
  return checkTree(tree, { ...STRICT, scale }).every(({ rules }) => rules.every(({ holds }) => holds));
}

function keepsPins(tree: Wave, pins: readonly Pin[]): boolean {
  if (pins.length === 0) return true;
  const waves = allWaves(tree);
  return pins.every(({ time, label, below }) =>
    waves.some(
      ({ wave, at }) =>
        (below === undefined || at.length === below) &&
        wave.pivots.some((pivot, i) => i > 0 && pivot.time === time && PATTERNS[wave.pattern].labels[i - 1] === label),
    ),
  );
}
