import { ConditionFault } from "#core/conditions/fields";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { asInstant } from "#core/observe/instant";
import type { FollowUp } from "#core/scenarios/events";
import { followTerms } from "#core/scenarios/follow";
import { readScenarioTerms, type ScenarioTerms } from "#core/scenarios/terms";
import { RequestFault } from "./fault.ts";
import { raw } from "./parameters.ts";
import type { Params, Quantity } from "./quantity.ts";
import { readInstant } from "./request.ts";

/** A scenario over all that the files tell, from the finest bars that cover each stretch. */
export const scenario: Quantity = {
  name: "scenario",
  says: "what becomes of a scenario: its steps, its entry and its outcome, with what is certain of it",
  parameters: [raw("since", "ISO 8601 instant"), raw("scenario", "a scenario, as docs/compute.md says")],
  fields: ["events", "bound", "result"],
  values({ since, scenario: asked }, { layers, calendar, zone, tick }) {
    const terms = readAsked(asked, zone);
    const facts = { since: asInstant(readInstant(since, "since", zone)), tick: tick(), zone: calendar.spec.zone };
    const { events, result } = followTerms(terms, facts, { layers, calendar, k: FINDING_DEFAULTS.k });
    return [{ events: events.map(written), bound: {}, result }];
  },
};

function readAsked(asked: unknown, zone: string): ScenarioTerms {
  try {
    return readScenarioTerms(asked, (value, name) => readInstant(value, name, zone));
  } catch (error) {
    if (error instanceof ConditionFault) throw new RequestFault(error.message);
    throw error;
  }
}

function written({ at, knownAt, ...event }: FollowUp): Params {
  const text = (time: number) => new Date(time).toISOString().replace(".000Z", "Z");
  return { ...event, at: text(at), knownAt: text(knownAt) };
}
