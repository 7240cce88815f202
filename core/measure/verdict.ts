import type { Interval } from "#core/statistics/intervals";

/** Below this many decided cases nothing is said of what something is worth. */
export const FEW = 20;

/** Whether something fared better or worse than chance; "few" where there are too few cases to tell. */
export type Verdict = "better" | "worse" | "same" | "few";

/** Better or worse only where the whole 95 % interval of the difference from chance lies on one side of none. */
export function verdictOf(n: number, difference: Interval | undefined): Verdict {
  if (n < FEW || !difference) return "few";
  const [low, high] = difference;
  return low > 0 ? "better" : high < 0 ? "worse" : "same";
}
