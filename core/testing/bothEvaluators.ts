import { asInstant } from "#core/observe/instant";
import type { FollowUp } from "#core/scenarios/events";
import { followTerms } from "#core/scenarios/follow";
import type { ScenarioResult } from "#core/scenarios/run";
import { plainScenario, type PlainEvent, type PlainResult } from "#core/testing/plainScenario";
import { layersOfCase, termsOfCase, type RandomCase } from "#core/testing/randomScenarios";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { MINUTE } from "#core/time/dates";

const calendar = new Calendar(ALL_HOURS);

type Said = Omit<FollowUp, "at" | "knownAt" | "reason" | "which"> & { at: number; knownAt: number };

/** What the two evaluators make of a case, in the fields and the minutes that both have. */
export function bothEvaluators(one: RandomCase): {
  ours: { events: Said[]; result: ScenarioResult };
  theirs: { events: PlainEvent[]; result: PlainResult };
} {
  const facts = { since: asInstant(one.scenario.since * MINUTE), tick: 1, zone: "UTC" };
  const { events, result } = followTerms(termsOfCase(one), facts, { layers: layersOfCase(one), calendar, k: 3 });
  const said = events.map(({ reason: _, which: __, at, knownAt, ...event }) => ({
    ...event,
    at: at / MINUTE,
    knownAt: knownAt / MINUTE,
  }));
  return { ours: { events: said, result }, theirs: plainScenario(one.layers, one.scenario) };
}
