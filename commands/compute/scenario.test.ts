import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { SP500_FILE } from "#core/testing/openData";
import { compute } from "./compute.ts";

const folder = mkdtempSync(join(tmpdir(), "compass-scenario-"));
afterAll(() => rmSync(folder, { recursive: true }));
const file = (text: string) => {
  const path = join(folder, `${Math.random()}.csv`);
  writeFileSync(path, text);
  return path;
};
const ask = (...list: object[]) =>
  compute({ bars: { file: SP500_FILE }, ask: list }).answers.map(({ values }) => values);

describe("a scenario", () => {
  const days = file(
    "date,open,high,low,close\n2024-01-01,98,99,97,98\n2024-01-02,98,102,97,101\n2024-01-03,101,106,94,104",
  );
  const hours = file(
    "time,open,high,low,close\n2024-01-03T00:00Z,101,106,101,106\n" +
      "2024-01-03T01:00Z,106,106,94,94\n2024-01-03T02:00Z,94,104,94,104",
  );
  const scenario = {
    direction: "long",
    if: [{ when: { on: "close", side: "above", price: 100, rung: "P1D" } }],
    entry: { order: "market", price: 101 },
    stop: 95,
    targets: [
      { price: 105, share: 0.5 },
      { price: 110, share: 0.5 },
    ],
    breakEven: { after: "target" },
    wrong: 90,
    expires: "2024-02-01T00:00:00Z",
  };
  const follow = (bars: unknown, change: object = {}) => {
    const asked = { quantity: "scenario", since: "2024-01-01T00:00:00Z", scenario: { ...scenario, ...change } };
    return compute({ bars, ask: [asked] } as never).answers[0].values[0];
  };
  it("is told each stretch once, from the finest file that covers it", () => {
    const coarse = follow({ file: days });
    expect(coarse).toEqual({
      events: [
        { event: "triggered", price: 101, step: 1, at: "2024-01-02T00:00:00Z", knownAt: "2024-01-03T00:00:00Z" },
        { event: "entered", price: 101, at: "2024-01-03T00:00:00Z", knownAt: "2024-01-04T00:00:00Z" },
        {
          event: "stopped",
          price: 95,
          r: -1,
          at: "2024-01-03T00:00:00Z",
          knownAt: "2024-01-04T00:00:00Z",
          ambiguous: true,
        },
      ],
      bound: {},
      result: {
        r: -1,
        rBest: expect.closeTo(1 / 3, 9) as number,
        best: 0,
        worst: -1,
        ambiguous: true,
        state: "done",
      },
    });
    const fine = follow([{ file: days }, { file: hours, timeframe: "PT1H" }]);
    expect((fine.events as { event: string }[]).map(({ event }) => event)).toEqual([
      "triggered",
      "entered",
      "target",
      "breakEven",
      "stopped",
    ]);
    expect(fine.result).toMatchObject({ r: expect.closeTo(1 / 3, 9) as number, state: "done" });
  });
  it("binds prices to what its steps leave, and tells when they were known", () => {
    const asked = { entry: { order: "market" }, stop: { bind: "barLow", step: 1, ticks: -1 }, leastReward: 0.5 };
    const { bound, events } = follow({ file: days }, asked);
    // The tick that the file shows is 1.
    expect(bound).toEqual({ stop: { price: 96, knownAt: "2024-01-03T00:00:00Z" } });
    expect((events as object[]).slice(-1)).toMatchObject([{ event: "stopped", price: 96 }]);
  });
  it("looks at other markets, whose bars are named beside its own", () => {
    const when = { on: "market", market: "Tin", when: { on: "close", side: "above", price: 50, rung: "P1D" } };
    const tin = file("date,open,high,low,close\n2024-01-01,49,50,48,49\n2024-01-02,49,52,49,51");
    const asked = { quantity: "scenario", since: "2024-01-01T00:00:00Z", scenario: { ...scenario, if: [{ when }] } };
    const ask = (also: object) => compute({ bars: { file: days }, also, ask: [asked] } as never).answers[0].values[0];
    expect((ask({ Tin: { file: tin } }).events as object[])[0]).toMatchObject({
      event: "triggered",
      price: 101,
      knownAt: "2024-01-03T00:00:00Z",
    });
    expect(() => ask({})).toThrow(/no bars of "Tin"/);
    expect(() => ask({ Tin: { fil: tin } })).toThrow(/"also\.Tin" has no field "fil"/);
  });
  it("a line's anchors are labels: a date alone is the same day in every zone", () => {
    const line = ["2024-01-01", "2024-01-02"].map((time, i) => ({ time, price: 99 + i }));
    const price = { line, rung: "P1D" };
    const change = { if: [{ when: { on: "close", side: "above", price, rung: "P1D" } }] };
    for (const timezone of ["UTC", "Asia/Tokyo", "America/New_York"])
      expect((follow({ file: days, timezone }, change).events as object[])[0], timezone).toMatchObject({
        event: "triggered",
        price: 101,
      });
  });
  it("over the past: every time it was triggered, and chance beside it, the seed deciding what is drawn", () => {
    const rule = {
      ...scenario,
      if: [{ when: { on: "shift", direction: "up", rung: "P1D" } }],
      entry: { order: "market" },
      stop: { bind: "swing", step: 1, ticks: -1 },
      targets: [{ price: { bind: "midOfLeg", step: 1, ratio: -1 }, share: 1 }],
      wrong: { bind: "swing", step: 1, ticks: -1 },
      expires: "P90D",
    };
    const past = (seed: number) =>
      ask({ quantity: "scenarioHistory", scenario: rule, from: "2002-01-01", to: "2008-01-01", seed, draws: 50 })[0][0];
    const { instances, summary, chance } = past(1) as unknown as Record<string, { since: string; n: number }[]>;
    expect(instances.length).toBeGreaterThan(5);
    expect(instances.every(({ since }) => since >= "2002" && since < "2008")).toBe(true);
    expect(summary).toMatchObject({
      hitRate: expect.any(Number) as number,
      interval: [expect.any(Number), expect.any(Number)],
    });
    expect(past(1)).toEqual({ instances, summary, chance });
    expect(past(2).chance).not.toEqual(chance);
    const legs = { ...rule, legs: [{ risk: 1, entry: rule.entry, stop: 1, targets: rule.targets }] };
    const { entry: _e, stop: _s, targets: _t, breakEven: _b, ...several } = legs;
    expect(() => ask({ quantity: "scenarioHistory", scenario: several })).toThrow(/several legs/);
  });
  it("that is nonsense is a fault in one sentence", () => {
    expect(() => follow({ file: days }, { direction: "up" })).toThrow(
      /"scenario\.direction" must be "long" or "short"/,
    );
    expect(() => follow({ file: days }, { tragets: [] })).toThrow(/"scenario\.tragets" is not known/);
    expect(() => follow({ file: days }, { targets: [{ price: 1, share: 0.5 }] })).toThrow(/sum to 0\.5/);
    expect(() => follow({ file: days }, { if: [{ when: { on: "closes" } }] })).toThrow(/"scenario\.if\[0\]\.when\.on"/);
    expect(() => follow({ file: days }, { expires: "soon" })).toThrow(/"scenario\.expires"/);
    expect(() => follow([{ file: days }, { file: days }])).toThrow(/two files of P1D/);
    expect(() => follow([])).toThrow(/names no file/);
  });
});
