import type { Watcher } from "#core/observe/watcher";
import { termsOfSetup, type Setup } from "#core/round/setup";
import type { FollowUp } from "#core/scenarios/events";
import { scenarioWatcher, type ScenarioState } from "#core/scenarios/run";
import { SetupRow, type Market } from "../database/models.ts";
import type { Kind, Watched } from "./kind.ts";
import { factsOfWatch } from "./scenarios.ts";

/** What was passed or missed is followed as the scenario it would have been; what became of it stays in its state. */
export interface SetupState {
  run: ScenarioState;
  events: readonly FollowUp[];
}

export const setups: Kind = {
  async prepare(market, rows, transaction) {
    const ids = rows.map(({ subject }) => subject);
    const found = new Map((await SetupRow.findAll({ where: { id: ids }, transaction })).map((row) => [row.id, row]));
    return rows.map((row) => {
      const setup = found.get(row.subject)?.setup;
      if (!setup) return "gone";
      const watched: Watched<SetupState, FollowUp> = {
        row,
        watcher: setupWatcher(setup, market, row.since),
        keep: (events) => Promise.resolve(events.length),
      };
      return watched as Watched;
    });
  },
};

export function setupWatcher(
  setup: Setup,
  market: Pick<Market, "tick" | "calendar">,
  since: number,
): Watcher<SetupState, FollowUp> {
  const inner = scenarioWatcher(termsOfSetup(setup), factsOfWatch(market, since));
  return {
    ...inner,
    start: { run: inner.start, events: [] },
    isDone: ({ run }) => inner.isDone(run),
    quiet: ({ run }) => inner.quiet?.(run),
    next({ run, events: before }, moment) {
      const { state, events } = inner.next(run, moment);
      return { state: { run: state, events: events.length > 0 ? [...before, ...events] : before }, events };
    },
  };
}
