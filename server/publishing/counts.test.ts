import { randomUUID } from "node:crypto";
import { QueryTypes } from "sequelize";
import { describe, expect, it } from "vitest";
import { plainDraft } from "#core/edition/blocks";
import type { StepDto } from "#contracts/mark";
import { writtenOf } from "#core/written/former";
import type { Scenario } from "#core/scenarios/scenario";
import { barsAppended } from "../watch/changes.ts";
import { appendBars } from "../bars/chunks.ts";
import { openDatabase, transact } from "../database/connection.ts";
import { migrator } from "../database/migrate.ts";
import { Market } from "../database/models.ts";
import { aMarket, anAnalyst, minutes, setClock, withTables } from "../testing.ts";
import { createDraft, saveDraft } from "./drafts.ts";
import { publish } from "./publish.ts";
import { liveCounts } from "./counts.ts";
import { applySteps, marksOf } from "../desk/marks.ts";
import { saveScenario, scenariosOf } from "../desk/scenarios.ts";

withTables();

const START = Date.UTC(2024, 0, 2);
const MINUTE = 60_000;
const step = (mark: StepDto["mark"], version = 0): StepDto => ({ id: randomUUID(), step: "set", version, mark });
const count = (prices: number[], props: Record<string, unknown> = {}) => ({
  id: randomUUID(),
  kind: "count",
  rung: "PT1M",
  anchors: prices.map((price, i) => ({ time: START + i * 10 * MINUTE, price })),
  props,
  note: "",
});
const scenario = (restsOn?: string): Scenario => ({
  id: randomUUID(),
  title: "A fifth",
  premise: "",
  direction: "long",
  trigger: { event: "closeAbove", price: 140, timeframe: "PT1H" },
  entry: { order: "market", price: 140 },
  stop: 135,
  targets: [{ price: 160, share: 1 }],
  invalidation: 134,
  expiry: START * 2,
  ...(restsOn ? { restsOn } : {}),
});

async function marketWith(closes: number[]) {
  const [market, author] = [await aMarket(), await anAnalyst()];
  await setClock(START + closes.length * MINUTE);
  await transact((transaction) =>
    appendBars({ marketId: market.id, base: "PT1M", shelf: "live" }, minutes(START, closes), transaction),
  );
  return { market, author };
}

/** From one price to the next in ten minutes each. */
const path = (...prices: number[]) =>
  prices
    .slice(1)
    .flatMap((price, i) => Array.from({ length: 10 }, (_, n) => prices[i] + ((price - prices[i]) * n) / 10))
    .concat(prices[prices.length - 1]);

describe("the counts of every market", () => {
  it(
    "are told with what would end them, what died since the last edition, and the scenarios that rest " + "on them",
    async () => {
      const { market, author } = await marketWith(path(100, 120, 110, 150, 135, 140));
      const [alive, gone, archived] = [
        count([100, 120, 110, 150, 135]),
        count([100, 120, 110, 150], { root: { pattern: "zigzag", pivots: [0, 1, 2, 3], inner: [null, null, null] } }),
        count([100, 120, 110], { role: "archived" }),
      ];
      await applySteps(
        market.id,
        [alive, gone, archived].map((mark) => step(mark)),
        author.id,
      );
      const own = scenario(alive.id);
      await saveScenario(market.id, { step: "save", version: 0, scenario: writtenOf(own) }, author.id);
      expect((await scenariosOf(market.id))[0].scenario.restsOn).toBe(alive.id);
      const before = (await liveCounts()).markets.find((one) => one.market.id === market.id);
      expect(before?.counts.map(({ id }) => id)).not.toContain(archived.id);
      const told = before?.counts.find(({ id }) => id === alive.id);
      expect(told).toMatchObject({
        dead: false,
        scenarios: ["A fifth"],
        statements: [{ price: 135, side: "below", distance: -5, depth: 0 }],
      });
      const draft = await createDraft(author.id);
      await saveDraft(draft.id, {
        version: 1,
        ...plainDraft("T", "B", [{ market: market.id, rung: "PT1M", scenarios: [] }]),
      });
      await publish(draft.id, author);
      expect(
        (await liveCounts()).markets
          .find((one) => one.market.id === market.id)
          ?.counts.flatMap(({ changes }) => changes),
      ).toEqual([]);
      // Below the end of the fourth: the count dies, and that is the change since the edition.
      const more = minutes(START + 51 * MINUTE, path(140, 130));
      await transact(async (transaction) => {
        await appendBars({ marketId: market.id, base: "PT1M", shelf: "live" }, more, transaction);
        await barsAppended([market], START + 62 * MINUTE, transaction);
      });
      await setClock(START + 70 * MINUTE);
      const { since, markets } = await liveCounts();
      expect(since).toBe(START + 51 * MINUTE);
      const now = markets.find((one) => one.market.id === market.id)?.counts.find(({ id }) => id === alive.id);
      expect(now).toMatchObject({ dead: true, scenarios: ["A fifth"] });
      expect(now?.changes.map(({ sentence }) => sentence)).toContain(
        '"wave 4 has ended, wave 5 is running" died: price went below.',
      );
    },
  );
  it("a tree that speaks of pivots it does not have is refused, nothing is stored", async () => {
    const { market, author } = await marketWith([1, 2]);
    const forged = count([100, 120], {
      root: { pattern: "impulse", pivots: [0, 7], inner: [null, null, null, null, null] },
    });
    await expect(applySteps(market.id, [step(forged)], author.id)).rejects.toThrow(/cannot be read/);
    expect(await marksOf(market.id)).toEqual([]);
  });
});

it("an older database's impulses become counts, and back", async () => {
  const [{ id: market }, { id: author }] = [await aMarket(), await anAnalyst()];
  const old = count([100, 120, 110], { degree: "Minor" });
  await applySteps(market, [step(old)], author);
  const tables = migrator(openDatabase(""));
  await tables.down({ to: "0006-counts" });
  const sequelize = openDatabase("");
  await sequelize.query(`UPDATE marks SET props = '{"degree":"Minor","scale":"log"}' WHERE id = ?`, {
    replacements: [old.id],
  });
  expect(
    await sequelize.query(`SELECT kind FROM marks WHERE id = ?`, { replacements: [old.id], type: QueryTypes.SELECT }),
  ).toEqual([{ kind: "impulse" }]);
  await tables.up();
  expect((await marksOf(market))[0]).toMatchObject({
    kind: "count",
    props: { degree: "Minor", scale: "log", role: "preferred", root: { pattern: "impulse", pivots: [0, 1, 2] } },
  });
  expect(await Market.count()).toBeGreaterThan(0);
});
