import { ConditionFault, type ReadInstant } from "#core/conditions/fields";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { asInstant, EVER, NEVER } from "#core/observe/instant";
import type { FollowUp } from "#core/scenarios/events";
import { followTerms, type Told } from "#core/scenarios/follow";
import { scenarioHistory } from "#core/scenarios/history";
import type { WholeTerms } from "#core/scenarios/legs";
import { readWholeTerms } from "#core/scenarios/readLegs";
import type { BoundPrices } from "#core/scenarios/prices";
import { nominalLength, parseTimeframe } from "#core/time/timeframe";
import { RequestFault } from "./fault.ts";
import { raw, whole } from "./parameters.ts";
import type { Params, Quantity } from "./quantity.ts";
import { readInstant, type Input } from "./request.ts";

/** A scenario over all that the files tell, from the finest bars that cover each stretch. */
export const scenario: Quantity = {
  name: "scenario",
  says: "what becomes of a scenario: its steps, its entry and its outcome, with what is certain of it",
  parameters: [raw("since", "ISO 8601 instant"), raw("scenario", "a scenario, as docs/compute.md says")],
  fields: ["events", "bound", "result"],
  values({ since, scenario: asked }, input) {
    const terms = readAsked(asked, (value, name) => readInstant(value, name, input.zone));
    const facts = { ...factsOf(input), since: asInstant(readInstant(since, "since", input.zone)) };
    const { events, bound, result } = named(() => followTerms(terms, facts, toldOf(input)));
    return [{ events: events.map(written), bound: boundText(bound), result }];
  },
};

/** The same rule over all of the past, against entries at random times. */
export const history: Quantity = {
  name: "scenarioHistory",
  says: "every time a scenario was triggered, what became of it, and what entries at random times came to",
  parameters: [
    raw("scenario", "a scenario; its expires may be a duration, counted from when it begins to look"),
    raw("from", "ISO 8601 instant", ""),
    raw("to", "ISO 8601 instant", ""),
    whole("seed", 1),
    whole("draws", 1000),
  ],
  fields: ["instances", "summary", "chance"],
  values({ scenario: asked, from, to, seed, draws }, input) {
    let life: number | undefined;
    const terms = readAsked(asked, (value, name) => {
      const span = name === "scenario.expires" && typeof value === "string" ? parseTimeframe(value) : undefined;
      if (!span) return readInstant(value, name, input.zone);
      life = nominalLength(span);
      return NEVER;
    });
    if ("legs" in terms) throw new RequestFault("The history of a scenario of several legs is not worked out.");
    const at = (value: unknown, name: string, missing: number) =>
      asInstant(value === "" ? missing : readInstant(value, name, input.zone));
    const found = named(() =>
      scenarioHistory(terms, factsOf(input), toldOf(input), {
        from: at(from, "from", EVER),
        to: at(to, "to", NEVER),
        ...(life === undefined ? {} : { life }),
        seed: seed as number,
        draws: Math.min(draws as number, 100_000),
      }),
    );
    if (!found) return [];
    const instances = found.instances.map(({ since, events, bound, result }) => ({
      since: timeText(since),
      events: events.map(written),
      bound: boundText(bound),
      result,
    }));
    return [{ instances, summary: found.summary, chance: found.chance }];
  },
};

const factsOf = ({ calendar, tick }: Input) => ({ tick: tick(), zone: calendar.spec.zone });

function toldOf({ layers, calendar, also }: Input): Told {
  const { k } = FINDING_DEFAULTS;
  const others = Object.entries(also).map(([name, other]) => [name, { ...other, calendar, k, tick: other.tick() }]);
  return { layers, calendar, k, also: Object.fromEntries(others) as Told["also"] & object };
}

function readAsked(asked: unknown, moment: ReadInstant): WholeTerms {
  return named(() => readWholeTerms(asked, moment));
}

/** What is wrong with a scenario is a fault of the request. */
function named<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof ConditionFault) throw new RequestFault(error.message);
    throw error;
  }
}

const timeText = (time: number) => new Date(time).toISOString().replace(".000Z", "Z");

function written({ at, knownAt, ...event }: FollowUp): Params {
  return { ...event, at: timeText(at), knownAt: timeText(knownAt) };
}

function boundText(bound: BoundPrices): Params {
  return Object.fromEntries(
    Object.entries(bound).map(([field, { price, knownAt }]) => [field, { price, knownAt: timeText(knownAt) }]),
  );
}
