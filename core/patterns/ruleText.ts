import type { PatternRule } from "#core/patterns/shape";

/** A rule with its number and what it must keep: "given back, share of the pole 0.38, must be 0.1 to 0.5". */
export function ruleText({ rule, value, least, most, holds }: PatternRule): string {
  return `${rule} ${valueText(value)}, ${holds ? "" : "must be "}${boundsText({ least, most })}`;
}

/** "at least 3", "at most 0.5", "0.1 to 0.5". */
export function boundsText({ least, most }: Pick<PatternRule, "least" | "most">): string {
  if (Number.isFinite(least) && Number.isFinite(most)) return `${valueText(least)} to ${valueText(most)}`;
  return Number.isFinite(least) ? `at least ${valueText(least)}` : `at most ${valueText(most)}`;
}

/** A ratio with as many decimals as it needs; a dash where it was not measured. */
export const valueText = (value: number): string =>
  Number.isFinite(value)
    ? String(Number(value.toFixed(Math.abs(value) < 10 ? 2 : 1))).replace("-", "\u2212")
    : "\u2013";
