import { ConditionFault, type ReadInstant } from "#core/conditions/fields";
import type { WholeTerms } from "#core/scenarios/legs";
import { readWholeTerms } from "#core/scenarios/readLegs";
import type { Scenario } from "#core/scenarios/scenario";
import { isInstant } from "#core/time/dates";
import { isFormer, writtenOf } from "#core/written/former";
import { contractOf } from "#core/written/ground";
import type { Frozen, Written } from "#core/written/written";

/** An instant as terms hold it: ISO 8601 in UTC, or milliseconds. */
const instantOf: ReadInstant = (value, path) => {
  const time = typeof value === "string" ? Date.parse(value) : value;
  if (typeof time !== "number" || !isInstant(time))
    throw new ConditionFault(`"${path}" must be an instant such as 2015-03-01T12:00:00Z.`);
  return time;
};

/** Terms that can be followed, of a scenario that is being written. Throws a `ConditionFault` with one sentence. */
export function termsOfWritten({ terms }: Pick<Written, "terms">): WholeTerms {
  return readWholeTerms(contractOf(terms), instantOf);
}

/** Terms from data that was stored as the contract has them. Throws a `ConditionFault` where they are none. */
export const termsOfContract = (raw: unknown): WholeTerms => readWholeTerms(raw, instantOf);

/** Terms of a scenario that was published, in whichever format. Throws a `ConditionFault` where it is none. */
export function termsOfFrozen(frozen: Frozen | Scenario): WholeTerms {
  return isFormer(frozen) ? termsOfWritten(writtenOf(frozen)) : termsOfContract(frozen.terms);
}
