import type { Written } from "#core/written/written";
import { plainOf } from "#core/written/written";

/** Scenarios of one market that stand beside each other. */
export interface ScenarioSet<T> {
  /** Preferred first, then by weight. */
  members: T[];
  /** Percent left for none of them; below 0 when their weights sum to more than 100. */
  neither: number;
  /** Ways of either-or: both sides of one level, of which the first to come counts. */
  pairs: [T, T][];
}

type Member = Pick<Written, "id" | "role" | "weight" | "pair">;

/** A market's scenarios as one set. */
export function setOf<T extends Member>(scenarios: readonly T[]): ScenarioSet<T> {
  const order = ({ role }: T) => (role === "preferred" ? 0 : 1);
  const members = [...scenarios].sort((a, b) => order(a) - order(b) || b.weight - a.weight || a.id.localeCompare(b.id));
  const pairs = members.flatMap((one): [T, T][] => {
    const other = members.find(({ id }) => id === one.pair);
    return other && one.id < other.id ? [[one, other]] : [];
  });
  return { members, neither: 100 - members.reduce((sum, { weight }) => sum + weight, 0), pairs };
}

/** What is wrong with a set, in a sentence; `undefined` when nothing is. */
export function setProblem(members: readonly Pick<Written, "role" | "weight">[]): string | undefined {
  const whole = members.reduce((sum, { weight }) => sum + weight, 0);
  if (whole > 100) return `Their weights sum to ${whole} %, which leaves less than nothing for neither.`;
  if (members.filter(({ role }) => role === "preferred").length > 1)
    return "Only one of them can be the preferred one.";
  return undefined;
}

/**
 * What separates two scenarios: the price at which the first is wrong, or stopped, and the other may go on; `undefined`
 * where neither is known.
 */
export function separates(one: Separable, other: Separable): number | undefined {
  if (one.direction === other.direction) return undefined;
  return one.wrong ?? other.wrong;
}

/** What of a scenario tells it from another one. */
export interface Separable {
  direction: "long" | "short";
  wrong: number | undefined;
}

export function separableOf({ terms: { direction, wrong } }: Pick<Written, "terms">): Separable {
  return { direction, wrong: plainOf(wrong) };
}
