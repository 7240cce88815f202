import { asInstant } from "#core/observe/instant";
import type { FollowUp } from "#core/scenarios/events";
import { followTerms } from "#core/scenarios/follow";
import type { WholeTerms } from "#core/scenarios/legs";
import type { ScenarioResult } from "#core/scenarios/run";
import { plainLegs } from "#core/testing/plainLegs";
import { plainScenario, type PlainEvent, type PlainResult } from "#core/testing/plainScenario";
import {
  layersOfCase,
  severalOfCase,
  termsOfCase,
  type RandomCase,
  type RandomLegs,
} from "#core/testing/randomScenarios";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { MINUTE } from "#core/time/dates";

const calendar = new Calendar(ALL_HOURS);

/** Events of the legs in their order, each leg's own by themselves; minutes, and the fields that both have. */
interface Both {
  ours: { events: PlainEvent[][]; result: ScenarioResult };
  theirs: { events: PlainEvent[][]; result: PlainResult };
}

/** What the two evaluators make of a case of one entry. */
export function bothEvaluators({ layers, scenario }: RandomCase): Both {
  const { events, result } = plainScenario(layers, scenario);
  const ours = oursOf(layers, termsOfCase(scenario), scenario.since, 1);
  return { ours, theirs: { events: [events], result } };
}

/** What they make of a case of several. */
export function bothOnLegs({ layers, scenario }: RandomLegs): Both {
  const { shared, legs } = scenario;
  return {
    ours: oursOf(layers, severalOfCase(scenario), shared.since, legs.length),
    theirs: plainLegs(layers, scenario),
  };
}

function oursOf(layers: RandomCase["layers"], terms: WholeTerms, since: number, legs: number): Both["ours"] {
  const facts = { since: asInstant(since * MINUTE), tick: 1, zone: "UTC" };
  const { events, result } = followTerms(terms, facts, { layers: layersOfCase({ layers }), calendar, k: 3 });
  const own = Array.from({ length: legs }, (_, n) => events.filter(({ leg = 1 }) => leg === n + 1).map(plainEvent));
  return { events: own, result };
}

function plainEvent({ reason: _, which: __, field: ___, leg: ____, at, knownAt, ...event }: FollowUp): PlainEvent {
  return { ...event, at: at / MINUTE, knownAt: knownAt / MINUTE };
}
