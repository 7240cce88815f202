import { waitingOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import type { Mark } from "#core/marks/kind";
import { lengthOf } from "#core/marks/shown";

/** Patterns that wait for an answer on longer rungs: in sight here, answered on their own. */
export function patternsOfLonger(facts: readonly Found[], marks: readonly Mark[], rung: string): Found[] {
  const isLonger = ({ lineage }: Found) => lineage.every((one) => lengthOf(one.rung) > lengthOf(rung));
  return waitingOf(
    facts.filter((fact) => fact.kind === "pattern" && isLonger(fact)),
    marks,
  );
}
