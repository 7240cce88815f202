import { bisectRight } from "d3-array";
import { fairGapAt } from "#core/zones/fairGap";
import type { ClosedBar } from "#core/observe/closedBar";
import { RungFold, type RungBar } from "#core/observe/rungFold";
import { Track } from "#core/series/track";
import { allocate } from "#core/series/series";
import { candlesAt, type CandleSeen } from "#core/candles/candles";
import { patternNews, type PatternNews } from "#core/observe/patternNews";
import { PatternDetector } from "#core/patterns/detector";
import { wordOf, type Candle } from "#core/structure/candles";
import type { ColumnRules } from "#core/columns/columns";
import { columnsName, ColumnWatch, type ColumnNews } from "#core/observe/columnNews";
import { Meter, meterName, type MeterTerms, type StudyMeter } from "#core/observe/meter";
import { StructureDetector, type StructureEvent, type Way } from "#core/structure/structure";
import { SwingDetector } from "#core/structure/swingDetector";
import type { Calendar } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";

/** What somebody who watches must know of a rung besides its closes: its candles, or its structure. */
export interface Need {
  /** ISO 8601; what is told itself where it is left out. */
  rung?: string;
  of: "closes" | "candles" | "structure" | "patterns" | "columns" | "labels" | "meter";
  /** Bars before the one that closes that it is judged with; one where it is left out. */
  back?: number;
  /** Another market, by the name its bars are told under. */
  market?: string;
  /** How columns are made, of `columns`. */
  columns?: ColumnRules;
  /** What is measured at its closes, of `meter`. */
  meter?: MeterTerms | StudyMeter;
}

/** A shift of structure that a close made. */
export interface Shift {
  direction: Way;
  /** The swing that was closed beyond. */
  price: number;
  /** The extreme it came from, and the furthest price since. */
  extreme: number;
  end: number;
  /** The last fair value gap within that move, its edges by how price comes back to them. */
  gap?: { near: number; far: number };
}

/** A close of a rung, and what its bar is and did. */
export interface RungClose {
  bar: RungBar;
  /** The close of the bar before it. */
  previous?: number;
  candle?: Candle;
  /** Every candle that is seen at this close, in a row with those before it. */
  candles?: readonly CandleSeen[];
  /** What this close did to patterns. */
  patterns?: readonly PatternNews[];
  /** What this close did to counts from columns, by how those are made. */
  columns?: ReadonlyMap<string, readonly ColumnNews[]>;
  shift?: Shift;
  /** The valid opposite swing of the trend after this close: where a stop that follows structure stands. */
  line?: { way: Way; price: number };
  /** What was measured, by the name of the meter; not before it has enough bars. */
  measured?: ReadonlyMap<string, readonly number[]>;
}

/** A told bar with the closes that are known with it. */
export interface Moment {
  told: ClosedBar;
  /** Closes of a rung, oldest first; without a rung the told bar's own. */
  closes(rung: string | undefined): readonly RungClose[];
  /**
   * Index of the bar of a rung a label belongs to, counted from the first that was told; `undefined` before that, and
   * for a label that lies ahead.
   */
  indexOf(rung: string | undefined, label: number): number | undefined;
  /** The last bar of a rung that was known before this moment, where the rung is told at all. */
  previous(rung: string): RungBar | undefined;
  /** What another market told since the last moment, and by this one's close. */
  others(market: string): readonly OtherMoment[];
}

/** A moment of another market, with that market's tick. */
export interface OtherMoment {
  moment: Moment;
  tick: number;
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
  /** What is told itself, and the rungs that are made of it. */
  private readonly own: RungReader;
  private readonly rungs = new Map<string, RungReader>();

  constructor(
    readonly facts: TapeFacts,
    needs: readonly Need[] = [],
  ) {
    this.own = new RungReader("", facts);
    this.need(needs);
  }

  /** Whether these needs were told from its beginning: what was not cannot be made up for. */
  has(needs: readonly Need[]): boolean {
    return needs.every((need) => (need.market !== undefined || this.reader(need.rung)?.knows(need)) ?? false);
  }

  private reader(rung = ""): RungReader | undefined {
    return rung === "" ? this.own : this.rungs.get(rung);
  }

  private need(needs: readonly Need[]): void {
    for (const need of needs) {
      const { rung = "", market } = need;
      // Another market's rungs are on that market's tape.
      if (market !== undefined) continue;
      const reader = this.reader(rung) ?? new RungReader(rung, this.facts);
      reader.need(need);
      if (rung !== "") this.rungs.set(rung, reader);
    }
  }

  /** `others`: what other markets told since the last moment. */
  next(told: ClosedBar, others: Moment["others"] = nobody): Moment {
    let closes: Map<string, readonly RungClose[]> | undefined;
    for (const [rung, reader] of this.rungs) {
      const made = reader.next(told);
      if (made.length > 0) (closes ??= new Map()).set(rung, made);
    }
    return new Told(told, this.own.next(told), closes, this.own, this.rungs, others);
  }
}

/** One of a million: it has no closures of its own. */
class Told implements Moment {
  constructor(
    readonly told: ClosedBar,
    private readonly itself: readonly RungClose[],
    private readonly known: ReadonlyMap<string, readonly RungClose[]> | undefined,
    private readonly own: RungReader,
    private readonly rungs: ReadonlyMap<string, RungReader>,
    readonly others: Moment["others"],
  ) {}

  closes(rung = ""): readonly RungClose[] {
    return rung === "" ? this.itself : (this.known?.get(rung) ?? NONE);
  }

  previous(rung: string): RungBar | undefined {
    return this.reader(rung)?.before;
  }

  indexOf(rung: string | undefined, label: number): number | undefined {
    return label > this.told.time ? undefined : this.reader(rung)?.indexOf(label);
  }

  private reader(rung = ""): RungReader | undefined {
    return rung === "" ? this.own : this.rungs.get(rung);
  }
}

const NONE: readonly RungClose[] = [];
const NO_OTHERS: readonly OtherMoment[] = [];
const nobody = () => NO_OTHERS;

/** One rung: its bars and, as far as somebody needs it, its candles and its structure. */
class RungReader {
  private readonly fold: RungFold | undefined;
  private track: Track | undefined;
  private swings: SwingDetector | undefined;
  private structure: StructureDetector | undefined;
  private patterns: PatternDetector | undefined;
  /** The last bar, and the last one that was known before the moment that is told. */
  private latest: RungBar | undefined;
  before: RungBar | undefined;
  private labels: number[] | undefined;
  private readonly meters = new Map<string, Meter>();
  private readonly columns = new Map<string, ColumnWatch>();

  constructor(
    rung: string,
    private readonly facts: TapeFacts,
  ) {
    const timeframe = parseTimeframe(rung);
    this.fold = timeframe && new RungFold(timeframe, facts.calendar);
  }

  need({ of, meter, columns }: Need): void {
    const { tick, k } = this.facts;
    if (of === "labels") this.labels ??= [];
    if (of === "closes" || of === "labels") return;
    this.track ??= new Track(allocate(0), tick);
    if (meter && !this.meters.has(meterName(meter))) this.meters.set(meterName(meter), new Meter(meter));
    if (columns && !this.columns.has(columnsName(columns)))
      this.columns.set(columnsName(columns), new ColumnWatch(columns, tick));
    if (of === "patterns") this.patterns ??= new PatternDetector(this.track);
    if (of !== "structure" || this.structure) return;
    this.swings = new SwingDetector(this.track, { k, ties: "last" });
    this.structure = new StructureDetector(this.track, this.swings, k);
  }

  knows({ of, meter, columns }: Need): boolean {
    if (of === "closes") return true;
    if (of === "labels") return this.labels !== undefined;
    if (meter) return this.meters.has(meterName(meter));
    if (columns) return this.columns.has(columnsName(columns));
    if (of === "patterns") return this.patterns !== undefined;
    return (of === "candles" ? this.track : this.structure) !== undefined;
  }

  indexOf(label: number): number | undefined {
    const { labels } = this;
    if (!labels || labels.length === 0 || label < labels[0]) return undefined;
    // Nearly everybody asks for the newest.
    return label >= labels[labels.length - 1] ? labels.length - 1 : lastAtOrBeforeIn(labels, label);
  }

  next(told: ClosedBar): readonly RungClose[] {
    this.before = this.latest;
    const bars = this.fold ? this.fold.next(told) : [told];
    if (bars.length === 0 && !this.labels) return NONE;
    if (this.labels) {
      // The bar that is being made has a place on a line, too.
      for (const { time } of bars) this.opened(time);
      const label = this.fold ? this.fold.label : told.time;
      if (label !== undefined) this.opened(label);
    }
    return bars.length === 0 ? NONE : bars.map((bar) => this.close(bar));
  }

  private opened(label: number): void {
    const { labels } = this;
    if (labels && label > (labels[labels.length - 1] ?? -Infinity)) labels.push(label);
  }

  private close(bar: RungBar): RungClose {
    const { track, swings, structure } = this;
    const previous = this.latest?.close;
    this.latest = bar;
    if (!track) return { bar, previous };
    track.push(bar);
    const i = track.length - 1;
    const candles = candlesAt(track, i, track.tick);
    const known = {
      ...{ bar, previous, candles, candle: wordOf(candles) },
      ...(this.meters.size > 0 ? { measured: this.measure(track, i) } : {}),
      ...(this.columns.size > 0 ? { columns: this.counted(track, i) } : {}),
      ...(this.patterns ? { patterns: this.seen(this.patterns, i) } : {}),
    };
    if (!swings || !structure) return known;
    const before = structure.events.length;
    swings.next(i);
    structure.next(i);
    const shift = structure.events.slice(before).find(({ event }) => event === "shift");
    const { trend } = structure;
    const extreme = trend?.origin.price ?? NaN;
    return {
      ...known,
      ...(shift ? { shift: shiftOf(track, shift, trend?.origin.index ?? i, extreme) } : {}),
      ...(trend ? { line: { way: trend.way, price: trend.line.price } } : {}),
    };
  }

  private counted(track: Track, i: number): ReadonlyMap<string, readonly ColumnNews[]> {
    return new Map([...this.columns].map(([name, watch]) => [name, watch.next(track, i)]));
  }

  private seen(patterns: PatternDetector, i: number): readonly PatternNews[] {
    patterns.next(i);
    return patternNews(patterns, i);
  }

  private measure(track: Track, i: number): ReadonlyMap<string, readonly number[]> {
    const out = new Map<string, readonly number[]>();
    for (const [name, meter] of this.meters) {
      const values = meter.next(track, i);
      if (values) out.set(name, values);
    }
    return out;
  }
}

/** A shift with what the move that made it left behind. O(bars of the move). */
function shiftOf(track: Track, { direction, price, at }: StructureEvent, from: number, extreme: number): Shift {
  const up = direction === "up";
  const { high, low } = track;
  let end = up ? high[at] : low[at];
  let gap: Shift["gap"];
  for (let j = at; j >= Math.max(from, 0); j--) {
    end = up ? Math.max(end, high[j]) : Math.min(end, low[j]);
    const left = gap || j - 2 < from ? undefined : fairGapAt(track, j);
    if (left?.direction === direction)
      gap = up ? { near: left.top, far: left.bottom } : { near: left.bottom, far: left.top };
  }
  return { direction, price, extreme, end, ...(gap ? { gap } : {}) };
}

/** Index of the last label at or before one; the first where none is. */
const lastAtOrBeforeIn = (labels: readonly number[], label: number): number =>
  Math.max(0, bisectRight(labels as number[], label) - 1);
