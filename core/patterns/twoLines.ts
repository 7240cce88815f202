import {
  highest,
  lowest,
  priceOn,
  rule,
  through,
  type Judged,
  type PatternGround,
  type PatternLine,
  type PatternPoint,
  type PatternRule,
} from "#core/patterns/shape";

/** Five turns between two lines, and what the lines do. */
export interface TwoLines {
  upper: PatternLine;
  lower: PatternLine;
  points: readonly PatternPoint[];
  /** Distance of the lines at the first and the last turn. */
  width: number;
  end: number;
  /** What each line rises from first to last turn, as a share of `width`. */
  upperRise: number;
  lowerRise: number;
  /** Rules that all of them keep. */
  rules: PatternRule[];
  first: number;
  last: number;
}

/**
 * Lines through the turns of each side: the side with three through its first and last, and the one between must lie at
 * it. Closes stay between the lines.
 */
export function twoLines(points: readonly PatternPoint[], ground: PatternGround): TwoLines {
  const before = ground.measured.get(LINES) as TwoLines | undefined;
  const lines = before ?? measuredLines(points, ground);
  if (!before) ground.measured.set(LINES, lines);
  return lines;
}

const LINES = "two lines";

function measuredLines(points: readonly PatternPoint[], { atr, bars, sign }: PatternGround): TwoLines {
  const [a, p, b, q, c] = points;
  const [of3, of2] = [through(a, c), through(p, q)];
  const [upper, lower] = a.price > p.price ? [of3, of2] : [of2, of3];
  const [first, last] = [a.index, c.index];
  const width = priceOn(upper, first) - priceOn(lower, first);
  const end = priceOn(upper, last) - priceOn(lower, last);
  const shortest = Math.min(p.index - first, b.index - p.index, q.index - b.index, last - q.index);
  const rules = [
    rule("width at its start in ATR", width / atr, { least: 3 }),
    rule("width at its end in ATR", end / atr, { least: 0.5 }),
    rule("bars from first to last turn", last - first, { least: 12 }),
    rule("bars of its shortest leg", shortest, { least: 2 }),
    rule("middle turn from its line, share of the width", Math.abs(b.price - priceOn(of3, b.index)) / width, {
      most: 0.15,
    }),
  ];
  // Closes are counted where there is anything to hold them: of what is no pattern anyhow they say nothing.
  if (rules.every(({ holds }) => holds)) {
    let beyond = 0;
    for (let i = first; i <= last; i++) {
      const close = sign * bars.close[i];
      if (close > priceOn(upper, i) || close < priceOn(lower, i)) beyond++;
    }
    rules.push(rule("closes beyond its lines, share of its bars", beyond / (last - first + 1), { most: 0.05 }));
  }
  return {
    ...{ upper, lower, points, width, end, first, last, rules },
    upperRise: (upper.perBar * (last - first)) / width,
    lowerRise: (lower.perBar * (last - first)) / width,
  };
}

/** The bar at which two lines meet, Infinity where they do not. */
export function apexOf({ upper, lower, last, end }: TwoLines): number {
  const closing = lower.perBar - upper.perBar;
  return closing > 0 ? last + end / closing : Infinity;
}

/** What a pattern between two lines waits for. */
export function betweenLines(
  lines: TwoLines,
  rules: readonly PatternRule[],
  { isEither = false, target }: { isEither?: boolean; target?: number } = {},
): Judged {
  const { upper, lower, width, points, first, last } = lines;
  const tail = points.slice(-3);
  return {
    rules: [...lines.rules, ...rules],
    form: () => ({
      ...{ confirm: upper, against: lower, isEither, height: width, stop: lowest(tail), otherStop: highest(tail) },
      ...(target === undefined ? {} : { target }),
      until: Math.floor(Math.min(apexOf(lines), last + (last - first))),
    }),
  };
}

/** A line that rises or falls by less than this share of the width is level; by this share more it slopes. */
export const LEVEL = 0.15;
/** Lines whose distance at the end is at most this share of that at the start come together. */
export const CLOSING = 0.75;

/** What every pattern between two lines asks. */
export const betweenGate = (points: readonly PatternPoint[], ground: PatternGround): boolean =>
  twoLines(points, ground).rules.every(({ holds }) => holds);

export const FIVE = ["first turn", "second", "third", "fourth", "fifth"] as const;
