import { closedBars } from "#core/observe/closedBars";
import { NEVER, type Instant } from "#core/observe/instant";
import { Tape, type Moment } from "#core/observe/tape";
import { watch } from "#core/observe/watcher";
import type { FollowUp } from "#core/scenarios/events";
import { resultOf, scenarioWatcher, type ScenarioFacts, type ScenarioResult } from "#core/scenarios/run";
import type { ScenarioTerms } from "#core/scenarios/terms";
import type { Layer } from "#core/series/layers";
import type { Calendar } from "#core/time/calendar";

/** What a market's bars tell: its stored resolutions, by its calendar. */
export interface Told {
  layers: readonly Layer[];
  calendar: Calendar;
  /** Bars on each side of a swing. */
  k: number;
  until?: Instant;
}

/** What becomes of a scenario over all of a market's bars. O(bars). */
export function followTerms(
  terms: ScenarioTerms,
  facts: ScenarioFacts,
  { layers, calendar, k, until = NEVER }: Told,
): { events: FollowUp[]; result: ScenarioResult } {
  const watcher = scenarioWatcher(terms, facts);
  const tape = new Tape({ calendar, tick: facts.tick, k }, watcher.needs);
  const { state, events } = watch(watcher, watcher.start, momentsOf(tape, layers, calendar, until));
  return { events, result: resultOf(terms, facts, state) };
}

function* momentsOf(tape: Tape, layers: readonly Layer[], calendar: Calendar, until: Instant): Generator<Moment> {
  for (const told of closedBars(layers, calendar, undefined, until)) yield tape.next(told);
}
