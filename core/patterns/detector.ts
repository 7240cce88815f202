import { advancePattern, FORMING, isOver, type PatternLife } from "#core/patterns/life";
import { PATTERN_NAMES, PATTERNS, type PatternName } from "#core/patterns/registry";
import {
  priceOn,
  type PatternForm,
  type PatternGround,
  type PatternPoint,
  type PatternRule,
  type PatternShape,
} from "#core/patterns/shape";
import type { Detector, Track } from "#core/series/track";
import { ReversalDetector } from "#core/structure/reversal";
import type { Swing } from "#core/structure/swings";

/** A pattern that was found, with its life so far. */
export interface PatternFound {
  name: PatternName;
  /** 1 as it points up, -1 upside down; a pattern that may go either way is 1. */
  sign: 1 | -1;
  turns: readonly Swing[];
  rules: readonly PatternRule[];
  form: PatternForm;
  uneven?: number;
  /** Index of the bar at whose close it is known. */
  knownAt: number;
  life: PatternLife;
}

/** Turns are moves of so many ATR: small ones make rests, large ones whole tops. */
const SCALES = [0.75, 1.5, 3, 6];
/** No pattern is lower than so many ATR. */
const SMALLEST = 3;
/** Patterns of as many turns that begin alike, seen one way. */
interface Plan {
  of: number;
  sign: 1 | -1;
  first: PatternShape["first"];
  shapes: { name: PatternName; shape: PatternShape }[];
}

function planOf(names: readonly PatternName[]): Plan[] {
  const plans = new Map<string, Plan>();
  for (const name of names) {
    const shape: PatternShape = PATTERNS[name];
    const { points, first } = shape;
    for (const sign of shape.isEither ? ([1] as const) : ([1, -1] as const)) {
      const key = `${points.length} ${first} ${sign}`;
      const plan = plans.get(key) ?? { of: points.length, sign, first, shapes: [] };
      plan.shapes.push({ name, shape });
      plans.set(key, plan);
    }
  }
  return [...plans.values()];
}

/** The last turns of a size, as patterns of one way see them. */
interface Cut {
  turns: readonly Swing[];
  points: readonly PatternPoint[];
  ground: PatternGround;
  isLarge: boolean;
}

/** Turns a pattern is made of at most. */
const MOST_TURNS = 6;

/**
 * Patterns by turns of several sizes, each known once its last turn is confirmed and followed from that bar on. Of one
 * name and way only one at a time stands over the same bars. O(1) a bar, but for those at which a turn is confirmed.
 */
export class PatternDetector implements Detector {
  readonly found: PatternFound[] = [];
  live: PatternFound[] = [];
  /** Those whose life the last bar changed. */
  changed: PatternFound[] = [];
  private readonly plan: readonly Plan[];
  private readonly scales: { turns: Swing[]; detector: ReversalDetector }[];

  constructor(
    private readonly track: Track,
    names: readonly PatternName[] = PATTERN_NAMES,
  ) {
    this.plan = planOf(names);
    this.scales = SCALES.map((multiple) => ({ turns: [], detector: new ReversalDetector(track, multiple) }));
  }

  next(i: number): void {
    this.changed = [];
    for (const { turns, detector } of this.scales) {
      detector.next(i);
      for (const turn of detector.confirmed) {
        turns.push(turn);
        if (turns.length > MOST_TURNS) turns.shift();
        this.look(turns, i);
      }
    }
    if (this.live.length === 0) return;
    const { high, low, close, tick } = this.track;
    const bar = { high: high[i], low: low[i], close: close[i] };
    let ended = false;
    for (const one of this.live) {
      const life = advancePattern(one.form, one.sign, one.life, bar, i, tick);
      if (life === one.life) continue;
      one.life = life;
      this.changed.push(one);
      ended ||= isOver(life);
    }
    if (ended) this.live = this.live.filter(({ life }) => !isOver(life));
  }

  private look(turns: readonly Swing[], i: number): void {
    for (const { of, sign, first, shapes } of this.plan) {
      if (turns.length < of) continue;
      const begins = turns[turns.length - of].side;
      if (first !== "any" && (begins === "high") !== ((first === "high") === sign > 0)) continue;
      const cut = this.cut(turns.slice(-of), sign);
      if (cut.isLarge) for (const { name, shape } of shapes) this.judge(name, shape, cut, i);
    }
  }

  /** Turns as patterns of one way see them. */
  private cut(turns: readonly Swing[], sign: 1 | -1): Cut {
    const { track } = this;
    const atr = track.atr[turns[turns.length - 1].index];
    const points = turns.map(({ index, price }): PatternPoint => ({ index, price: sign * price }));
    let [isInOrder, low, high] = [true, Infinity, -Infinity];
    for (let n = 0; n < points.length; n++) {
      const { index, price } = points[n];
      [low, high] = [price < low ? price : low, price > high ? price : high];
      if (n > 0 && index <= points[n - 1].index) isInOrder = false;
    }
    const ground = { atr, bars: track, sign, measured: new Map<string, unknown>() };
    return { turns, points, isLarge: isInOrder && high - low >= SMALLEST * atr, ground };
  }

  private judge(name: PatternName, shape: PatternShape, { turns, points, ground }: Cut, i: number): void {
    const { sign } = ground;
    if (this.live.some((one) => one.name === name && one.sign === sign && overlap(one.turns, turns))) return;
    if (shape.gate?.(points, ground) === false) return;
    const { rules, form: formOf, uneven } = shape.judge(points, ground);
    if (!rules.every(({ holds }) => holds)) return;
    const form = formOf();
    if (this.isLeft(form, sign, points[points.length - 1].index, i)) return;
    const found: PatternFound = {
      ...{ name, sign, turns, rules, form, knownAt: i, life: FORMING },
      ...(uneven === undefined ? {} : { uneven }),
    };
    this.found.push(found);
    this.live.push(found);
  }

  /** Whether a close between its last turn and the bar it is known at had left it already. */
  private isLeft({ confirm, against }: PatternForm, sign: 1 | -1, last: number, i: number): boolean {
    for (let j = last; j < i; j++) {
      const close = sign * this.track.close[j];
      if (close > priceOn(confirm, j) || close < priceOn(against, j)) return true;
    }
    return false;
  }
}

/** Whether two patterns stand over the same bars for half of the shorter one. */
function overlap(a: readonly Swing[], b: readonly Swing[]): boolean {
  const spanOf = (turns: readonly Swing[]) => [turns[0].index, turns[turns.length - 1].index] as const;
  const [[fromA, toA], [fromB, toB]] = [spanOf(a), spanOf(b)];
  const shared = Math.min(toA, toB) - Math.max(fromA, fromB);
  return shared > 0.5 * Math.min(toA - fromA, toB - fromB);
}
