/** A value after the other, each with what has become of all before it; NaN where that is not defined yet. */
export type Step = (value: number) => number;

/** A column worked out step by step. */
export function stepped(values: Float64Array, step: Step): Float64Array {
  const out = new Float64Array(values.length);
  for (let i = 0; i < out.length; i++) out[i] = step(values[i]);
  return out;
}

/** The last values, as many as the window holds; `before(0)` is the newest. */
export class Window {
  private readonly kept: number[] = [];
  private at = -1;

  constructor(readonly size: number) {}

  /** Takes a value in; the one that leaves for it, if the window was full. */
  push(value: number): number | undefined {
    this.at = (this.at + 1) % this.size;
    const leaving = this.kept[this.at] as number | undefined;
    this.kept[this.at] = value;
    return leaving;
  }

  get isFull(): boolean {
    return this.kept.length === this.size;
  }

  before(steps: number): number {
    const at = this.at - steps;
    return this.kept[at < 0 ? at + this.size : at];
  }

  /** From the oldest to the newest. */
  *[Symbol.iterator](): Generator<number> {
    for (let steps = this.kept.length - 1; steps >= 0; steps--) yield this.before(steps);
  }
}

/**
 * The mean of the last `period` values. A running sum kept exact against drift by Neumaier's compensation, so that a
 * long quiet tail after a spike comes out as if each window were summed afresh (to the last bits).
 */
export function runningMean(period: number): Step {
  const ring: number[] = [];
  // Sum, and what adding to it has lost: doubles in an array cost nothing to write.
  const sums = new Float64Array(2);
  let at = 0;
  return (value) => {
    let sum = sums[0];
    let lost = sums[1];
    const grown = sum + value;
    lost += Math.abs(sum) >= Math.abs(value) ? sum - grown + value : value - grown + sum;
    sum = grown;
    if (ring.length < period) ring.push(value);
    else {
      const leaving = ring[at];
      ring[at] = value;
      if (++at === period) at = 0;
      const shrunk = sum - leaving;
      lost += Math.abs(sum) >= Math.abs(leaving) ? sum - shrunk - leaving : -leaving - shrunk + sum;
      sum = shrunk;
    }
    sums[0] = sum;
    sums[1] = lost;
    return ring.length === period ? (sum + lost) / period : NaN;
  };
}

/**
 * An exponential mean with factor 2 / (period + 1), seeded with the mean of the first `period` values. NaN before the
 * first value (another study's warm-up) are passed over.
 */
export function exponentialMean(period: number): Step {
  const factor = 2 / (period + 1);
  const mean = new Float64Array(1);
  let n = 0;
  return (next) => {
    if (n >= period) {
      mean[0] += factor * (next - mean[0]);
      return mean[0];
    }
    if (n === 0 && Number.isNaN(next)) return NaN;
    mean[0] += next;
    if (++n < period) return NaN;
    mean[0] /= period;
    return mean[0];
  };
}

/** Windows summed afresh after so many steps: what rounding a running sum gathers stays far below what is shown. */
const AFRESH = 256;

/** A mean with weights 1 to `period`, the newest value the heaviest. */
export function weightedMean(period: number): Step {
  const window = new Window(period);
  const weights = (period * (period + 1)) / 2;
  let [sum, weighted, n] = [0, 0, -period];
  return (value) => {
    const leaving = window.push(value);
    n++;
    if (n < 0) return NaN;
    if (n % AFRESH === 0) {
      sum = weighted = 0;
      let weight = 0;
      for (const one of window) {
        sum += one;
        weighted += ++weight * one;
      }
    } else {
      weighted += period * value - sum;
      sum += value - (leaving ?? 0);
    }
    return weighted / weights;
  };
}

/**
 * The extreme of the last `period` values, and how many steps back the newest bar of it lies. Each value is looked at
 * twice at most.
 */
export class WindowExtreme {
  private readonly places: number[] = [];
  private readonly values: number[] = [];
  private head = 0;
  private n = -1;

  constructor(
    private readonly period: number,
    private readonly sign: 1 | -1,
  ) {}

  /** The extreme; NaN before there are that many values. */
  next = (value: number): number => {
    const { places, values, sign } = this;
    this.n++;
    while (values.length > this.head && sign * values[values.length - 1] <= sign * value) {
      values.pop();
      places.pop();
    }
    values.push(value);
    places.push(this.n);
    if (places[this.head] <= this.n - this.period) this.head++;
    // What has left is given up now and then, so that a window costs what it holds.
    if (this.head > 1024 && 2 * this.head > values.length) {
      values.splice(0, this.head);
      places.splice(0, this.head);
      this.head = 0;
    }
    return this.n >= this.period - 1 ? values[this.head] : NaN;
  };

  get stepsBack(): number {
    return this.n - this.places[this.head];
  }
}

/** Mean and mean of squares about it over the last `period` values, each window taken afresh in two passes. */
export function windowMoments(period: number): (value: number) => { mean: number; variance: number } | undefined {
  const window = new Window(period);
  return (value) => {
    window.push(value);
    if (!window.isFull) return undefined;
    let sum = 0;
    for (const one of window) sum += one;
    const mean = sum / period;
    let squares = 0;
    for (const one of window) squares += (one - mean) ** 2;
    return { mean, variance: squares / period };
  };
}

/** For how many values in a row the same was said. */
export function unchangedFor(): (value: number) => number {
  let [last, count] = [NaN, 0];
  return (value) => {
    count = value === last ? count + 1 : 1;
    last = value;
    return count;
  };
}
