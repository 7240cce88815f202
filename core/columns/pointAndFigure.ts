import { Columns, type Column, type ColumnRules } from "#core/columns/columns";
import { ColumnTargets, type ColumnTarget } from "#core/columns/targets";
import type { Series } from "#core/series/series";

/** Columns a base must have before it is counted. */
export const LEAST_BASE = 5;

/** Columns of boxes and what they count for, followed bar by bar: later bars change nothing that was known. */
export class PointAndFigure {
  private readonly built: Columns;
  private readonly counted: ColumnTargets;

  /** @throws RangeError for a box below one tick. */
  constructor(rules: ColumnRules, tick: number, least = LEAST_BASE) {
    this.built = new Columns(rules, tick);
    this.counted = new ColumnTargets(this.built.all, rules.reversal, least, (box) => this.priceOf(box) > 0);
  }

  get columns(): readonly Column[] {
    return this.built.all;
  }

  /** Targets that the last bar stated or changed. */
  changed: readonly ColumnTarget[] = [];

  get targets(): readonly ColumnTarget[] {
    return this.counted.all;
  }

  /** Size of a box: price units, of percent boxes the share; undefined before the chart begins. */
  get box(): number | undefined {
    return this.built.grid?.size;
  }

  /** The price of a box of the grid. */
  priceOf(box: number): number {
    return this.built.grid?.priceOf(box) ?? NaN;
  }

  /** Bar `i`, the next one. @throws RangeError for boxes in percent of prices not above 0. */
  next(bars: Pick<Series, "high" | "low" | "close">, i: number): void {
    const step = this.built.next(bars, i);
    if (step) this.counted.next(step, i);
    this.changed = step ? this.counted.changed : [];
  }
}

/** All bars of a series as columns. O(bars + boxes). @throws RangeError as the class. */
export function pointAndFigureOf(series: Series, rules: ColumnRules, tick: number, least?: number): PointAndFigure {
  const chart = new PointAndFigure(rules, tick, least);
  for (let i = 0; i < series.length; i++) chart.next(series, i);
  return chart;
}
