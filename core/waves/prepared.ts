import { comparedWith, placeLikelihood } from "#core/waves/likelihood";
import { isMotiveWave, judgedAt, PATTERNS, PATTERN_NAMES, type Pattern, type PriceRule } from "#core/waves/patterns";
import { breaksByTravel } from "#core/waves/statements";

/** What may stand in a wave, as sets that occur in the table; the score of a place is asked for by its set. */
class Places {
  readonly sets: (readonly Pattern[])[] = [];
  private readonly keys = new Map<string, number>();

  of(patterns: readonly Pattern[]): number {
    const key = patterns.join(" ");
    let found = this.keys.get(key);
    if (found === undefined) {
      found = this.sets.length;
      this.keys.set(key, found);
      this.sets.push(patterns);
    }
    return found;
  }
}

/** One pattern made ready for the search. */
export interface Prepared {
  index: number;
  pattern: Pattern;
  waves: number;
  /** Set of places of each wave. */
  places: readonly number[];
  /** The same without zigzags, for combinations that must not be made of zigzags alone. */
  otherThanZigzag: readonly number[];
  together: boolean;
  /** Rules judged at each pivot. */
  rulesAt: readonly (readonly PriceRule[])[];
  /** Of those, the ones that going further breaks. */
  breakersAt: readonly (readonly PriceRule[])[];
  motive: readonly boolean[];
  /** Wave (from 1) each wave is compared with; index 0 and 1 unused. */
  compared: readonly number[];
}

export const places = new Places();
/** Any pattern at all. */
export const ANY = places.of(PATTERN_NAMES);

export const PREPARED: readonly Prepared[] = PATTERN_NAMES.map((pattern, index) => {
  const { labels, children, rules } = PATTERNS[pattern];
  const waves = labels.length;
  const at = (n: number) => rules.filter((rule) => judgedAt(rule) === n);
  return {
    index,
    pattern,
    waves,
    places: children.map((set) => places.of(set)),
    otherThanZigzag: children.map((set) => places.of(set.filter((child) => child !== "zigzag"))),
    together: pattern === "doubleThree" || pattern === "tripleThree",
    rulesAt: Array.from({ length: waves + 1 }, (_, n) => at(n)),
    breakersAt: Array.from({ length: waves + 1 }, (_, n) => at(n).filter(breaksByTravel)),
    motive: labels.map((_, i) => isMotiveWave(pattern, i)),
    compared: labels
      .map((_, i) => i + 1)
      .reduce<number[]>((out, n) => [...out, n < 2 ? 0 : comparedWith(pattern, n)], [0]),
  };
});
/** What a fifth wave may be. */
export const LAST_OF_FIVE = places.of(PATTERNS.impulse.children[4]);
/** ln share of each pattern in each place, by the place's number and the pattern's. */
export const SHARES = places.sets.map((set) =>
  PATTERN_NAMES.map((pattern) => (set.includes(pattern) ? placeLikelihood(pattern, set) : -Infinity)),
);
