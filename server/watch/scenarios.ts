import { asInstant } from "#core/observe/instant";
import type { ScenarioFacts } from "#core/scenarios/run";
import type { Market } from "../database/models.ts";

/** What a scenario on a market is followed by, from an instant on. */
export function factsOfWatch(market: Pick<Market, "tick" | "calendar">, since: number): ScenarioFacts {
  return { since: asInstant(since), tick: market.tick, zone: market.calendar.zone };
}
