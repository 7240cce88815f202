import { describe, expect, it } from "vitest";
import { Crowd, type Member } from "#core/observe/crowd";
import { asInstant } from "#core/observe/instant";
import { watch } from "#core/observe/watcher";
import type { FollowUp } from "#core/scenarios/events";
import { momentsOf } from "#core/scenarios/follow";
import { scenarioWatcher, type ScenarioState } from "#core/scenarios/run";
import { readScenarioTerms } from "#core/scenarios/terms";
import { sp500 } from "#core/testing/openData";
import { layersOfCase, RandomScenarios, termsOfCase } from "#core/testing/randomScenarios";
import { allHours, layer } from "#core/testing/told";
import { drawsOf } from "#core/statistics/intervals";
import { DAY, MINUTE } from "#core/time/dates";

type Told = Parameters<typeof momentsOf>[0];
type One = Member<ScenarioState, FollowUp> & { events: FollowUp[]; shown: number };

/** Everybody alone and everybody in the crowd over the same moments; how often the crowd showed somebody a bar. */
function bothWays(watchers: readonly One["watcher"][], told: Told, tick: number): { shown: number; bars: number } {
  const needs = watchers.flatMap((one) => one.needs);
  const moments = [...momentsOf(told, tick, needs)];
  const members = watchers.map((watcher): One => ({
    watcher,
    state: watcher.start,
    from: watcher.since,
    events: [],
    shown: 0,
  }));
  const crowd = new Crowd(members as unknown as (Member & { events: unknown[]; shown: number })[]);
  for (const moment of moments)
    crowd.next(moment, (member, events) => {
      member.events.push(...events);
      member.shown++;
    });
  watchers.forEach((watcher, i) => {
    const alone = watch(watcher, watcher.start, moments);
    expect(members[i].events, `${i}`).toEqual(alone.events);
    expect(members[i].state, `${i}`).toEqual(alone.state);
  });
  return { shown: members.reduce((sum, { shown }) => sum + shown, 0), bars: moments.length };
}

describe("a crowd of watchers", () => {
  it("makes of the same bars what each of them makes alone: random scenarios over mixed resolutions", () => {
    const random = new RandomScenarios(21);
    let events = 0;
    for (let round = 0; round < 30; round++) {
      const cases = Array.from({ length: 20 }, () => random.next());
      const watchers = cases.map((one) =>
        scenarioWatcher(termsOfCase(one.scenario), {
          since: asInstant(one.scenario.since * MINUTE),
          tick: 1,
          zone: "UTC",
        }),
      );
      const told = { layers: layersOfCase(cases[0]), calendar: allHours, k: 3 };
      events += bothWays(watchers, told, 1).shown;
    }
    expect(events).toBeGreaterThan(1000);
  });
  it("shows few of them a bar of years of days: orders, and what waits for weeks (S&P 500, vega-datasets)", () => {
    const series = sp500();
    const draw = drawsOf(3);
    const since = asInstant(series.time[100] + DAY);
    const watchers = Array.from({ length: 200 }, (_, n) => {
      const at = series.close[100] * (0.7 + draw(60) / 100);
      const long = n % 2 === 0;
      const sign = long ? 1 : -1;
      const steps = [
        [],
        [{ when: { on: "close", side: long ? "above" : "below", price: at, rung: "P1W" } }],
        [{ when: { on: "shift", direction: long ? "up" : "down", rung: "P1W" } }],
      ][n % 3];
      const terms = {
        direction: long ? "long" : "short",
        if: steps,
        entry: { order: n % 5 === 0 ? "stop" : "limit", price: at },
        stop: at * (1 - sign * 0.1),
        targets: [{ price: at * (1 + sign * 0.2), share: 1 }],
        wrong: at * (1 - sign * 0.15),
        expires: n % 7 === 0 ? since + 400 * DAY : 8e15,
        through: n % 4,
      };
      return scenarioWatcher(readScenarioTerms(terms, Number), { since, tick: 0.01, zone: "UTC" });
    });
    const told = { layers: [layer("P1D", series)], calendar: allHours, k: 3 };
    const { shown, bars } = bothWays(watchers, told, 0.01);
    expect(shown).toBeLessThan((watchers.length * bars) / 4);
  });
});
