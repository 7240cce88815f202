import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { readDto } from "#contracts/read";
import { SetupDto } from "#contracts/setup";
import { fromBars, type Bar } from "#core/series/series";
import { appendBars } from "../bars/chunks.ts";
import { lockMarket } from "../bars/markets.ts";
import { transact } from "../database/connection.ts";
import { barsAppended } from "../watch/changes.ts";
import { horizonsOf, saveHorizons } from "../desk/horizons.ts";
import { applySteps } from "../desk/marks.ts";
import { composeSection } from "../publishing/section.ts";
import { aMarket, anAnalyst, failureOf, setClock, withTables } from "../testing.ts";
import { dayPlanOf } from "./dayPlan.ts";
import { eveningOf } from "./evening.ts";
import { noteSetup, removeSetup, setupsOf } from "./setups.ts";

withTables();

const DAY = 86_400_000;
const START = Date.UTC(2024, 0, 1);
const bar = (i: number, change: Partial<Bar> = {}): Bar => ({
  time: START + i * DAY,
  open: 100 + (i % 7),
  high: 103 + (i % 7),
  low: 98 + (i % 7),
  close: 101 + (i % 7),
  volume: 1,
  ...change,
});
const rising = (count: number) => Array.from({ length: count }, (_, i) => bar(i));

async function aMarketOf(bars: readonly Bar[], now: number) {
  const market = await aMarket(randomUUID());
  await transact((transaction) =>
    appendBars({ marketId: market.id, base: "P1D", shelf: "live" }, fromBars([...bars]), transaction),
  );
  await setClock(now);
  return market;
}

const level = (price: number, at: number, rung = "P1D") =>
  ({
    id: randomUUID(),
    step: "set",
    version: 0,
    mark: {
      id: randomUUID(),
      kind: "level",
      rung,
      anchors: [{ time: at, price }],
      props: { label: `at ${price}` },
      note: "",
    },
  }) as never;

describe("a day plan", () => {
  it("holds yesterday, live marks, next shifts and proposals within reach as areas, from high to low", async () => {
    const { id } = await anAnalyst();
    const market = await aMarketOf(rising(60), START + 59.5 * DAY);
    await applySteps(market.id, [level(104.5, START + 58 * DAY), level(300, START + 58 * DAY)], id);
    const plan = await dayPlanOf(market.id, id);
    expect(plan.price).toBe(bar(58).close);
    expect(plan.usual).toBe(5);
    // Yesterday's high was reached two days before, too: it is not offered as the previous day's alone.
    const lines = [...plan.areas, ...plan.rest].flatMap((area) => area.lines);
    expect(
      lines.filter(({ top, name }) => top === bar(58).high && /^(Yesterday's|Previous day's) high/.test(name)),
    ).toHaveLength(1);
    expect(lines.filter(({ what }) => what === "mark").map(({ name }) => name)).toEqual(["at 104.5"]);
    expect(plan.further).toBeGreaterThan(0);
    const tops = plan.areas.map(({ top }) => top);
    expect(tops).toEqual([...tops].sort((a, b) => b - a));
    expect(plan.areas.length).toBeGreaterThan(1);
    expect(plan.areas.length).toBeLessThanOrEqual(8);
    // Each thing stands in one area alone.
    expect(new Set(lines.map(({ key }) => key)).size).toBe(lines.length);
    expect(lines.some(({ what }) => what === "proposal")).toBe(true);
  });
  it("of a market without bars is empty and says no price", async () => {
    const { id } = await anAnalyst();
    const { id: bare } = await aMarket();
    expect(await dayPlanOf(bare, id)).toMatchObject({ price: undefined, areas: [], rest: [], further: 0 });
    expect(await eveningOf(bare, id)).toMatchObject({ price: undefined, died: [], formed: [], stands: [] });
  });
});

describe("an evening list", () => {
  it("parts what died today from what had died before and from what stands, and says what ended it", async () => {
    const { id } = await anAnalyst();
    // The day before yesterday closes above 108, today above 120.
    const bars = [
      ...rising(57),
      bar(57, { open: 104, high: 112, low: 103, close: 110 }),
      bar(58, { open: 110, high: 113, low: 108, close: 111 }),
      bar(59, { open: 111, high: 124, low: 110, close: 122 }),
    ];
    const market = await aMarketOf(bars, START + 60.5 * DAY);
    await applySteps(
      market.id,
      [level(108, START + 56 * DAY), level(120, START + 56 * DAY), level(140, START + 56 * DAY)],
      id,
    );
    const { died, stands, since, price } = await eveningOf(market.id, id);
    expect([since, price]).toEqual([START + 59 * DAY, 122]);
    expect(died.map(({ says, end }) => [says.slice(0, 6), end?.sentence, end?.time])).toEqual([
      ["at 120", "Closed above it.", START + 60 * DAY],
    ]);
    expect(stands.map(({ says, distance }) => [says.slice(0, 6), distance])).toEqual([["at 140", 18]]);
  });
});

describe("setups that were not taken", () => {
  const dto = {
    rung: "P1D",
    what: "passed" as const,
    reason: "the release",
    direction: "long" as const,
    entry: 100,
    stop: 99,
    target: 103,
  };
  it("are followed on the bars that came since", async () => {
    const { id } = await anAnalyst();
    const market = await aMarketOf([bar(0), bar(1)], START + 2 * DAY);
    const setup = await noteSetup({ market: market.id, ...dto }, id);
    expect((await setupsOf(id))[0]).toMatchObject({ id: setup, name: market.name, outcome: { end: "open", r: 0 } });
    await transact(async (transaction) => {
      const day = fromBars([bar(2, { open: 100, high: 104, low: 99.5, close: 103.5 })]);
      await appendBars({ marketId: market.id, base: "P1D", shelf: "live" }, day, transaction);
      await barsAppended([await lockMarket(market.id, transaction)], START + 3 * DAY, transaction);
    });
    expect((await setupsOf(id))[0].outcome).toMatchObject({ end: "target", r: 3, at: START + 3 * DAY });
    const { id: other } = await anAnalyst();
    expect((await failureOf(removeSetup(setup, other))).code).toBe("not-found");
    await removeSetup(setup, id);
    expect(await setupsOf(id)).toEqual([]);
  });
  it("with stop and target on the wrong sides, or without a reason, are none", async () => {
    const { id } = await anAnalyst();
    const market = await aMarketOf([bar(0)], START + DAY);
    expect((await failureOf(noteSetup({ market: market.id, ...dto, stop: 101 }, id))).code).toBe("setup");
    expect((await failureOf(noteSetup({ ...dto, market: "nowhere" }, id))).code).toBe("not-found");
    expect(readDto(SetupDto, { market: market.id, ...dto, reason: "" })).toMatchObject({
      ok: false,
      fields: { reason: "A reason has 1 to 500 characters." },
    });
  });
});

describe("the view by horizon", () => {
  it(
    "is chosen from the rungs in use, kept, and frozen into the section of an edition with the analyst's own " +
      "bearings first",
    async () => {
      const { id } = await anAnalyst();
      const market = await aMarketOf(rising(60), START + 59.5 * DAY);
      expect(await horizonsOf(id)).toEqual({ long: ["P1W"], medium: ["P1D"], short: ["PT1H"] });
      await saveHorizons({ long: ["P1W", "P1M"], medium: ["P1D"], short: [] }, id);
      expect(await horizonsOf(id)).toEqual({ long: ["P1M", "P1W"], medium: ["P1D"], short: [] });
      expect((await failureOf(saveHorizons({ long: ["PT7H"], medium: [], short: [] }, id))).code).toBe("rung");
      const bearing = {
        id: randomUUID(),
        step: "set",
        version: 0,
        mark: {
          id: randomUUID(),
          kind: "bearing",
          rung: "P1D",
          anchors: [{ time: START, price: 100 }],
          props: { direction: "down", reasons: "" },
          note: "",
        },
      } as never;
      await applySteps(market.id, [bearing], id);
      const { horizons } = await composeSection(market.id, "P1D", [], id);
      expect(horizons?.find(({ horizon }) => horizon === "medium")).toEqual({
        horizon: "medium",
        direction: "down",
        rungs: [{ rung: "P1D", direction: "down" }],
      });
      expect(horizons?.map(({ horizon }) => horizon)).not.toContain("short");
    },
  );
});
