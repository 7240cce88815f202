import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import type { StepDto } from "#contracts/mark";
import { writtenOf } from "#core/written/former";
import type { Scenario } from "#core/scenarios/scenario";
import { appendBars } from "../bars/chunks.ts";
import { findMarket } from "../bars/markets.ts";
import { transact } from "../database/connection.ts";
import { aMarket, anAnalyst, failureOf, minutes, setClock, withTables } from "../testing.ts";
import { applySteps, marksAt } from "./marks.ts";
import { saveScenario, scenariosAt } from "./scenarios.ts";

withTables();

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const MONDAY = Date.UTC(2024, 0, 8);

async function desk() {
  const [{ id: author }, market] = [await anAnalyst(), await aMarket()];
  const bars = minutes(
    MONDAY - 60 * 60_000,
    Array.from({ length: 120 }, () => 100),
  );
  await transact((transaction) => appendBars({ marketId: market.id, base: "PT1M", shelf: "live" }, bars, transaction));
  let version = 0;
  const id = randomUUID();
  const say = async (
    clock: number,
    price: number,
    { at, ...change }: { at?: number; step?: "set" | "remove"; time?: number; kind?: string } = {},
  ) => {
    await setClock(clock);
    const { step = "set", time = MONDAY, kind = "level" } = change;
    const props = kind === "bearing" ? { direction: "up", reasons: "" } : { label: "high" };
    const mark = { id, kind, rung: "P1D", anchors: [{ time, price }], props, note: "" };
    await applySteps(market.id, [{ id: randomUUID(), step, version: version++, mark } as StepDto], author, at);
  };
  const prices = async (moment: number) =>
    (await marksAt(await findMarket(market.id), moment)).map(({ anchors }) => anchors[0].price);
  return { market, author, say, prices };
}

describe("a desk put to a past moment", () => {
  it("shows no high of a day before that day has closed, whenever it was marked", async () => {
    const { say, prices } = await desk();
    await say(MONDAY + 10 * HOUR, 105);
    expect(await prices(MONDAY + 10 * HOUR)).toEqual([]);
    expect(await prices(MONDAY + DAY - 1)).toEqual([]);
    expect(await prices(MONDAY + DAY)).toEqual([105]);
  });
  it("shows no mark that was drawn weeks later as if it had been there", async () => {
    const { say, prices } = await desk();
    await say(MONDAY + 21 * DAY, 105);
    expect(await prices(MONDAY + 20 * DAY)).toEqual([]);
    expect(await prices(MONDAY + 21 * DAY)).toEqual([105]);
  });
  it("shows the version of then, and what was taken away later", async () => {
    const { say, prices } = await desk();
    await say(MONDAY + 2 * DAY, 105);
    await say(MONDAY + 4 * DAY, 106);
    await say(MONDAY + 6 * DAY, 106, { step: "remove" });
    expect(await prices(MONDAY + 3 * DAY)).toEqual([105]);
    expect(await prices(MONDAY + 5 * DAY)).toEqual([106]);
    expect(await prices(MONDAY + 7 * DAY)).toEqual([]);
  });
  it("keeps what is said at that moment as said then, and refuses one before the market's first bar", async () => {
    const { say, prices } = await desk();
    await say(MONDAY + 30 * DAY, 105, { at: MONDAY + 2 * DAY });
    expect(await prices(MONDAY + 2 * DAY - 1)).toEqual([]);
    expect(await prices(MONDAY + 2 * DAY)).toEqual([105]);
    expect((await failureOf(say(MONDAY + 30 * DAY, 107, { at: MONDAY - 9 * DAY }))).code).toBe("moment");
  });
  it(
    "a version that moves an anchor onto a bar that had not closed waits for it, and the one before " + "stands",
    async () => {
      const { say, prices } = await desk();
      await say(MONDAY + 2 * DAY, 105);
      await say(MONDAY + 3 * DAY + HOUR, 109, { time: MONDAY + 3 * DAY });
      expect(await prices(MONDAY + 3 * DAY + 2 * HOUR)).toEqual([105]);
    },
  );
  it("has the bearings and the scenarios of then, each in its version", async () => {
    const { market, author, say } = await desk();
    await say(MONDAY + 2 * DAY, 100, { kind: "bearing", time: MONDAY + DAY });
    expect((await marksAt(await findMarket(market.id), MONDAY + 3 * DAY)).map(({ kind }) => kind)).toEqual(["bearing"]);
    const scenario: Scenario = {
      id: randomUUID(),
      title: "First",
      premise: "",
      direction: "long",
      trigger: { event: "closeAbove", price: 100, timeframe: "P1D" },
      entry: { order: "market", price: 100 },
      stop: 99,
      targets: [{ price: 102, share: 1 }],
      invalidation: 98,
      expiry: 8e14,
    };
    await setClock(MONDAY + 2 * DAY);
    await saveScenario(market.id, { version: 0, step: "save", scenario: writtenOf(scenario) }, author);
    await setClock(MONDAY + 4 * DAY);
    await saveScenario(
      market.id,
      { version: 1, step: "save", scenario: writtenOf({ ...scenario, title: "Second" }) },
      author,
    );
    await setClock(MONDAY + 6 * DAY);
    await saveScenario(market.id, { version: 2, step: "remove", scenario: writtenOf(scenario) }, author);
    const titles = async (moment: number) =>
      (await scenariosAt(market.id, moment)).map(({ scenario }) => scenario.title);
    expect(await titles(MONDAY + DAY)).toEqual([]);
    expect(await titles(MONDAY + 3 * DAY)).toEqual(["First"]);
    expect(await titles(MONDAY + 5 * DAY)).toEqual(["Second"]);
    expect(await titles(MONDAY + 7 * DAY)).toEqual([]);
  });
});
