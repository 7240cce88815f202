import { allocate, COLUMNS, slice, type Bar, type Series } from "#core/series/series";

/** Wilder's span of the average true range that every tolerance is counted in. */
const SPAN = 14;

/**
 * Bars that may grow at their end, with what every detector asks of them: the ATR(14) known at each close. Detectors
 * are told of one bar after the other (`next(i)`), so that a run over everything, a run to some bar, and one new bar
 * later are the same run.
 */
export class Track {
  private columns: Series;
  private scales: Float64Array;
  private ranges = 0;
  length: number;

  /** `tick` is the smallest step of prices; ties are judged in whole ones. */
  constructor(
    series: Series,
    readonly tick: number,
  ) {
    this.columns = series;
    this.length = series.length;
    this.scales = new Float64Array(series.length);
    for (let i = 0; i < series.length; i++) this.measure(i);
  }

  get time(): Float64Array {
    return this.columns.time;
  }
  get open(): Float64Array {
    return this.columns.open;
  }
  get high(): Float64Array {
    return this.columns.high;
  }
  get low(): Float64Array {
    return this.columns.low;
  }
  get close(): Float64Array {
    return this.columns.close;
  }
  get volume(): Float64Array {
    return this.columns.volume;
  }
  /**
   * ATR(14) at the close of each bar, in price units, never zero; before its warm-up the mean range of the bars so far.
   */
  get atr(): Float64Array {
    return this.scales;
  }
  /** The bars so far. */
  get series(): Series {
    return slice(this.columns, 0, this.length);
  }

  push(bar: Bar): void {
    if (this.length === this.columns.length) this.grow();
    for (const name of COLUMNS) this.columns[name][this.length] = bar[name];
    this.measure(this.length);
    this.length++;
  }

  private grow(): void {
    const wider = allocate(Math.max(64, this.length * 2));
    for (const name of COLUMNS) wider[name].set(this.columns[name].subarray(0, this.length));
    const scales = new Float64Array(wider.length);
    scales.set(this.scales);
    [this.columns, this.scales] = [wider, scales];
  }

  private measure(i: number): void {
    const { high, low, close } = this.columns;
    const range = high[i] - low[i];
    const before = i > 0 ? close[i - 1] : NaN;
    const full = i > 0 ? Math.max(high[i], before) - Math.min(low[i], before) : range;
    // True ranges count from the second bar on; until there are enough of them the mean stands in.
    if (i > 0 && i <= SPAN) this.ranges += full;
    const value = i === 0 ? range : i <= SPAN ? this.ranges / i : (this.scales[i - 1] * (SPAN - 1) + full) / SPAN;
    this.scales[i] = Math.max(value, this.tick);
  }
}

/** The ATR known before bar `i`: what sizes of something that begins there are judged by. */
export function atrAt(track: Pick<Track, "atr">, i: number): number {
  return track.atr[Math.max(0, i)];
}

/** What is told of one closed bar after the other. */
export interface Detector {
  next(i: number): void;
}

/** Tells detectors of the bars from `from` on, bar by bar, in the order they depend on each other. */
export function run(track: Track, detectors: readonly Detector[], from = 0): void {
  for (let i = from; i < track.length; i++) for (const detector of detectors) detector.next(i);
}
