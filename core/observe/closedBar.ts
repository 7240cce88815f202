import { asInstant, type Instant, type Label } from "#core/observe/instant";
import { bucketOfBar, runAround } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { isIntraday, nominalLength, type Timeframe } from "#core/time/timeframe";

/** A bar that has closed: what it says of [from, to) is known at `to`, and not before. */
export interface ClosedBar {
  /** Its name on the axis of its timeframe. */
  time: Label;
  open: number;
  high: number;
  low: number;
  close: number;
  volume: number;
  /** When it opened. */
  from: Instant;
  /** When it closed, and was known. */
  to: Instant;
  /** The timeframe it is of. */
  base: Timeframe;
}

/** When a bar opened and when it closed. */
export interface Span {
  from: Instant;
  to: Instant;
}

/**
 * The spans of bars of one timeframe, by their labels. An intraday bar lasts its length, but never past the close of
 * the unbroken sessions it opened in; a longer one from the open of its first trading date to the close of its last.
 * Made for bars in order: what was looked up for one holds for its neighbours. O(1) a bar within a session.
 */
export class Spans {
  private readonly length: number;
  private readonly intraday: boolean;
  private run = { open: Infinity, close: -Infinity };

  constructor(
    readonly base: Timeframe,
    private readonly calendar: Calendar,
  ) {
    this.length = nominalLength(base);
    this.intraday = isIntraday(base);
  }

  of(label: number): Span {
    if (!this.intraday) {
      const { from, to } = bucketOfBar(label, this.base, this.calendar);
      return { from: asInstant(from), to: asInstant(to) };
    }
    const from = asInstant(label);
    if (label < this.run.open || label >= this.run.close) this.run = runAround(label, this.calendar) ?? this.run;
    const end = label + this.length;
    const inside = label >= this.run.open && label < this.run.close;
    return { from, to: asInstant(inside ? Math.min(end, this.run.close) : end) };
  }
}
