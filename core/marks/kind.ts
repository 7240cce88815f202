import type { Bar, Series } from "#core/series/series";
import type { CopyOf } from "#core/marks/equivalent";
import type { MeasuredLine } from "#core/marks/measuring/lines";
import type { MarkEvent } from "#core/marks/markEvent";
import type { FoundFrom } from "#core/marks/foundFrom";
import type { Standing, StatusCode } from "#core/marks/status";
import type { Calendar } from "#core/time/calendar";

/** A point a mark hangs on: an instant (a bar's `time`) and a price. */
export interface Anchor {
  time: number;
  price: number;
}

/** What a computation needs to know of a market besides its bars. */
export interface MarketFacts {
  id: string;
  name: string;
  /** Smallest price step. */
  tick: number;
  /** Size of the unit distances are quoted in (pip, point), and its name. */
  pip: number;
  pipName: string;
  decimals: number;
}

/** Anything placed on a chart. `props` is what its kind keeps besides the anchors; plain data. */
export interface Mark<Props = Record<string, unknown>> {
  id: string;
  kind: string;
  market: string;
  /** ISO 8601 timeframe the mark was made on; its closes are the ones that count. */
  rung: string;
  anchors: Anchor[];
  props: Props;
  note: string;
  author: string;
  version: number;
  /** Not to be changed by hand until it is unlocked. */
  locked?: boolean;
  /** Left out of charts, tables and outlooks; it lives on and is found in the Sheet. */
  hidden?: boolean;
  copied?: CopyOf;
  /** What it was taken over from, when the machine offered it. */
  found?: FoundFrom;
}

export interface MarkContext {
  /** Bars of the mark's own rung. */
  series: Series;
  market: MarketFacts;
  calendar: Calendar;
}

export interface Problem {
  sentence: string;
  /** Index of the anchor at fault, if one is. */
  anchor?: number;
}

/**
 * `dead` marks fade; the status is in the trade's words, `code` is what is compared. Lives frozen long ago have none.
 */
export interface Life<State = unknown> {
  code?: StatusCode;
  status: string;
  dead: boolean;
  state: State;
  events: MarkEvent[];
}

export interface PriceBand {
  bottom: number;
  top: number;
  role: "support" | "resistance" | "target" | "kill" | "level";
  label: string;
  /** The leg it is a share of, from its start to its end: two of one share differ by it. */
  leg?: readonly [from: number, to: number];
}

/**
 * The questions a kind of mark answers. One file a kind, listed once in `registry.ts`; nothing else asks which
 * kind a mark is. `advance` is called once for each bar after the mark's birth, in order, and must return the
 * same state object when nothing changed.
 */
export interface MarkKind<Props = Record<string, unknown>, State = unknown> {
  kind: string;
  title: string;
  /** How many anchors make it whole: placing takes clicks up to `most`, and may stop at `least`. */
  anchors: { least: number; most: number };
  /** How many anchors it may come to have, where more are added after it was placed. */
  most?: number;
  /** Its anchors are extremes of bars: on finer rungs each stands at the very bar that made it. */
  onExtremes?: true;
  /** The rung whose bars it is followed over, where that is not its own. */
  followedOn?(mark: Mark<Props>): string | undefined;
  /** Which anchor bars act on it from; the last one unless said otherwise (a path lies ahead of its first). */
  birth?: "first";
  /** It draws nothing and is no line of the argument. */
  silent?: true;
  /** Props from untrusted data of a mark of so many anchors, with defaults filled in; `undefined` if they cannot be. */
  readProps(raw: Record<string, unknown>, anchors?: number): Props | undefined;
  /** Completes a freshly placed mark from the bars (edges of a zone from its base). */
  complete?(mark: Mark<Props>, context: MarkContext): Mark<Props>;
  check(mark: Mark<Props>, context: MarkContext): Problem[];
  start(mark: Mark<Props>, context: MarkContext): State;
  advance(mark: Mark<Props>, state: State, bar: Bar, emit: (event: MarkEvent) => void): State;
  /** How the state stands. */
  status(state: State): Standing;
  prices(mark: Mark<Props>, life: Life<State>): PriceBand[];
  /** Of what measures: every line it has, with its state and the bar that made it. */
  lines?(mark: Mark<Props>, life: Life<State>): MeasuredLine[];
  say(mark: Mark<Props>, life: Life<State>, market: MarketFacts): string;
}

/**
 * Instant of the last anchor: bars after it act on most kinds of marks (`bornAt` of the registry knows of the others).
 */
export function birthOf(mark: Pick<Mark, "anchors">): number {
  return Math.max(...mark.anchors.map((anchor) => anchor.time));
}
