import { Cells, NONE, walkTurns, type Turns } from "#core/waves/cells";
import {
  bareLikelihood,
  FREE,
  placeLikelihood,
  ratioLikelihood,
  seenLikelihood,
  timeLikelihood,
} from "#core/waves/likelihood";
import { PATTERNS, PATTERN_NAMES, type Pattern } from "#core/waves/patterns";
import { ANY, LAST_OF_FIVE, places, PREPARED, type Prepared } from "#core/waves/prepared";
import { Best, isNear, type FoundRoot } from "#core/waves/roots";
import { keeps } from "#core/waves/rules";
import { together } from "#core/waves/together";

/** A found wave with its inside, as indices of turns. */
export interface FoundWave {
  pattern: Pattern;
  turns: number[];
  inner: (FoundWave | undefined)[];
}

export interface CountOptions {
  /** Roots wanted. */
  best: number;
  /** Turns a root may start at; those the machine finds worth it when not given. */
  starts?: readonly number[];
  /** What the root may be; anything when not given. */
  patterns?: readonly Pattern[];
  /** Only roots that end at the last turn (true), only ones in progress (false). */
  ended?: boolean | undefined;
  /** Whether roots may differ by next to nothing: a turn moved to a neighbouring one. */
  alike?: boolean;
  /** Turns that end a wave of the root with this label. */
  pinned?: ReadonlyMap<number, string>;
}

/** Finished waves a root has at least: before that it says no more than that a wave has ended. */
const LEAST_FINISHED = 2;
/** Starts tried, the most prominent. */
const STARTS = 6;
/** Turns from which on what may be in progress is worked out in one piece of the work. */
const OPEN_AT_ONCE = 8;
/** Turns a root may be made of, of those after its start. */
const ROOT_CANDIDATES = 23;
/**
 * What a root costs that does not begin at the first turn, each turn before it, and each leg before it that stands by
 * itself.
 */
const LATE = -8;
const UNCOUNTED = -0.25;
const LINK = -4;
/** What turns after the end of a root cost, as a share of all. */
const TAIL = -10;

const SETS = places.sets;

/**
 * Counts of the waves of a row of turns. The cells of finished legs are filled first, then, from the last turn back,
 * what may be in progress from each turn on; then the roots are put together. Call `fill` until it says it is done
 * (each call takes some milliseconds: look for a cancellation between two), then `roots`.
 */
export class CountingMachine {
  readonly cells: Cells;
  private span = 1;
  /** What may be in progress has been filled down to this turn. */
  private from: number;
  /** Best score of each place in progress from each turn on, and the pattern that gave it (-1: a bare leg). */
  private readonly open: Float64Array;
  private readonly openPattern: Int8Array;
  /** Best score of each pattern in progress from each turn on, its finished waves and their ends. */
  private readonly prefix: Float64Array;
  private readonly prefixTurns: Int16Array;
  private readonly prefixCount: Int8Array;

  constructor(
    readonly data: Turns,
    pins: ReadonlyMap<number, string> = new Map(),
  ) {
    this.cells = new Cells(data, pins);
    const { n } = this.cells;
    this.from = n - 2;
    this.open = new Float64Array(SETS.length * n).fill(NONE);
    this.openPattern = new Int8Array(SETS.length * n).fill(-1);
    this.prefix = new Float64Array(PREPARED.length * n).fill(NONE);
    this.prefixTurns = new Int16Array(PREPARED.length * n * 4);
    this.prefixCount = new Int8Array(PREPARED.length * n);
  }

  /** One more piece of the work: the share that is done, 0 to 1. */
  fill(): number {
    const { n } = this.cells;
    if (this.span < n) {
      this.cells.fill(this.span);
      this.span += 2;
      return Math.min(0.99, this.span / (n + 1));
    }
    for (let step = 0; step < OPEN_AT_ONCE && this.from >= 0; step++) this.fillOpen(this.from--);
    return this.from >= 0 ? 0.99 : 1;
  }

  /** The best roots, best first, no two of which differ by next to nothing unless that is asked for. */
  roots({
    best,
    starts = this.starts(),
    patterns = PATTERN_NAMES,
    ended,
    alike = false,
    pinned = new Map(),
  }: CountOptions): FoundRoot[] {
    const last = this.cells.n - 1;
    const endsSo = ({ complete, turns }: FoundRoot) =>
      ended === undefined || (ended ? complete && turns[turns.length - 1] === last : !complete);
    const hasPins = ({ pattern, turns }: FoundRoot) =>
      [...pinned].every(
        ([turn, label]) => turns.indexOf(turn) > 0 && PATTERNS[pattern].labels[turns.indexOf(turn) - 1] === label,
      );
    const kept = new Best(Math.max(60, best * 6), (root) => endsSo(root) && hasPins(root));
    for (const a of starts)
      this.rootsFrom(
        a,
        PREPARED.filter(({ pattern }) => patterns.includes(pattern)),
        kept,
      );
    const out: FoundRoot[] = [];
    for (const root of kept.sorted()) {
      if (out.length >= best) break;
      if (alike || !out.some((other) => isNear(root, other))) out.push(root);
    }
    return out;
  }

  /** The inside of a root, `degrees` deep. */
  tree({ pattern, turns, complete }: FoundRoot, degrees: number): FoundWave {
    const truncated = complete && pattern === "impulse" && this.isShort(turns);
    const inner = turns
      .slice(1)
      .map((end, i) =>
        truncated && i === 4 && degrees > 1
          ? this.complete(LAST_OF_FIVE, turns[4], end, degrees - 1, true)
          : this.inside(pattern, turns, i, end, degrees - 1),
      );
    const running = complete
      ? undefined
      : this.running(PREPARED_BY[pattern].places[turns.length - 1], turns[turns.length - 1], degrees - 1);
    return { pattern, turns, inner: together(pattern, complete ? inner : [...inner, running]) };
  }

  private inside(
    pattern: Pattern,
    turns: readonly number[],
    wave: number,
    end: number,
    degrees: number,
  ): FoundWave | undefined {
    if (degrees < 1) return undefined;
    const one = PREPARED_BY[pattern];
    const set = this.setOf(one, turns, wave);
    return this.complete(set, turns[wave], end, degrees);
  }

  /** The set a wave is chosen from: in a combination that would be of zigzags alone one of its waves is another. */
  private setOf(one: Prepared, turns: readonly number[], wave: number): number {
    const plain = one.places[wave];
    if (!one.together || wave % 2 === 1 || turns.length <= one.waves) return plain;
    const { n, place } = this.cells;
    let least = Infinity;
    let cheapest = 0;
    for (let w = 0; w < one.waves; w += 2) {
      const cell = turns[w] * n + turns[w + 1];
      const lost = place[one.places[w] * n * n + cell] - place[one.otherThanZigzag[w] * n * n + cell];
      if (lost < least) [least, cheapest] = [lost, w];
    }
    return wave === cheapest ? one.otherThanZigzag[wave] : plain;
  }

  /** The best pattern of a set on a finished leg; none where a bare leg is as good. */
  private complete(set: number, a: number, b: number, degrees: number, needed = false): FoundWave | undefined {
    const { n, score, bare, turns } = this.cells;
    let best = needed ? NONE : bare[a * n + b];
    const seen = seenLikelihood(Math.exp(this.cells.lnLength[a * n + b]) / this.cells.whole);
    let found = -1;
    for (const child of SETS[set]) {
      const f = PREPARED_BY[child].index;
      const own = seen + placeLikelihood(child, SETS[set]) + score[(f * n + a) * n + b];
      if (own > best) [best, found] = [own, f];
    }
    if (found < 0) return undefined;
    const one = PREPARED[found];
    const cell = ((found * n + a) * n + b) * 4;
    const ends = [a, ...turns.subarray(cell, cell + one.waves - 1), b];
    const truncated = one.pattern === "impulse" && this.isShort(ends);
    const inner = ends
      .slice(1)
      .map((end, i) =>
        degrees < 2
          ? undefined
          : truncated && i === 4
            ? this.complete(LAST_OF_FIVE, ends[4], end, degrees - 1, true)
            : this.inside(one.pattern, ends, i, end, degrees - 1),
      );
    return { pattern: one.pattern, turns: ends, inner: together(one.pattern, inner) };
  }

  private isShort(ends: readonly number[]): boolean {
    const { value } = this.data;
    const sign = value[ends[1]] > value[ends[0]] ? 1 : -1;
    return sign * (value[ends[5]] - value[ends[3]]) <= 0;
  }

  /** The inside of the wave in progress from a turn on. */
  private running(set: number, a: number, degrees: number): FoundWave | undefined {
    if (degrees < 1 || a >= this.cells.n - 1) return undefined;
    const { n } = this.cells;
    const f = this.openPattern[set * n + a];
    if (f < 0) return undefined;
    const one = PREPARED[f];
    const count = this.prefixCount[f * n + a];
    const cell = (f * n + a) * 4;
    const ends = [a, ...this.prefixTurns.subarray(cell, cell + count)];
    const inner = ends.slice(1).map((end, i) => this.inside(one.pattern, ends, i, end, degrees - 1));
    return {
      pattern: one.pattern,
      turns: ends,
      inner: together(one.pattern, [...inner, this.running(one.places[count], ends[count], degrees - 1)]),
    };
  }

  /** What may be in progress from turn `a` on to the last. */
  private fillOpen(a: number): void {
    const { n } = this.cells;
    const reach = this.reachFrom(a);
    if (!reach) return;
    const { height, noise, passed } = reach;
    const seen = seenLikelihood(height / this.cells.whole);
    if (n - 1 - a >= 2) {
      const inner = this.cells.candidates(a, n, height);
      for (const one of PREPARED)
        for (let count = 1; count < one.waves; count++)
          walkTurns(this.cells, one, a, inner, count, (turns, score) => {
            const total = FREE + score + this.lastOpen(one, a, turns, count);
            const cell = one.index * n + a;
            if (total <= this.prefix[cell]) return;
            this.prefix[cell] = total;
            this.prefixCount[cell] = count;
            this.prefixTurns.set(turns.subarray(0, 4), cell * 4);
          });
    }
    for (let set = 0; set < SETS.length; set++) {
      // One bare move does not pass its own start, nor does a motive wave.
      let best = passed > 0 ? NONE : bareLikelihood(height / this.cells.whole) + noise;
      let found = -1;
      for (const pattern of SETS[set]) {
        const f = PREPARED_BY[pattern].index;
        if (PATTERNS[pattern].motive && passed > 0) continue;
        const own = seen + placeLikelihood(pattern, SETS[set]) + this.prefix[f * n + a];
        if (own > best) [best, found] = [own, f];
      }
      this.open[set * n + a] = best;
      this.openPattern[set * n + a] = found;
    }
  }

  /** How far price has gone since a turn, what its inside costs as noise, and how far it went past the turn itself. */
  private reachFrom(a: number): { height: number; noise: number; passed: number } | undefined {
    const { n, data } = this.cells;
    const { value } = data;
    const sign = value[a + 1] > value[a] ? 1 : -1;
    let height = 0;
    let passed = 0;
    for (let i = a + 1; i < n; i++) {
      height = Math.max(height, sign * (value[i] - value[a]));
      passed = Math.max(passed, -sign * (value[i] - value[a]));
    }
    if (!(height > 0) || passed > 0.382 * height) return undefined;
    const noise = this.cells.noise(a, n - 1, height, data.time[n - 1] - data.time[a]);
    return { height, noise, passed };
  }

  /** Score of the wave in progress after `count` finished ones; NONE where its extreme already breaks a rule. */
  private lastOpen(one: Prepared, a: number, turns: Int16Array, count: number): number {
    const { cells } = this;
    const { n, v, t, data } = cells;
    const { value } = data;
    const from = turns[count - 1];
    if (from >= n - 1) return NONE;
    const w = count + 1;
    const inside = this.open[one.places[count] * n + from];
    if (inside === NONE) return NONE;
    const rises = value[from + 1] > value[from];
    // The extreme since the wave began, the last turn included.
    let extreme = value[n - 1];
    for (let i = from + 1; i < n; i++) extreme = rises ? Math.max(extreme, value[i]) : Math.min(extreme, value[i]);
    const sign = value[a] < value[a + 1] ? 1 : -1;
    v[w] = sign * extreme;
    t[w] = data.time[n - 1];
    for (const rule of one.breakersAt[w]) if (!keeps(rule, v, t)) return NONE;
    const to = one.compared[w];
    const [c, d] = [to === 1 ? a : turns[to - 2], turns[to - 1]];
    const length = Math.log(Math.max(1e-300, Math.abs(extreme - value[from])));
    const before = count === 1 ? a : turns[count - 2];
    const time = Math.log(Math.max(1, data.time[n - 1] - data.time[from]));
    return (
      inside +
      ratioLikelihood(one.pattern, w, length - cells.lnLength[c * n + d], false) +
      timeLikelihood(time - cells.lnTime[before * n + from], false)
    );
  }

  private rootsFrom(a: number, among: readonly Prepared[], kept: Best): void {
    const { n, data } = this.cells;
    if (a >= n - 3) return;
    const { value } = data;
    let [low, high] = [value[a], value[a]];
    for (let i = a; i < n; i++) [low, high] = [Math.min(low, value[i]), Math.max(high, value[i])];
    const inner = this.cells.candidates(a, n, high - low, ROOT_CANDIDATES);
    const before = FREE + this.before(a);
    for (const one of among) {
      const share = placeLikelihood(one.pattern, PATTERN_NAMES) + before;
      for (let count = LEAST_FINISHED; count < one.waves; count++)
        walkTurns(this.cells, one, a, inner, count, (turns, score) => {
          const running = this.lastOpen(one, a, turns, count);
          if (running !== NONE)
            kept.offer(
              one.pattern,
              a,
              turns,
              count,
              false,
              share + score + running + OPEN_SHARE - Math.log(one.waves - LEAST_FINISHED),
            );
          if (count === one.waves - 1)
            for (const end of [...inner, n - 1])
              if (end > turns[count - 1]) this.offerComplete(one, a, turns, end, share + score, kept);
        });
    }
  }

  private offerComplete(one: Prepared, a: number, turns: Int16Array, end: number, score: number, kept: Best): void {
    const last = this.cells.lastWave(one, a, turns, end);
    if (last === NONE) return;
    const after = this.after(a, end);
    if (after === NONE) return;
    const all = turns.slice();
    all[one.waves - 1] = end;
    kept.offer(one.pattern, a, all, one.waves, true, score + last + after + COMPLETE_SHARE);
  }

  /** What came after a complete root: nothing yet, or a move against it that has not taken it back. */
  private after(a: number, end: number): number {
    const { n, data } = this.cells;
    if (end === n - 1) return UNCONFIRMED;
    const { value } = data;
    const sign = value[a + 1] > value[a] ? 1 : -1;
    for (let i = end + 1; i < n; i++)
      if (sign * (value[i] - value[end]) > 0 || sign * (value[i] - value[a]) < 0) return NONE;
    return this.open[ANY * n + end] + (TAIL * (n - 1 - end)) / n;
  }

  /** The turns before a root, as a chain of legs each by itself. */
  private before(a: number): number {
    const { n, place, lnLength, lnTime } = this.cells;
    const chain = new Float64Array(a + 1).fill(NONE);
    chain[0] = 0;
    for (let b = 1; b <= a; b++)
      for (let c = b - 1; c >= 0; c -= 2) {
        const at = c * n + b;
        chain[b] = Math.max(chain[b], chain[c] + place[ANY * n * n + at] + 2 * FREE - lnLength[at] - lnTime[at] + LINK);
      }
    return a === 0 ? 0 : LATE + UNCOUNTED * a + chain[a];
  }

  /** Turns a root may start at: the first, and the most prominent. */
  private starts(): number[] {
    const { n, data } = this.cells;
    const sorted = Array.from({ length: Math.max(0, n - 3) }, (_, i) => i).sort(
      (x, y) => data.size[y] - data.size[x] || x - y,
    );
    return [...new Set([0, ...sorted.slice(0, STARTS)])].filter((i) => i < n - 3).sort((x, y) => x - y);
  }
}

const PREPARED_BY = Object.fromEntries(PREPARED.map((one) => [one.pattern, one])) as unknown as Record<
  Pattern,
  Prepared
>;
const COMPLETE_SHARE = Math.log(0.5);
const OPEN_SHARE = Math.log(0.5);
/** A root that ends at the very last turn has nothing yet that says it has ended. */
const UNCONFIRMED = -3;
