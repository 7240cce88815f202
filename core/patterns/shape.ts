import type { Track } from "#core/series/track";

/** A turn a pattern hangs on. Prices are as the pattern sees them: upside down where it points down. */
export interface PatternPoint {
  index: number;
  price: number;
}

/** A straight line over bars. */
export interface PatternLine {
  index: number;
  price: number;
  perBar: number;
}

export const priceOn = ({ index, price, perBar }: PatternLine, i: number): number => price + perBar * (i - index);

export const level = (price: number): PatternLine => ({ index: 0, price, perBar: 0 });

export function through(a: PatternPoint, b: PatternPoint): PatternLine {
  return { index: a.index, price: a.price, perBar: (b.price - a.price) / (b.index - a.index) };
}

/** One rule of a pattern with what was measured. */
export interface PatternRule {
  rule: string;
  /** Ratios, or counts of bars where the name says so. */
  value: number;
  /** The bounds it must keep, ends included. */
  least: number;
  most: number;
  holds: boolean;
}

export function rule(name: string, value: number, { least = -Infinity, most = Infinity }): PatternRule {
  return { rule: name, value, least, most, holds: value >= least - 1e-9 && value <= most + 1e-9 };
}

/** What a pattern waits for, its prices as it sees them. */
export interface PatternForm {
  /** A close beyond it confirms. */
  confirm: PatternLine;
  /** A close beyond it negates; of a pattern that may go either way it confirms the other one. */
  against: PatternLine;
  isEither: boolean;
  /** What is laid off from the break; `target` stands instead where the pattern names a price. */
  height: number;
  target?: number;
  /** A close beyond it after the break fails; `otherStop` after a break the other way. */
  stop: number;
  otherStop: number;
  /** The last bar it may be confirmed on. */
  until: number;
}

export interface PatternGround {
  /** ATR at the last point. */
  atr: number;
  /** Bars the points stand on; `sign` -1 where they are seen upside down. */
  bars: Pick<Track, "close">;
  sign: 1 | -1;
  /** What several patterns measure of the same points is measured once. */
  measured: Map<string, unknown>;
}

export interface Judged {
  rules: PatternRule[];
  /** Worked out where its rules hold. */
  form: () => PatternForm;
  /** How uneven it is, 0 (neat) to 1 (as uneven as it may be), where the pattern says so. */
  uneven?: number;
}

/** A pattern seen as it points up; the same upside down points down. */
export interface PatternShape {
  /** Its name as it points up and down; one that may go either way has one name. */
  title: readonly [up: string, down: string];
  /** What each of its points is, in order. */
  points: readonly string[];
  /** Whether its first point is a high or a low; "any" where it may begin with either. */
  first: "high" | "low" | "any";
  /** One that may go either way is looked for once, not upside down as well. */
  isEither?: true;
  source: string;
  /** What its points must keep in any case, where several patterns ask it of the same points: asked before the rest. */
  gate?(points: readonly PatternPoint[], ground: PatternGround): boolean;
  judge(points: readonly PatternPoint[], ground: PatternGround): Judged;
}

export const highest = (points: readonly PatternPoint[]) => Math.max(...points.map(({ price }) => price));
export const lowest = (points: readonly PatternPoint[]) => Math.min(...points.map(({ price }) => price));

export const EDWARDS_MAGEE = "R. D. Edwards and J. Magee, Technical Analysis of Stock Trends, 1948, from memory";
/** Shares that a form keeps: nobody's book has them. */
export const SHARES = "the shares are common practice, no source";
