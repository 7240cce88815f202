import type { ColumnRules } from "#core/columns/columns";
import { PointAndFigure } from "#core/columns/pointAndFigure";
import type { Series } from "#core/series/series";

/** What a close did to a target counted from columns; prices of the market. */
export interface ColumnNews {
  isUp: boolean;
  event: "in force" | "met" | "negated";
  target: number;
  /** The extreme it is counted from. */
  from: number;
}

/** Columns of one making, told bar by bar by what they say. */
export class ColumnWatch {
  private chart: PointAndFigure | undefined;

  constructor(rules: ColumnRules, tick: number) {
    this.chart = tolerant(() => new PointAndFigure(rules, tick));
  }

  /** Bar `i`, the next one. Where boxes cannot be made there is nothing to say, from then on. */
  next(bars: Pick<Series, "high" | "low" | "close">, i: number): readonly ColumnNews[] {
    const { chart } = this;
    if (!chart) return [];
    const isTold = tolerant(() => (chart.next(bars, i), true));
    if (!isTold) {
      this.chart = undefined;
      return [];
    }
    return chart.changed.flatMap(({ isUp, state, target, from }): ColumnNews[] =>
      state === "waiting" ? [] : [{ isUp, event: state, target: chart.priceOf(target), from: chart.priceOf(from) }],
    );
  }
}

function tolerant<T>(work: () => T): T | undefined {
  try {
    return work();
  } catch (error) {
    if (error instanceof RangeError) return undefined;
    throw error;
  }
}

/** One name for columns made alike. */
export const columnsName = (rules: ColumnRules): string => JSON.stringify([rules.box, rules.reversal, rules.method]);
