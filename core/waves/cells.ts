import {
  bareLikelihood,
  FREE,
  noiseLikelihood,
  quietLikelihood,
  ratioLikelihood,
  seenLikelihood,
  timeLikelihood,
  TRUNCATED,
} from "#core/waves/likelihood";
import { PATTERNS } from "#core/waves/patterns";
import { LAST_OF_FIVE, places, PREPARED, SHARES, type Prepared } from "#core/waves/prepared";
import { keeps } from "#core/waves/rules";

/** Turns in order, highs and lows alternating, as columns. */
export interface Turns {
  /** ms UTC. */
  time: Float64Array;
  /** Prices, or their logs when lengths are taken so. */
  value: Float64Array;
  /** Leg size (in the unit of `value`) up to which each stands. */
  size: Float64Array;
}

/** Inside a leg price may go this share of it past either end: expanded flats, running forms. */
const OVERSHOOT = 0.45;
/** A wave has turns inside it of at least this share of its height; smaller ones are of finer degree. */
const PROMINENT = 0.08;
/** Turns looked at inside one leg, the most prominent. */
const CANDIDATES = 14;

export const NONE = -Infinity;

/**
 * The best way to see each leg between two turns, for every pattern, from short legs to long ones: what the waves of a
 * pattern are worth inside has been worked out when it is asked for. Scores are sums of likelihoods (`likelihood.ts`).
 * About 20 bytes a leg and pattern; a leg whose inside goes too far past its ends is none.
 */
export class Cells {
  readonly n: number;
  /** Natural log of each leg's length and time, by start and end. */
  readonly lnLength: Float64Array;
  readonly lnTime: Float64Array;
  /** Lowest and highest value strictly inside a leg. */
  readonly low: Float64Array;
  readonly high: Float64Array;
  /** ln likelihood of a leg as one bare move; NONE where it is no leg. */
  readonly bare: Float64Array;
  /** Score of each pattern on each leg, and the inner turns that gave it. */
  readonly score: Float64Array;
  readonly turns: Int16Array;
  /** Best score of each place on each leg. */
  readonly place: Float64Array;
  /** Prices of the turns of the pattern that is being tried, as if it went up. */
  readonly v = new Float64Array(6);
  readonly t = new Float64Array(6);
  /** Height of all there is, and the size of the smallest turns. */
  readonly whole: number;
  private readonly least: number;
  /** Of each turn, half the natural log of how small the pair is that it would be noise with, and how short. */
  private readonly pair: Float64Array;

  constructor(
    readonly data: Turns,
    readonly pins: ReadonlyMap<number, string> = new Map(),
  ) {
    const n = (this.n = data.value.length);
    this.lnLength = new Float64Array(n * n);
    this.lnTime = new Float64Array(n * n);
    this.low = new Float64Array(n * n);
    this.high = new Float64Array(n * n);
    this.bare = new Float64Array(n * n).fill(NONE);
    this.score = new Float64Array(PREPARED.length * n * n).fill(NONE);
    this.turns = new Int16Array(PREPARED.length * n * n * 4);
    this.place = new Float64Array(places.sets.length * n * n).fill(NONE);
    let [low, high, least] = [Infinity, -Infinity, Infinity];
    for (let i = 0; i < n; i++) {
      [low, high] = [Math.min(low, data.value[i]), Math.max(high, data.value[i])];
      // The last turn still runs: how small its leg is so far says nothing of which turns are counted.
      if (i + 1 < n || n < 3) least = Math.min(least, data.size[i]);
    }
    this.whole = high - low;
    this.least = least;
    const near = (i: number) =>
      Math.min(
        i > 0 ? data.time[i] - data.time[i - 1] : Infinity,
        i + 1 < n ? data.time[i + 1] - data.time[i] : Infinity,
      );
    this.pair = Float64Array.from(
      { length: n },
      (_, i) => -0.5 * (Math.log(Math.min(this.whole, data.size[i])) + Math.log(Math.max(1, near(i)))),
    );
    this.measure();
  }

  /** Fills every cell of legs of `span` turns; asked for in rising order, odd ones only. */
  fill(span: number): void {
    for (let a = 0; a + span < this.n; a++) this.fillLeg(a, a + span);
  }

  private measure(): void {
    const { n, data } = this;
    const { value, time } = data;
    for (let a = 0; a < n; a++) {
      let low = Infinity;
      let high = -Infinity;
      for (let b = a + 1; b < n; b++) {
        const at = a * n + b;
        this.low[at] = low;
        this.high[at] = high;
        this.lnLength[at] = Math.log(Math.max(1e-300, Math.abs(value[b] - value[a])));
        this.lnTime[at] = Math.log(Math.max(1, time[b] - time[a]));
        low = Math.min(low, value[b]);
        high = Math.max(high, value[b]);
      }
    }
  }

  /** Whether a leg goes its way and its inside not too far past its ends. Whether it rises is told by its start. */
  isLeg(a: number, b: number): boolean {
    const { value } = this.data;
    const at = a * this.n + b;
    const rises = value[a] < value[a + 1];
    const height = rises ? value[b] - value[a] : value[a] - value[b];
    if (!(height > 0)) return false;
    if (b - a === 1) return true;
    const [top, bottom] = rises ? [value[b], value[a]] : [value[a], value[b]];
    return this.high[at] - top <= OVERSHOOT * height && bottom - this.low[at] <= OVERSHOOT * height;
  }

  /** Whether nothing inside a leg goes past its ends: one bare move does not. */
  private isWithin(a: number, b: number): boolean {
    const { value } = this.data;
    const at = a * this.n + b;
    return (
      b - a === 1 || (this.high[at] <= Math.max(value[a], value[b]) && this.low[at] >= Math.min(value[a], value[b]))
    );
  }

  /** What all turns say when each leg stands by itself: what a count is held against. */
  get chance(): number {
    let sum = 0;
    for (let i = 1; i < this.n; i++)
      sum += 2 * FREE - this.lnLength[(i - 1) * this.n + i] - this.lnTime[(i - 1) * this.n + i];
    return sum;
  }

  /** What the turns strictly inside a leg say when they are noise of one bare move of this height and time. */
  noise(a: number, b: number, height: number, time: number): number {
    const { size } = this.data;
    const each = -0.5 * (Math.log(height) + Math.log(Math.max(1, time)));
    let sum = quietLikelihood(this.least / height);
    for (let i = a + 1; i < b; i++) sum += noiseLikelihood(Math.min(1, size[i] / height)) + this.pair[i] + each;
    return sum;
  }

  /** The most prominent turns strictly between two, in order. `height` is what they are measured by. */
  candidates(a: number, b: number, height: number, most = CANDIDATES): number[] {
    const { size } = this.data;
    let found: number[] = [];
    for (let i = a + 1; i < b; i++) if (size[i] >= PROMINENT * height) found.push(i);
    if (found.length > most) {
      const least = found.map((i) => size[i]).sort((x, y) => y - x)[most - 1];
      found = found.filter((i) => size[i] >= least).slice(0, most + 4);
    }
    return found;
  }

  private fillLeg(a: number, b: number): void {
    if (!this.isLeg(a, b)) return;
    const { n, data } = this;
    const at = a * n + b;
    const height = Math.abs(data.value[b] - data.value[a]);
    if (this.isWithin(a, b))
      this.bare[at] = bareLikelihood(height / this.whole) + this.noise(a, b, height, data.time[b] - data.time[a]);
    const seen = seenLikelihood(height / this.whole);
    if (b - a > 2) {
      const inner = this.candidates(a, b, height);
      for (const one of PREPARED) this.fillPattern(one, a, b, inner);
    }
    for (let set = 0; set < SHARES.length; set++) {
      let best = this.bare[at];
      const shares = SHARES[set];
      for (let f = 0; f < shares.length; f++) {
        const score = seen + shares[f] + this.score[(f * n + a) * n + b];
        if (score > best) best = score;
      }
      this.place[(set * n + a) * n + b] = best;
    }
  }

  private fillPattern(one: Prepared, a: number, b: number, inner: readonly number[]): void {
    const { n } = this;
    const cell = (one.index * n + a) * n + b;
    // Its ends are given: its likelihood is over the turns between them.
    const given = this.lnLength[a * n + b] + this.lnTime[a * n + b];
    const found = new Int16Array(4);
    walkTurns(this, one, a, inner, one.waves - 1, (turns, score) => {
      const total = given + score + this.lastWave(one, a, turns, b);
      if (total > this.score[cell]) {
        this.score[cell] = total;
        found.set(turns.subarray(0, one.waves - 1));
      }
    });
    this.turns.set(found, cell * 4);
  }

  /**
   * Score of the last wave of a pattern that ends at `b`, after `waves - 1` inner turns; NONE where a rule is broken.
   */
  lastWave(one: Prepared, a: number, turns: Int16Array, b: number): number {
    const { waves } = one;
    const from = turns[waves - 2];
    if (b <= from || (b - from) % 2 === 0) return NONE;
    const own = this.wave(one, a, turns, waves, b);
    if (own === NONE) return NONE;
    const { value } = this.data;
    const sign = value[a] < value[a + 1] ? 1 : -1;
    // The whole goes the way of its first wave.
    if (sign * (value[b] - value[a]) <= 0) return NONE;
    return own + this.togetherness(one, a, turns, waves, b);
  }

  /**
   * What wave `w` (from 1) of a pattern adds when it ends at `end`: its length and time against the waves before, and
   * its inside. `turns` holds the ends of the waves before it.
   */
  wave(one: Prepared, a: number, turns: Int16Array, w: number, end: number): number {
    const { n, v, t, data } = this;
    const from = w === 1 ? a : turns[w - 2];
    const inside = this.place[(one.places[w - 1] * n + from) * n + end];
    if (inside === NONE) return NONE;
    const sign = data.value[a] < data.value[a + 1] ? 1 : -1;
    v[w] = sign * data.value[end];
    t[w] = data.time[end];
    for (const rule of one.rulesAt[w]) if (!keeps(rule, v, t)) return NONE;
    const at = from * n + end;
    let score = inside + this.pinned(one, w, end) - this.lnLength[at] - this.lnTime[at];
    if (w > 1) {
      const to = one.compared[w];
      const [c, d] = [to === 1 ? a : turns[to - 2], turns[to - 1]];
      const before = w === 2 ? a : turns[w - 3];
      score +=
        ratioLikelihood(one.pattern, w, this.lnLength[at] - this.lnLength[c * n + d], true) +
        timeLikelihood(this.lnTime[at] - this.lnTime[before * n + from], true);
    }
    if (w === one.waves) score += this.truncation(one, from, end, inside);
    return score;
  }

  /** A last wave that falls short: of an impulse it must have its five parts. `inside` is what it had been given. */
  private truncation(one: Prepared, from: number, end: number, inside: number): number {
    const { v, n } = this;
    if (one.pattern === "impulse" && v[5] <= v[3]) {
      let five = NONE;
      const shares = SHARES[LAST_OF_FIVE];
      for (let f = 0; f < shares.length; f++) five = Math.max(five, shares[f] + this.score[(f * n + from) * n + end]);
      five += seenLikelihood(Math.exp(this.lnLength[from * n + end]) / this.whole);
      return five === NONE ? NONE : five - inside + TRUNCATED;
    }
    return (one.pattern === "zigzag" || one.pattern === "flat") && v[3] <= v[1] ? TRUNCATED : 0;
  }

  /**
   * What a combination loses for not being made of zigzags alone: the cheapest of its waves is another than its best.
   */
  private togetherness(one: Prepared, a: number, turns: Int16Array, waves: number, end: number): number {
    if (!one.together) return 0;
    let least = Infinity;
    for (let w = 1; w <= waves; w += 2) {
      const from = w === 1 ? a : turns[w - 2];
      const to = w === waves ? end : turns[w - 1];
      const cell = from * this.n + to;
      least = Math.min(
        least,
        this.place[one.places[w - 1] * this.n * this.n + cell] -
          this.place[one.otherThanZigzag[w - 1] * this.n * this.n + cell],
      );
    }
    return -Math.max(0, least);
  }

  private pinned(one: Prepared, w: number, end: number): number {
    const label = this.pins.size > 0 ? this.pins.get(end) : undefined;
    if (label === undefined) return 0;
    return PATTERNS[one.pattern].labels[w - 1] === label ? PIN : 0;
  }
}

/** What a turn used as it was pinned adds to the score; counts are filtered by their pins in the end. */
export const PIN = 40;

/**
 * Every choice of `count` inner turns of a pattern that keeps its rules so far, with the score of the waves they end.
 * `turns` is reused from one call to the next.
 */
export function walkTurns(
  cells: Cells,
  one: Prepared,
  a: number,
  inner: readonly number[],
  count: number,
  visit: (turns: Int16Array, score: number) => void,
): void {
  const turns = new Int16Array(5);
  cells.t[0] = cells.data.time[a];
  cells.v[0] = (cells.data.value[a] < cells.data.value[a + 1] ? 1 : -1) * cells.data.value[a];
  step(cells, one, a, inner, count, 1, 0, turns, 0, visit);
}

function step(
  cells: Cells,
  one: Prepared,
  a: number,
  inner: readonly number[],
  count: number,
  w: number,
  first: number,
  turns: Int16Array,
  score: number,
  visit: (turns: Int16Array, score: number) => void,
): void {
  if (w > count) {
    visit(turns, score);
    return;
  }
  const from = w === 1 ? a : turns[w - 2];
  for (let i = first; i < inner.length; i++) {
    const end = inner[i];
    if ((end - from) % 2 === 0) continue;
    const own = cells.wave(one, a, turns, w, end);
    if (own === NONE) continue;
    turns[w - 1] = end;
    step(cells, one, a, inner, count, w + 1, i + 1, turns, score + own, visit);
  }
}
