import { isMotiveWave, judgedAt, PATTERNS, type PriceRule } from "#core/waves/patterns";
import { STRICT, type RuleOptions } from "#core/waves/rules";
import { directionOf, isComplete, SCALES, spine, type Pivot, type Wave } from "#core/waves/wave";

/** Something a count says of the wave in progress, and the price that ends it. */
export interface Statement {
  statement: string;
  /** The statement is dead once a bar is strictly beyond this price on `killSide`. */
  killPrice: number;
  killSide: "below" | "above";
  killRule: string;
  /** Said by the labels as they stand; otherwise it is what is left when that has died. */
  asserted: boolean;
}

export const OWN_START = "a motive wave does not pass its own start";
export const ENDED = "a wave has ended at its label";

/**
 * What the labels of one wave say of how it goes on, the plainest first: that its last wave has ended and the next
 * runs, that the last one still runs, and what bounds the one that runs. Each dies at another price.
 */
export function statementsOf(wave: Pick<Wave, "pattern" | "pivots">, options: RuleOptions = STRICT): Statement[] {
  const said = allOf(wave, options);
  // Of a price that has always been above zero none at zero or below ends anything.
  return wave.pivots.every(({ price }) => price > 0) ? said.filter(({ killPrice }) => killPrice > 0) : said;
}

function allOf(wave: Pick<Wave, "pattern" | "pivots">, options: RuleOptions): Statement[] {
  const { pattern, pivots } = wave;
  const { labels } = PATTERNS[pattern];
  const sign = directionOf(pivots);
  const side = (way: number): Statement["killSide"] => (way > 0 ? "above" : "below");
  const done = pivots.length - 1;
  /** Which way wave n (from 1) goes. */
  const way = (n: number) => (n % 2 === 1 ? sign : -sign);
  const name = (n: number) => `wave ${labels[n - 1]}`;
  const last = pivots[done].price;
  if (isComplete(wave))
    return [
      {
        statement: `${name(done)} has ended`,
        killPrice: last,
        killSide: side(way(done)),
        killRule: ENDED,
        asserted: true,
      },
    ];
  const out: Statement[] = [];
  if (isMotiveWave(pattern, done)) {
    const ended = done === 0 ? `${name(1)} is running` : `${name(done)} has ended, ${name(done + 1)} is running`;
    out.push({
      statement: ended,
      killPrice: last,
      killSide: side(-way(done + 1)),
      killRule: OWN_START,
      asserted: true,
    });
  }
  if (done > 0)
    for (const bound of boundsOf(wave, done, options))
      out.push({ statement: `${name(done)} is still running`, ...bound, killSide: side(way(done)), asserted: false });
  for (const bound of boundsOf(wave, done + 1, options))
    out.push({ statement: `${name(done + 1)} is running`, ...bound, killSide: side(way(done + 1)), asserted: true });
  return out;
}

/** The prices past which wave n (from 1), going on its way from the pivot before it, breaks a rule. */
export function boundsOf(
  { pattern, pivots }: Pick<Wave, "pattern" | "pivots">,
  n: number,
  options: RuleOptions,
): { killPrice: number; killRule: string }[] {
  const sign = directionOf(pivots);
  const way = n % 2 === 1 ? sign : -sign;
  return PATTERNS[pattern].rules
    .filter((rule) => judgedAt(rule) === n)
    .flatMap((rule) => {
      const killPrice = boundOf(rule, pivots, n, way, sign, options);
      return killPrice === undefined ? [] : [{ killPrice, killRule: rule.text }];
    });
}

/** Whether going further breaks a rule, rather than keeping it. */
export function breaksByTravel(rule: PriceRule): boolean {
  return (
    rule.kind === "shorter" ||
    rule.kind === "notShortest" ||
    (rule.kind === "beyond" && rule.way * (rule.pivot % 2 === 1 ? 1 : -1) < 0)
  );
}

function boundOf(
  rule: PriceRule,
  pivots: readonly Pivot[],
  n: number,
  way: number,
  sign: number,
  { scale, overlap }: RuleOptions,
): number | undefined {
  if (!breaksByTravel(rule)) return undefined;
  const { on, off } = SCALES[scale];
  const length = (wave: number) => Math.abs(on(pivots[wave].price) - on(pivots[wave - 1].price));
  if (rule.kind === "beyond")
    return (
      pivots[rule.than].price - (rule.territory ? sign * overlap * Math.abs(pivots[1].price - pivots[0].price) : 0)
    );
  if (rule.kind === "shorter") return off(on(pivots[n - 1].price) + way * length(rule.than));
  if (rule.kind === "notShortest" && length(rule.wave) < length(rule.among[0]))
    return off(on(pivots[n - 1].price) + way * length(rule.wave));
  return undefined;
}

export interface NestedStatement extends Statement {
  /** Waves (from 0) from the root to the one that says it. */
  at: readonly number[];
}

/** Of every wave on the way from the root to the finest wave in progress. */
export function nestedStatements(root: Wave, options: RuleOptions = STRICT): NestedStatement[] {
  return spine(root).flatMap(({ wave, at }) => statementsOf(wave, options).map((statement) => ({ ...statement, at })));
}

/** Whether a bar ends a statement. `basis` says whether a wick is enough or the close must be beyond. */
export function isKilledBy(
  { killPrice, killSide }: Pick<Statement, "killPrice" | "killSide">,
  bar: { high: number; low: number; close: number },
  basis: "wick" | "close" = "wick",
): boolean {
  if (killSide === "below") return (basis === "wick" ? bar.low : bar.close) < killPrice;
  return (basis === "wick" ? bar.high : bar.close) > killPrice;
}
