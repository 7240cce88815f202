import type { ClosedBar } from "#core/observe/closedBar";
import { RungFold, type RungBar } from "#core/observe/rungFold";
import { Track } from "#core/series/track";
import { allocate } from "#core/series/series";
import { candleAt, type Candle } from "#core/structure/candles";
import { StructureDetector, type Way } from "#core/structure/structure";
import { SwingDetector } from "#core/structure/swingDetector";
import type { Calendar } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";

/** What somebody who watches must know of a rung besides its closes: its candles, or its structure. */
export interface Need {
  /** ISO 8601; what is told itself where it is left out. */
  rung?: string;
  of: "closes" | "candles" | "structure";
}

/** A shift of structure that a close made. */
export interface Shift {
  direction: Way;
  /** The swing that was closed beyond. */
  price: number;
  /** The extreme it came from. */
  extreme: number;
}

/** A close of a rung, and what its bar is and did. */
export interface RungClose {
  bar: RungBar;
  /** The close of the bar before it. */
  previous?: number;
  candle?: Candle;
  shift?: Shift;
  /** The valid opposite swing of the trend after this close: where a stop that follows structure stands. */
  line?: { way: Way; price: number };
}

/** A told bar with the closes that are known with it. */
export interface Moment {
  told: ClosedBar;
  /** Closes of a rung, oldest first; without a rung the told bar's own. */
  closes(rung: string | undefined): readonly RungClose[];
}

export interface TapeFacts {
  calendar: Calendar;
  tick: number;
  /** Bars on each side of a swing. */
  k: number;
}

/**
 * Told bars one after the other, with the rungs they make. Everything here follows from the bars alone, so that who
 * begins anew with the same bars stands where the last one stood; what is a watcher's own is kept by the watcher.
 */
export class Tape {
  private readonly rungs = new Map<string, RungReader>();

  constructor(
    readonly facts: TapeFacts,
    needs: readonly Need[] = [],
  ) {
    this.need([{ of: "closes" }, ...needs]);
  }

  /** Whether these needs were told from its beginning: what was not cannot be made up for. */
  has(needs: readonly Need[]): boolean {
    return needs.every(({ rung = "", of }) => this.rungs.get(rung)?.knows(of) ?? false);
  }

  private need(needs: readonly Need[]): void {
    for (const { rung = "", of } of needs) {
      const known = this.rungs.get(rung);
      if (known) known.need(of);
      else this.rungs.set(rung, new RungReader(rung, of, this.facts));
    }
  }

  next(told: ClosedBar): Moment {
    const closes = new Map<string, readonly RungClose[]>();
    for (const [rung, reader] of this.rungs) closes.set(rung, reader.next(told));
    return { told, closes: (rung = "") => closes.get(rung) ?? NONE };
  }
}

const NONE: readonly RungClose[] = [];

/** One rung: its bars and, as far as somebody needs it, its candles and its structure. */
class RungReader {
  private readonly fold: RungFold | undefined;
  private track: Track | undefined;
  private swings: SwingDetector | undefined;
  private structure: StructureDetector | undefined;
  private previous: number | undefined;

  constructor(
    rung: string,
    of: Need["of"],
    private readonly facts: TapeFacts,
  ) {
    const timeframe = parseTimeframe(rung);
    this.fold = timeframe && new RungFold(timeframe, facts.calendar);
    this.need(of);
  }

  need(of: Need["of"]): void {
    const { tick, k } = this.facts;
    if (of !== "closes") this.track ??= new Track(allocate(0), tick);
    if (of !== "structure" || !this.track || this.structure) return;
    this.swings = new SwingDetector(this.track, { k, ties: "last" });
    this.structure = new StructureDetector(this.track, this.swings, k);
  }

  knows(of: Need["of"]): boolean {
    return of === "closes" || (of === "candles" ? this.track : this.structure) !== undefined;
  }

  next(told: ClosedBar): readonly RungClose[] {
    const bars = this.fold ? this.fold.next(told) : [told];
    return bars.length === 0 ? NONE : bars.map((bar) => this.close(bar));
  }

  private close(bar: RungBar): RungClose {
    const { track, swings, structure, previous } = this;
    this.previous = bar.close;
    if (!track) return { bar, previous };
    track.push(bar);
    const i = track.length - 1;
    const candle = candleAt(track, i);
    if (!swings || !structure) return { bar, previous, candle };
    const before = structure.events.length;
    swings.next(i);
    structure.next(i);
    const shift = structure.events.slice(before).find(({ event }) => event === "shift");
    const { trend } = structure;
    const extreme = trend?.origin.price ?? NaN;
    return {
      bar,
      previous,
      candle,
      ...(shift ? { shift: { direction: shift.direction, price: shift.price, extreme } } : {}),
      ...(trend ? { line: { way: trend.way, price: trend.line.price } } : {}),
    };
  }
}
