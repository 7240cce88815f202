import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { followMark } from "#core/marks/follow";
import type { Mark } from "#core/marks/kind";
import { markKinds } from "#core/marks/registry";
import { lifeWatcher } from "#core/marks/watcher";
import { watch } from "#core/observe/watcher";
import { resample } from "#core/series/resample";
import type { Series } from "#core/series/series";
import { calendar, contextOf, sampled } from "#core/testing/marks";
import { sp500, walk } from "#core/testing/openData";
import { layer, momentsOf } from "#core/testing/told";
import { parseTimeframe } from "#core/time/timeframe";

/** Told over the stream, and followed over the rung's bars: the same state and the same events. */
function both(one: Mark, told: Series, rung: Series) {
  const context = contextOf(rung);
  const watcher = lifeWatcher(one, context);
  const { state, events } = watch(watcher, watcher.start, momentsOf([layer("P1D", told)], watcher.needs, calendar));
  const life = followMark(one, context);
  return {
    told: { state, events: events.map(({ at: _, knownAt: __, ...event }) => event) },
    followed: { state: life.state, events: life.events },
    knownAt: events.map(({ knownAt }) => knownAt),
  };
}

describe("a mark's life as a watcher", () => {
  const steps = fc.array(
    fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
    { minLength: 8, maxLength: 60 },
  );
  it.each(markKinds.map(({ kind }) => kind))("%s: is what following it over its bars makes of it", (kind) => {
    fc.assert(
      fc.property(steps, fc.nat(3), fc.integer({ min: -3, max: 3 }), (drawn, later, higher) => {
        const series = walk(drawn);
        const { told, followed } = both(sampled(kind, later, higher), series, series);
        expect(told).toEqual(followed);
      }),
      { numRuns: 40 },
    );
  });
  it("a weekly level's over days is known with the close that ends each week (S&P 500, vega-datasets)", () => {
    const days = sp500();
    const week = parseTimeframe("P1W");
    if (!week) throw new Error("no week");
    const weeks = resample(days, { count: 1, unit: "day" }, week, calendar);
    const at = 120;
    const one = {
      ...sampled("level", 0, 0),
      rung: "P1W",
      anchors: [{ time: weeks.time[at], price: weeks.low[at] }],
    };
    const { told, followed, knownAt } = both(one, days, weeks);
    expect(told.events.length).toBeGreaterThan(2);
    expect(told).toEqual(followed);
    // Each is known after the week it happened in was opened, and within eight days of that.
    const waited = told.events.map(({ time }, i) => (knownAt[i] - time) / 86_400_000);
    expect(waited.every((n) => n >= 5 && n <= 8)).toBe(true);
  });
});
