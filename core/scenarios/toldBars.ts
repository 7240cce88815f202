import type { ClosedBar } from "#core/observe/closedBar";
import type { Moment, RungClose } from "#core/observe/tape";
import { DAY } from "#core/time/dates";

/** Time over which volatility is smoothed (ms). */
const SMOOTHED = 14 * DAY;

/** Told bars by the column: a million of them take no room as objects. */
export class ToldBars {
  private readonly columns = { from: [], to: [], open: [], high: [], low: [], close: [], daily: [] } as Record<
    "from" | "to" | "open" | "high" | "low" | "close" | "daily",
    number[]
  >;
  private base: ClosedBar["base"] | undefined;
  /** Where a line of structure stood after the bar, where a bar of its rung closed with it. */
  private readonly lines = new Map<number, RungClose["line"]>();

  /** `closes` of the rung a stop may follow: what structure said with this bar. */
  push(told: ClosedBar, closes: readonly RungClose[] = []): void {
    const last = closes.at(-1);
    if (last) this.lines.set(this.length, last.line);
    const { from, to, open, high, low, close, daily } = this.columns;
    daily.push(this.dailyWith(told));
    from.push(told.from);
    to.push(told.to);
    open.push(told.open);
    high.push(told.high);
    low.push(told.low);
    close.push(told.close);
    this.base ??= told.base;
  }

  get length(): number {
    return this.columns.from.length;
  }

  /**
   * How far price went in a day lately, known before bar `i` (price units): true ranges over the square root of the
   * time they took, smoothed over two weeks, so that bars of any length say the same. Of the first bar its own.
   */
  volatilityBefore(i: number): number {
    return this.columns.daily[Math.max(0, i - 1)];
  }

  private dailyWith({ from, to, high, low }: ClosedBar): number {
    const { close, to: ends, daily } = this.columns;
    const last = close.length - 1;
    if (last < 0) return Math.max(high - low, Number.MIN_VALUE) / Math.sqrt((to - from) / DAY);
    const range = Math.max(high, close[last]) - Math.min(low, close[last]);
    const took = Math.max(1, to - ends[last]);
    const weight = 1 - Math.exp(-took / SMOOTHED);
    return daily[last] + weight * (range / Math.sqrt(took / DAY) - daily[last]);
  }

  /** A moment of which nothing is known but its bar, and the line of structure where it was kept. */
  moment(i: number): Moment {
    const { from, to, open, high, low, close } = this.columns;
    const told = {
      from: from[i],
      to: to[i],
      time: from[i],
      open: open[i],
      high: high[i],
      low: low[i],
      close: close[i],
      volume: 0,
      base: this.base,
    } as unknown as ClosedBar;
    const closes = this.lines.has(i) ? [{ line: this.lines.get(i) } as RungClose] : NO_CLOSES;
    return { told, ...KNOWS_NOTHING, closes: () => closes };
  }
}

const NO_CLOSES: readonly RungClose[] = [];
const KNOWS_NOTHING = { indexOf: () => undefined, previous: () => undefined, others: () => [] };
