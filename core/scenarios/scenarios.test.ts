import { describe, expect, it } from "vitest";
import { asInstant } from "#core/observe/instant";
import type { FollowUp } from "#core/scenarios/events";
import { followTerms } from "#core/scenarios/follow";
import type { ScenarioResult } from "#core/scenarios/run";
import { termsOf } from "#core/scenarios/terms";
import { fromBars } from "#core/series/series";
import { followUpSentence } from "#core/scenarios/say";
import type { Scenario } from "#core/scenarios/scenario";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

const HOUR = 3_600_000;
const long: Scenario = {
  id: "a",
  title: "A",
  premise: "",
  direction: "long",
  trigger: { event: "closeAbove", price: 100, timeframe: "PT1H" },
  entry: { order: "market", price: 101 },
  stop: 99,
  targets: [
    { price: 103, share: 0.5 },
    { price: 105, share: 0.5 },
  ],
  invalidation: 98,
  expiry: 100 * HOUR,
};

type Row = [open: number, high: number, low: number, close: number];

const calendar = new Calendar(ALL_HOURS);

/** Follows a scenario over hourly bars; each is also a close of the trigger's timeframe. */
function follow(scenario: Scenario, ...rows: Row[]): { events: FollowUp[]; result: ScenarioResult } {
  const series = fromBars(
    rows.map(([open, high, low, close], i) => ({ time: i * HOUR, open, high, low, close, volume: 1 })),
  );
  const told = { layers: [{ base: { count: 1, unit: "hour" as const }, series }], calendar, k: 3 };
  return followTerms(termsOf(scenario), { since: asInstant(0), tick: 0.1, zone: "UTC" }, told);
}
const names = (result: { events: readonly FollowUp[] }) =>
  result.events.map(({ event, target }) => (target ? `${event} ${target}` : event));

const before: Row = [99.5, 100.2, 99.2, 99.8];
const trigger: Row = [99.8, 101, 99.5, 100.5];
const entry: Row = [101, 101.5, 100.5, 101];

describe("what becomes of a scenario", () => {
  it("a wick above the trigger is no close above it", () => expect(names(follow(long, before))).toEqual([]));
  it("a close above triggers, the next open enters", () => {
    const { events } = follow(long, before, trigger, entry);
    expect(events).toEqual([
      { event: "triggered", at: HOUR, knownAt: 2 * HOUR, price: 100.5, step: 1 },
      { event: "entered", at: 2 * HOUR, knownAt: 3 * HOUR, price: 101 },
    ]);
  });
  it("reaches both targets: half of 1 R and half of 2 R", () => {
    const rows: Row[] = [trigger, entry, [101.5, 103.2, 101.2, 103], [103, 105, 102.5, 104]];
    const { events, result } = follow(long, ...rows);
    expect(names({ events })).toEqual(["triggered", "entered", "target 1", "breakEven", "target 2", "completed"]);
    expect(events.at(-1)?.r).toBeCloseTo(1.5, 12);
    expect(result.state).toBe("done");
  });
  it("at 1 R the stop goes to break-even, so coming back costs nothing of the second half", () => {
    const { events } = follow(long, trigger, entry, [101, 103.2, 101, 103], [103, 103, 100, 100]);
    expect(events.at(-1)).toMatchObject({ event: "stopped", price: 101, r: expect.closeTo(0.5, 12) as number });
  });
  it("a stop costs one R", () =>
    expect(follow(long, trigger, entry, [101, 101, 98.9, 99]).events.at(-1)).toMatchObject({
      event: "stopped",
      r: -1,
    }));
  it("a gap through the stop is filled at the open and costs more", () => {
    expect(follow(long, trigger, entry, [97, 98, 96, 97]).events.at(-1)).toMatchObject({
      event: "stopped",
      price: 97,
      r: -2,
    });
  });
  it("one bar with stop and target counts the stop and says so", () => {
    expect(follow(long, trigger, entry, [101, 104, 98.5, 103]).events.at(-1)).toMatchObject({
      event: "stopped",
      r: -1,
      ambiguous: true,
    });
  });
  it("a gap beyond a target is filled at the open", () => {
    expect(
      follow(long, trigger, entry, [104, 104.5, 103.5, 104]).events.find(({ event }) => event === "target"),
    ).toMatchObject({ price: 104 });
  });
  it("a wick strictly beyond the invalidation before an entry ends it; at it, not yet", () => {
    expect(names(follow(long, [99, 99, 97.9, 99]))).toEqual(["invalid"]);
    expect(names(follow(long, [99, 99, 98, 99]))).toEqual([]);
  });
  it("an open beyond the stop is not entered", () =>
    expect(names(follow(long, trigger, [98.5, 99, 98.2, 98.5]))).toEqual(["triggered", "invalid"]));
  it("a limit order waits for its price; on the bar that fills it the way that leaves the least is counted", () => {
    const limit: Scenario = { ...long, entry: { order: "limit", price: 100 } };
    expect(names(follow(limit, trigger, [101, 101.5, 100.5, 101]))).toEqual(["triggered"]);
    const filled = follow(limit, trigger, [101, 104, 100, 103.5]);
    // Every way enters at the low and passes the first target to the close; that price came back to the entry and met
    // the stop that stands there by then is possible, and worth less.
    expect(names(filled)).toEqual(["triggered", "entered", "target 1", "breakEven", "stopped"]);
    expect(filled.result).toMatchObject({ state: "done", ambiguous: true, r: 1.5 });
    expect(filled.result.rBest).toBeCloseTo(1.5 + 0.5 * 3.5, 12);
    // Every way to the low passes entry and stop; whether a target came in between nobody can know.
    const { events, result } = follow(limit, trigger, [101, 104, 98.5, 103]);
    expect(events.at(-1)).toMatchObject({ event: "stopped", r: -1 });
    expect(events.at(-1)).not.toHaveProperty("r", 0);
    expect(result).toMatchObject({ r: -1, state: "done" });
  });
  it("a stop order fills where price trades through it", () => {
    const stop: Scenario = { ...long, entry: { order: "stop", price: 102 } };
    expect(follow(stop, trigger, [101, 102.5, 101, 102]).events.at(-1)).toMatchObject({ event: "entered", price: 102 });
  });
  it("lapses when its time is over without an entry", () =>
    expect(names(follow({ ...long, expiry: HOUR }, before, trigger))).toEqual(["expired"]));
  it("a short is the mirror of a long", () => {
    const mirror = (price: number) => 200 - price;
    const short: Scenario = {
      ...long,
      direction: "short",
      trigger: { ...long.trigger, event: "closeBelow", price: mirror(100) },
      entry: { order: "market", price: mirror(101) },
      stop: mirror(99),
      targets: long.targets.map(({ price, share }) => ({ price: mirror(price), share })),
      invalidation: mirror(98),
    };
    const rows: Row[] = [trigger, entry, [101, 103.2, 101, 103], [103, 103, 100, 100]];
    const turned = rows.map(([open, high, low, close]): Row => [
      mirror(open),
      mirror(low),
      mirror(high),
      mirror(close),
    ]);
    const up = follow(long, ...rows).events;
    expect(follow(short, ...turned).events.map(({ event, r }) => [event, r && Math.round(r * 1e9)])).toEqual(
      up.map(({ event, r }) => [event, r && Math.round(r * 1e9)]),
    );
  });
});

describe("a follow-up in words", () => {
  it("has the price and what it came to", () =>
    expect(
      followUpSentence(
        { event: "stopped", at: asInstant(0), knownAt: asInstant(1), price: 99, r: -1 },
        { decimals: 1 },
      ),
    ).toBe("Stopped at 99.0. \u22121.00 R."));
});
