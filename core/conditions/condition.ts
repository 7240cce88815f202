import type { Instant } from "#core/observe/instant";
import type { Moment, Need, RungClose } from "#core/observe/tape";
import type { MarketFacts } from "#core/marks/kind";
import type { Bind, Price } from "#core/conditions/price";
import type { Fields } from "#core/conditions/fields";
import type { Terms } from "#core/conditions/registry";

/** What a condition is judged with. */
export interface Look {
  moment: Moment;
  /** When it began to look: bars that opened before do not count. */
  since: Instant;
  /** Prices are equal within this: a thousandth of a tick. */
  tolerance: number;
  /** IANA zone in which clock times are read where none is named. */
  zone: string;
  /** How the steps before were met, from the first; none outside of steps. */
  met: readonly Met[];
  /** Which way the trade goes, and the market's tick: what ticks beside a bound price are counted by. */
  trade?: { sign: 1 | -1; tick: number };
}

/** What is left of a condition that was met: its rung and the bar it was met with. */
export interface Met {
  rung?: string;
  high: number;
  low: number;
  close: number;
  /** The price it was about, where it was about one. */
  level?: number;
  /** The furthest price of a sweep. */
  swept?: number;
  /** Of a shift: the swing it closed beyond, the extreme it came from, how far it has gone, and the gap it left. */
  broken?: number;
  swing?: number;
  legEnd?: number;
  gap?: { near: number; far: number };
  /** Of a pattern: where it fails and what it aims for. */
  stop?: number;
  target?: number;
}

/** One bar that a condition has judged; `met` is absent while that cannot be known. */
export interface Judged {
  met?: boolean;
  by: Met;
}

export interface Judgement<State> {
  state: State;
  /** The bars that were judged with this moment, oldest first; none when no bar of its rung has closed. */
  judged: readonly Judged[];
}

type Decimals = Pick<MarketFacts, "decimals">;

/**
 * One kind of thing that may come to pass. State is plain data; the same moments in the same order judge the same.
 * Compared are closes and wicks of bars that have closed, never anything that is still being made.
 */
export interface Condition<Own extends { on: string }, State> {
  on: Own["on"];
  /** Terms from untrusted fields; throws a `ConditionFault` that names the one at fault. */
  read(fields: Fields): Own;
  /** What it must know of rungs. */
  needs(terms: Own): readonly Need[];
  start(terms: Own): State;
  next(terms: Own, state: State, look: Look): Judgement<State>;
  /** As the end of "if ...". */
  say(terms: Own, market: Decimals): string;
  /** The prices it leaves when it is met, which what follows may be bound to. */
  binds(terms: Own): readonly Bind[];
  /** About the price it is about, before anything has been met; of a band its middle. */
  about(terms: Own, at: GuessPrice): number | undefined;
  /** The price it is met at, or from which on in the trade's direction (`isFrom`). */
  needed(terms: Own, at: GuessPrice, long: boolean): Needed | undefined;
  /** The turns it makes price take on a drawing: to its price, `beyond` it, back from it. */
  turns(terms: Own, at: GuessPrice, beyond: number): readonly number[];
}

/** About where a price will be; `undefined` where nothing of that is known. */
export type GuessPrice = (price: Price | undefined) => number | undefined;

export interface Needed {
  price: number;
  isFrom: boolean;
}

/** Its bar, which every condition that is met with one leaves. */
export const OF_BAR: readonly Bind[] = ["barLow", "barHigh"];

/** What is about no price: it says nothing of where an order may fill, and turns nothing. */
export const ABOUT_NONE = { about: () => undefined, needed: () => undefined, turns: () => [] } as const;

export const middleOf = ([bottom, top]: readonly [number, number]): number => (bottom + top) / 2;

/** How conditions that are made of others find those: by their terms, and by untrusted data. */
export interface Kinds {
  of(terms: Terms): Condition<Terms, unknown>;
  /** `fields`: those it stands among, whose way to read instants it shares. */
  read(raw: unknown, path: string, fields: Fields): Terms;
}

/** Closes of a rung whose bars opened since a condition began to look. */
export function closesOf({ moment, since }: Look, rung: string | undefined): readonly RungClose[] {
  return moment.closes(rung).filter(({ bar }) => bar.from >= since);
}

/** What a bar leaves when it meets a condition. */
export function metBy({ bar: { high, low, close } }: RungClose, rung?: string, level?: number): Met {
  const about = level === undefined ? {} : { level };
  return { ...(rung === undefined ? {} : { rung }), high, low, close, ...about };
}

/** A condition without a memory: each bar of its rung is judged for itself, where it can be. */
export function judgeEach(
  look: Look,
  rung: string | undefined,
  isMet: (close: RungClose) => boolean | undefined,
): Judgement<null> {
  const judged = closesOf(look, rung).map((close): Judged => {
    const met = isMet(close);
    return { ...(met === undefined ? {} : { met }), by: metBy(close, rung) };
  });
  return { state: null, judged };
}

export const neededFrom = (price: number | undefined, isFrom: boolean): Needed | undefined =>
  price === undefined ? undefined : { price, isFrom };
