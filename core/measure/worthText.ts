import type { Found } from "#core/finding/found";
import { percentText } from "#core/marks/wording";
import type { MeasuredKind } from "#core/measure/measured";
import { RATE_KINDS } from "#core/measure/occurrences";
import type { BaseRate } from "#core/measure/rates";
import type { PatternWorth } from "#core/measure/patternWorth";
import { FEW, type Verdict } from "#core/measure/verdict";
import type { KindWorth, RungWorth } from "#core/measure/worth";

export const VERDICTS: Readonly<Record<Verdict, string>> = {
  better: "better than chance",
  worse: "worse than chance",
  same: "no better than chance",
  few: "too few to tell",
};

/** Kinds in the words of a table. */
export const KIND_NAMES: Readonly<Record<MeasuredKind, string>> = {
  zone: "Supply and demand zones",
  orderBlock: "Order blocks",
  range: "Ranges that were left",
  gap: "Fair value gaps",
  equalLevel: "Equal highs and lows",
  periodExtreme: "Highs and lows of past periods",
  pivot: "Pivots of the month",
};

/** What is known of a finding at its birth, in words. */
export const FEATURE_NAMES: Readonly<Record<string, string>> = {
  itself: "being one at all",
  width: "its width",
  distance: "its distance from price",
  move: "the move away over 20 bars",
  place: "its place in 100 bars",
  trend: "lying with the trend",
  broke: "a break of structure left behind",
  volatility: "a volatile time",
  volume: "volume of its bar",
  departure: "how fast price left it",
  bars: "how many bars made it",
};

/** "Respected 31 times of 58; random bands 50 %: no better than chance". */
export function worthText({ n, share, chance, verdict }: KindWorth): string {
  if (n < FEW || share === undefined || chance.share === undefined)
    return `${timesText("met", n)} so far: ${VERDICTS.few}`;
  return (
    `Respected ${Math.round(share * n)} times of ${n}; ` +
    `random bands ${percentText(chance.share, 0)}: ${VERDICTS[verdict]}`
  );
}

/** "Met 4 times", "Met once", "Never met". */
function timesText(verb: string, n: number): string {
  if (n === 0) return `Never ${verb}`;
  return `${verb[0].toUpperCase()}${verb.slice(1)} ${n === 1 ? "once" : `${n} times`}`;
}

/** "After a sweep taken back price went on first 34 times of 61; after any bar 51 %: no better than chance". */
export function rateText({ kind, n, share, chance, verdict }: BaseRate): string {
  const after = `After ${RATE_KINDS[kind]}`;
  if (n < FEW || share === undefined || chance === undefined)
    return `${after}: ${n === 1 ? "one case" : `${n} cases`}, ${VERDICTS.few}`;
  return (
    `${after} price went on first ${Math.round(share * n)} times of ${n}; ` +
    `after any bar ${percentText(chance, 0)}: ${VERDICTS[verdict]}`
  );
}

/**
 * "Met its target before its stop 9 times of 20; at random bars 48 %: no better than chance. Found 23 times; shuffled
 * bars hold 36".
 */
export function patternText({ n, share, chance, verdict, found, byChance }: PatternWorth): string {
  const often = `Found ${found === 1 ? "once" : `${found} times`}; shuffled bars hold ${Math.round(byChance)}`;
  if (n < FEW || share === undefined || chance.share === undefined)
    return `${timesText("decided", n)} so far: ${VERDICTS.few}. ${often}`;
  return (
    `Target before stop ${Math.round(share * n)} times of ${n}; at random bars ${percentText(chance.share, 0)}: ` +
    `${VERDICTS[verdict]}. ${often}`
  );
}

/** "Ones like it 6 of 100 more often than random bands", where what was known of it tells anything. */
export function estimateText(grade: number): string {
  const of100 = Math.round(Math.abs(grade) * 100);
  if (of100 === 0) return "ones like it as often as random bands";
  return `ones like it ${of100} of 100 ${grade > 0 ? "more" : "less"} often than random bands`;
}

/** What is known of the worth of a finding's kind on its rung, and of ones like it. */
export interface FoundWorth {
  worth: KindWorth;
  grade?: number;
}

/** The worth of a finding, from what was measured on its rung; nothing where its kind never was. */
export function worthOfFound(
  { measured, rung, bottom, top, knownAt }: Pick<Found, "measured" | "rung" | "bottom" | "top" | "knownAt">,
  rungs: readonly RungWorth[],
): FoundWorth | undefined {
  const own = measured && rungs.find((one) => one.rung === rung);
  const worth = own?.kinds.find(({ kind }) => kind === measured);
  if (!own || !worth) return undefined;
  const like = own.estimates.find(
    (one) => one.kind === measured && one.knownAt === knownAt && one.bottom === bottom && one.top === top,
  );
  return { worth, ...(like ? { grade: like.grade } : {}) };
}

/**
 * What findings like this one were worth on its rung, in a sentence without its full stop: as areas, occurrences or
 * patterns, and that it is being measured or is not. Nothing for what is of no kind that is ever measured.
 */
export function worthSays(
  fact: Found,
  { rungs, measuring }: { rungs: readonly RungWorth[]; measuring: readonly string[] },
): string | undefined {
  const known = worthOfFound(fact, rungs);
  if (known) return `${worthText(known.worth)}${known.grade === undefined ? "" : `; ${estimateText(known.grade)}`}`;
  const rate = rateOfFound(fact, rungs);
  if (rate) return rateText(rate);
  const pattern = patternOfFound(fact, rungs);
  if (pattern) return patternText(pattern);
  if (fact.measured === undefined && fact.rate === undefined && fact.kind !== "pattern") return undefined;
  return `What its kind was worth here is ${measuring.includes(fact.rung) ? "being measured" : "not measured"}`;
}

/** How often what a finding is an occurrence of went on, on its rung. */
export function rateOfFound({ rate, rung }: Pick<Found, "rate" | "rung">, rungs: readonly RungWorth[]) {
  return rate && rungs.find((one) => one.rung === rung)?.rates.find(({ kind }) => kind === rate);
}

/** What patterns of a finding's name were worth on its rung. */
export function patternOfFound(
  { kind, props, rung }: Pick<Found, "kind" | "props" | "rung">,
  rungs: readonly RungWorth[],
) {
  if (kind !== "pattern") return undefined;
  return rungs.find((one) => one.rung === rung)?.patterns.find(({ name }) => name === props.pattern);
}
