import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { roomAt } from "#core/areas/areas";
import type { Found } from "#core/finding/found";
import {
  proposalLines,
  shiftLines,
  offeredAreas,
  planAreas,
  withinReach,
  withoutRepeats,
  yesterdayLines,
  type PlanLine,
} from "#core/round/dayPlan";
import { asInstant } from "#core/observe/instant";
import { rulerAt } from "#core/round/ruler";
import { endOfSetup, rewardToRisk, termsOfSetup, type Setup } from "#core/round/setup";
import { rangeUsed, standingOf } from "#core/round/standing";
import { closingNext, doneOf, isDue, nextMarket, nextStop, stopsOf, type Cell } from "#core/round/walk";
import { followTerms } from "#core/scenarios/follow";
import type { Series } from "#core/series/series";
import { days } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

const DAY = 86_400_000;
const START = Date.UTC(2024, 0, 1);

describe("the walk of a round", () => {
  const stops = stopsOf(["tin", "oil"], ["P1D", "PT4H", "PT1H"]);
  it("goes through every rung of one market before the next, and back the same way", () => {
    expect(stops.map(({ market, rung }) => `${market} ${rung}`)).toEqual([
      "tin P1D",
      "tin PT4H",
      "tin PT1H",
      "oil P1D",
      "oil PT4H",
      "oil PT1H",
    ]);
    expect(nextStop(stops, undefined)).toEqual(stops[0]);
    expect(nextStop(stops, stops[2])).toEqual(stops[3]);
    expect(nextStop(stops, stops[5])).toBeUndefined();
    expect(nextStop(stops, stops[3], undefined, -1)).toEqual(stops[2]);
    expect(nextStop(stops, undefined, ({ rung }) => rung === "PT1H")).toEqual(stops[2]);
    // A stop that is in no list any more leads to the first, not to the end.
    expect(nextStop(stops, { market: "gone", rung: "P1D" })).toEqual(stops[0]);
    expect([nextMarket(stops, stops[1]), nextMarket(stops, stops[4])]).toEqual([stops[3], undefined]);
  });
  const cell = (
    market: string,
    rung: string,
    closedAt: number | undefined,
    lookedAt?: number,
    closesAt?: number,
  ): Cell => ({ market, rung, closedAt, lookedAt, closesAt });
  it("a stop is due when a candle closed after the last look, or it was never looked at; without bars never", () => {
    expect([
      isDue(cell("a", "b", 10, 9)),
      isDue(cell("a", "b", 10, 10)),
      isDue(cell("a", "b", 10)),
      isDue(cell("a", "b", undefined)),
    ]).toEqual([true, false, true, false]);
  });
  it("counts stops and whole markets that were looked at", () => {
    const looked = new Set(["tin P1D", "tin PT4H", "tin PT1H", "oil PT4H"]);
    expect(doneOf(stops, ({ market, rung }) => looked.has(`${market} ${rung}`))).toEqual({
      looked: 4,
      of: 6,
      markets: 1,
      ofMarkets: 2,
    });
    expect(doneOf([], () => true)).toEqual({ looked: 0, of: 0, markets: 0, ofMarkets: 0 });
  });
  it("says what closes next, soonest first, what closes together on one line", () => {
    const cells = [
      cell("tin", "P1D", 0, 0, 300),
      cell("tin", "PT1H", 0, 0, 100),
      cell("oil", "PT1H", 0, 0, 100),
      cell("oil", "PT4H", 0, 0, 100),
      cell("old", "P1D", 0, 0, 50),
    ];
    expect(closingNext(cells, 50, 5)).toEqual([
      { at: 100, rungs: ["PT1H", "PT4H"], markets: ["tin", "oil"] },
      { at: 300, rungs: ["P1D"], markets: ["tin"] },
    ]);
    expect(closingNext(cells, 50, 1)).toHaveLength(1);
  });
});

describe("how a market stands to its areas", () => {
  const area = (bottom: number, top: number, rungs: string[]) => ({
    bottom,
    top,
    rungs,
    weight: 3,
    reasons: [],
    own: true,
  });
  const stand = (rung: string, atr: number, bar: [number, number], candle?: "indecision") => ({
    rung,
    atr,
    lastBar: { bottom: bar[0], top: bar[1] },
    candle,
  });
  it("is near on the rungs an area is made of, within half an ATR of each, both ends inclusive", () => {
    const { near, areas, around } = standingOf(
      100,
      [area(102, 103, ["P1D", "PT1H"])],
      [stand("P1D", 4, [99, 102]), stand("PT1H", 3.9, [99, 101]), stand("P1W", 50, [90, 110])],
      days(),
    );
    expect(near).toEqual([{ rung: "P1D", area: 0 }]);
    expect(areas).toMatchObject([{ bottom: 102, distance: 2, own: true }]);
    expect(around).toHaveLength(1);
  });
  it("a candle counts where its bar reached the area; one area on two rungs is one", () => {
    const { near, areas } = standingOf(
      100,
      [area(101, 102, ["P1D", "PT1H"])],
      [stand("P1D", 4, [99, 101], "indecision"), stand("PT1H", 4, [99, 100.9], "indecision")],
      days(),
    );
    expect(near).toEqual([
      { rung: "P1D", area: 0, candle: "indecision" },
      { rung: "PT1H", area: 0 },
    ]);
    expect(areas).toHaveLength(1);
  });
  it("keeps the nearest three areas on each side and those about the price", () => {
    const areas = [80, 85, 90, 95, 99.5, 105, 110, 115, 120].map((bottom) => area(bottom, bottom + 1, ["P1D"]));
    expect(standingOf(100, areas, [], days()).around.map(({ bottom }) => bottom)).toEqual([
      99.5, 95, 105, 90, 110, 85, 115,
    ]);
    expect(standingOf(undefined, areas, [], days())).toMatchObject({
      areas: [],
      near: [],
      around: [],
      range: undefined,
    });
  });
  // Common practice, no source: today's range against the usual one of twenty days.
  it("tells today's range against the mean of up to twenty days before", () => {
    expect(rangeUsed(days([1, 3, 1, 2], [2, 5, 1, 2], [2, 3.5, 2, 3]))).toEqual({ today: 1.5, usual: 3 });
    const long = days(
      ...Array.from({ length: 30 }, (_, i): [number, number, number, number] => [10, i < 9 ? 100 : 12, 10, 11]),
    );
    expect(rangeUsed(long)).toEqual({ today: 2, usual: 2 });
    expect(rangeUsed(days([1, 2, 1, 1]))).toBeUndefined();
  });
});

describe("the quick ruler", () => {
  const areas = [
    { bottom: 90, top: 92 },
    { bottom: 98, top: 101 },
    { bottom: 110, top: 112 },
  ];
  it(
    "stops a tick beyond the area price is in, or the nearest behind, and takes profit at the near edge of " +
      "the next",
    () => {
      expect(rulerAt("long", 100, areas, 2, 0.5)).toEqual({ entry: 100, stop: 97.5, target: 110 });
      expect(rulerAt("short", 100, areas, 2, 0.5)).toEqual({ entry: 100, stop: 101.5, target: 92 });
      expect(rulerAt("long", 105, areas, 2, 0.5)).toEqual({ entry: 105, stop: 97.5, target: 110 });
    },
  );
  it("stands 1.5 ATR away where there is nothing behind, and has no target where there is nothing ahead", () => {
    expect(rulerAt("long", 80, [], 2, 0.5)).toEqual({ entry: 80, stop: 77, target: undefined });
    expect(rulerAt("short", 80, areas, 2, 0.5)).toEqual({ entry: 80, stop: 92.5, target: undefined });
  });
  it("upside down says the mirror", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 0, max: 8 })), { maxLength: 8 }),
        fc.integer({ min: 0, max: 200 }),
        (drawn, price) => {
          const some = drawn.map(([bottom, height]) => ({ bottom, top: bottom + height }));
          const long = rulerAt("long", price, some, 4, 1);
          const short = rulerAt(
            "short",
            300 - price,
            some.map(({ bottom, top }) => ({ bottom: 300 - top, top: 300 - bottom })),
            4,
            1,
          );
          expect(short).toEqual({
            entry: 300 - long.entry,
            stop: 300 - long.stop,
            target: long.target === undefined ? undefined : 300 - long.target,
          });
        },
      ),
    );
  });
  it("reward to risk is of an order that can be: stop behind, target ahead", () => {
    expect(rewardToRisk({ direction: "long", entry: 100, stop: 98, target: 105 })).toBe(2.5);
    expect(rewardToRisk({ direction: "short", entry: 100, stop: 102, target: 97 })).toBe(1.5);
    expect(rewardToRisk({ direction: "long", entry: 100, stop: 101, target: 105 })).toBeUndefined();
    expect(rewardToRisk({ direction: "short", entry: 100, stop: 102, target: 100 })).toBeUndefined();
  });
});

describe("a setup that was not taken", () => {
  const setup: Setup = { what: "passed", reason: "news", direction: "long", entry: 100, stop: 98, target: 104 };
  const follow = (change: Partial<Setup>, bars: Series, since: number) => {
    const calendar = new Calendar(ALL_HOURS);
    const told = { layers: [{ base: { count: 1, unit: "day" as const }, series: bars }], calendar, k: 3 };
    const facts = { since: asInstant(since), tick: 0.01, zone: "UTC" };
    const { events, result } = followTerms(termsOfSetup({ ...setup, ...change }), facts, told);
    return { ...endOfSetup(events), r: result.r };
  };
  it("is followed from the first bar that opens after it: target, stop, or open at the last close", () => {
    const bars = days([100, 105, 97, 100], [100, 103, 99, 102], [102, 104, 101, 103]);
    // The first day had opened before it was noted, and the second opens at the entry.
    expect(follow({}, bars, START + 1)).toEqual({ end: "target", at: START + 3 * DAY, r: 2, ambiguous: false });
    expect(follow({ target: 110 }, bars, START + 1)).toEqual({ end: "open", r: 1.5, ambiguous: false });
  });
  it("a bar with both is stopped and says so; an open beyond the target or short of the stop is missed", () => {
    expect(follow({}, days([100, 105, 97, 100]), START)).toEqual({
      end: "stopped",
      at: START + DAY,
      r: -1,
      ambiguous: true,
    });
    expect(follow({}, days([97, 97.5, 96, 97]), START)).toMatchObject({ end: "missed", r: 0 });
    expect(follow({}, days([105, 106, 104.5, 105]), START)).toMatchObject({ end: "missed", r: 0 });
    expect(follow({ direction: "short", stop: 102, target: 96 }, days([100, 101, 95, 96]), START)).toMatchObject({
      end: "target",
      r: 2,
    });
  });
});

describe("a day plan", () => {
  const line = (bottom: number, top: number, key = `${bottom}`): PlanLine => ({
    key,
    what: "proposal",
    name: "x",
    rungs: ["P1D"],
    bottom,
    top,
  });
  it("holds what price may reach in one and a half usual days", () => {
    const { lines, further } = withinReach(
      [line(90, 91), line(101, 120), line(99, 102), line(95, 99), line(115, 116), line(84, 84.9), line(85, 85)],
      100,
      10,
    );
    expect(lines.map(({ bottom }) => bottom)).toEqual([90, 101, 99, 95, 115, 85]);
    expect(further).toBe(1);
  });
  const ground = { price: 100, tick: 0.01, unit: 4, atrOf: () => 4, isBetter: () => false };
  it("is read as areas, from high to low: what meets is one, what stands alone one of its own", () => {
    const lines = [
      line(103, 104, "a"),
      { ...line(103.5, 104.2, "b"), rungs: ["P1W"] },
      line(108, 108.5, "c"),
      { ...line(96, 96, "d"), what: "mark" as const, kind: "level" },
    ];
    const { areas, rest } = planAreas(lines, ground);
    expect(areas.map((area) => area.lines.map(({ key }) => key))).toEqual([["c"], ["b", "a"], ["d"]]);
    expect(areas[1]).toMatchObject({ bottom: 103, top: 104.2, rungs: ["P1W", "P1D"] });
    expect(rest).toEqual([]);
  });
  it("shows the few that matter: those scenarios and counts rest on, then the nearest, better kinds before", () => {
    const far = Array.from({ length: 9 }, (_, n) => line(104 + 2 * n, 104.1 + 2 * n, `p${n}`));
    const lines = [
      ...far,
      { ...line(90, 90, "s"), what: "scenario" as const },
      { ...line(80, 80, "n"), kind: "count" },
    ];
    const keys = (list: readonly { lines: readonly PlanLine[] }[]) =>
      list.flatMap((one) => one.lines.map(({ key }) => key));
    const { areas, rest } = planAreas(lines, ground);
    expect(keys(areas)).toEqual(["p5", "p4", "p3", "p2", "p1", "p0", "s", "n"]);
    expect(keys(rest)).toEqual(["p8", "p7", "p6"]);
    // A better kind is half an ATR (2.0) nearer: not before one that is more than that nearer.
    const nearest = planAreas(far, { ...ground, isBetter: ({ key }) => key === "p1" }, 1);
    expect(keys(nearest.areas)).toEqual(["p0"]);
    const passed = planAreas(
      [line(104, 104.1, "x"), line(105.5, 105.6, "y")],
      { ...ground, isBetter: ({ key }) => key === "y" },
      1,
    );
    expect(keys(passed.areas)).toEqual(["y"]);
  });
  it("takes of a high band what price would meet, and tells apart what it is inside of", () => {
    // A quarter of an ATR (1.0) from the near edge: 103 to 104. Price stands in 90 to 120; 99.5 to 100.5 is narrow.
    const lines = [line(103, 140, "above"), line(60, 97, "below"), line(90, 120, "wide"), line(99.5, 100.5, "here")];
    const { areas, within } = planAreas(lines, ground);
    expect(areas.map(({ bottom, top }) => [bottom, top])).toEqual([
      [103, 104],
      [99.5, 100.5],
      [96, 97],
    ]);
    // The line itself says what the whole of it is.
    expect(areas[0].lines).toMatchObject([{ bottom: 103, top: 140 }]);
    expect(within.map(({ key }) => key)).toEqual(["wide"]);
  });
  it("names first what is done at a price, then the analyst's marks, then the longest rung", () => {
    const lines = [
      { ...line(103, 104, "year"), rungs: ["P1Y"] },
      { ...line(103, 103.5, "mine"), what: "mark" as const, kind: "zone" },
      { ...line(103.2, 103.2, "enter"), what: "scenario" as const, rungs: [] },
      line(103, 103.6, "day"),
    ];
    expect(planAreas(lines, ground).areas[0].lines.map(({ key }) => key)).toEqual(["enter", "mine", "year", "day"]);
  });
  it("of offers are areas as any: from low to high, so that the room to the nearest is told", () => {
    const fact = (bottom: number) =>
      ({
        ...{ key: `f${bottom}`, step: "zones", kind: "zone", name: "f", bottom, top: bottom + 0.5, freshness: 1 },
        ...{ sources: [], lineage: [{ rung: "P1D", name: "f" }] },
      }) as unknown as Found;
    const areas = offeredAreas([fact(96), fact(104), fact(92), fact(108)], ground);
    expect(areas.map(({ bottom }) => bottom)).toEqual([92, 96, 104, 108]);
    expect(roomAt(areas, 100)).toMatchObject({ above: { bottom: 104 }, below: { bottom: 96 } });
  });
  it("has no line left out because its zone is used up", () => {
    const used = { ...line(103, 104, "u"), fact: { freshness: 0, sources: [] } as never };
    expect(planAreas([used], ground).areas).toHaveLength(1);
  });
  // Common practice, no source: the band is 38.2 % to 61.8 % of yesterday's range.
  it("has yesterday's extremes and the band about its middle", () => {
    expect(yesterdayLines({ bottom: 100, top: 110 }).map(({ bottom, top }) => [bottom, top])).toEqual([
      [110, 110],
      [103.82, 106.18],
      [100, 100],
    ]);
    expect(yesterdayLines(undefined)).toEqual([]);
  });
  it("yesterday's high gives way to the proposal that is the same; another level at its price does not hide it", () => {
    const high = yesterdayLines({ bottom: 100, top: 110 });
    const names = (lines: PlanLine[]) => withoutRepeats(lines).map(({ name }) => name);
    expect(names([...high, { ...line(110, 110), name: "Previous day's high" }])).toEqual([
      "Middle of yesterday, 38.2 to 61.8 %",
      "Yesterday's low",
      "Previous day's high",
    ]);
    expect(names([...high, { ...line(110, 110), name: "Round number" }])).toContain("Yesterday's high");
  });
  it("one price that shifts several rungs is one line; a rung without a trend has none", () => {
    const point = { time: 0, price: 10 };
    const trend = (way: "up" | "down", price: number) => ({
      way,
      since: 0,
      extreme: point,
      line: { time: 0, price },
      origin: point,
    });
    const lines = shiftLines([
      { rung: "P1D", trend: trend("up", 90) },
      { rung: "PT4H", trend: trend("up", 90) },
      { rung: "PT1H", trend: trend("down", 90) },
      { rung: "PT5M", trend: undefined },
    ]);
    expect(lines.map(({ name, rungs }) => [name, rungs])).toEqual([
      ["Structure shifts down by a close beyond", ["P1D", "PT4H"]],
      ["Structure shifts up by a close beyond", ["PT1H"]],
    ]);
  });
  it("offers no structure that is done already, and nothing that only the shortest rungs say", () => {
    const fact = (step: Found["step"], ...rungs: string[]) =>
      ({
        step,
        key: rungs.join(),
        name: "f",
        bottom: 1,
        top: 2,
        lineage: rungs.map((rung) => ({ rung, name: "f" })),
      }) as unknown as Found;
    expect(
      proposalLines([fact("structure", "P1D"), fact("zones", "PT5M", "PT1M"), fact("levels", "PT5M", "PT15M")]).map(
        ({ key }) => key,
      ),
    ).toEqual(["PT5M,PT15M"]);
  });
});
