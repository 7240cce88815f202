import { fixedGrid, percentGrid, type BoxGrid, type BoxSize } from "#core/columns/grid";
import type { Series } from "#core/series/series";
import { rangeMean } from "#core/studies/atr";

/** How bars become columns. */
export interface ColumnRules {
  box: BoxSize;
  /** Boxes price must come back by before a new column begins. */
  reversal: number;
  /** Whether wicks make boxes, or closes alone. */
  method: "highLow" | "close";
}

/** A column of boxes: while it stands last, price goes on adding to it. */
export interface Column {
  isRising: boolean;
  /** Lowest and highest box, by the grid. */
  bottom: number;
  top: number;
  /** Index of the bar that began it, and of the one that added its last box. */
  start: number;
  end: number;
}

/** What a bar did: the boxes it added to a column, in the order they were added. */
export interface ColumnStep {
  /** Of the column, from 0. */
  at: number;
  isNew: boolean;
  /** First and last box added: rising in a rising column, falling in a falling one. */
  from: number;
  to: number;
}

type Prices = Pick<Series, "high" | "low" | "close">;

/**
 * Columns of boxes (point and figure), bar by bar: what price goes on doing is looked at before what it comes back by,
 * and a bar does one of both (A. W. Cohen, 1947, from memory). With a reversal of one box, too, each turn begins a new
 * column. O(1) a bar, but for the boxes it adds.
 */
export class Columns {
  readonly all: Column[] = [];
  grid: BoxGrid | undefined;
  /** Boxes seen before the first column: the lowest a low came down to, the highest a high went up to. */
  private lowest = Infinity;
  private highest = -Infinity;
  private readonly range: ((bars: Prices, i: number) => number) | undefined;

  /** @throws RangeError for a box below one tick. */
  constructor(
    private readonly rules: ColumnRules,
    private readonly tick: number,
  ) {
    const { box } = rules;
    if (typeof box === "number") this.grid = fixedGrid(box, tick);
    else if ("percent" in box) this.grid = percentGrid(box.percent, tick);
    else this.range = rangeMean(box.atr);
  }

  /** Bar `i`, the next one; what it did, if anything. @throws RangeError for boxes in percent of prices not above 0. */
  next(bars: Prices, i: number): ColumnStep | undefined {
    const isClose = this.rules.method === "close";
    const [high, low] = isClose ? [bars.close[i], bars.close[i]] : [bars.high[i], bars.low[i]];
    this.grid ??= this.gridAt(bars, i);
    if (!this.grid) return undefined;
    const up = this.grid.upTo(high);
    const down = this.grid.downTo(low);
    const last = this.all.at(-1);
    return last ? this.goOn(last, up, down, i) : this.begin(up, down, i);
  }

  /** The grid of a box that is a multiple of the ATR, at the first bar that has one. */
  private gridAt(bars: Prices, i: number): BoxGrid | undefined {
    const { box } = this.rules;
    const range = this.range?.(bars, i) ?? NaN;
    if (typeof box === "number" || !("atr" in box) || Number.isNaN(range)) return undefined;
    return fixedGrid(Math.max(1, Math.floor((box.multiple * range) / this.tick + 0.5)) * this.tick, this.tick);
  }

  private goOn(last: Column, up: number, down: number, i: number): ColumnStep | undefined {
    const { reversal } = this.rules;
    const at = this.all.length - 1;
    if (last.isRising) {
      if (up > last.top) {
        const from = last.top + 1;
        [last.top, last.end] = [up, i];
        return { at, isNew: false, from, to: up };
      }
      return down <= last.top - reversal ? this.add(false, last.top - 1, down, i) : undefined;
    }
    if (down < last.bottom) {
      const from = last.bottom - 1;
      [last.bottom, last.end] = [down, i];
      return { at, isNew: false, from, to: down };
    }
    return up >= last.bottom + reversal ? this.add(true, last.bottom + 1, up, i) : undefined;
  }

  private begin(up: number, down: number, i: number): ColumnStep | undefined {
    const { reversal } = this.rules;
    const rises = up >= this.lowest + reversal;
    const falls = down <= this.highest - reversal;
    if (rises && !falls) return this.add(true, this.lowest + 1, up, i);
    if (falls && !rises) return this.add(false, this.highest - 1, down, i);
    this.lowest = Math.min(this.lowest, down);
    this.highest = Math.max(this.highest, up);
    return undefined;
  }

  private add(isRising: boolean, from: number, to: number, i: number): ColumnStep {
    this.all.push({ isRising, bottom: Math.min(from, to), top: Math.max(from, to), start: i, end: i });
    return { at: this.all.length - 1, isNew: true, from, to };
  }
}
