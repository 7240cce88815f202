import { randomUUID } from "node:crypto";
import { QueryTypes } from "sequelize";
import { describe, expect, it } from "vitest";
import { aFormer } from "#core/testing/written";
import { appendBars } from "../bars/chunks.ts";
import { readClock } from "../clock.ts";
import { applySteps } from "../desk/marks.ts";
import { saveScenario } from "../desk/scenarios.ts";
import { sayInRound } from "../round/rounds.ts";
import { aMarket, anAnalyst, failureOf, minutes, setClock, withTables } from "../testing.ts";
import { transact } from "./connection.ts";
import { closeHealth, databaseAnswers } from "./health.ts";
import { BarChunk, ClockRow, Market, RoundRow } from "./models.ts";

withTables();

const connection = async () =>
  (await ClockRow.sequelize!.query<{ id: number }>("SELECT CONNECTION_ID() AS id", { type: QueryTypes.SELECT }))[0].id;

const level = () => ({
  id: randomUUID(),
  step: "set" as const,
  version: 0,
  mark: {
    id: randomUUID(),
    kind: "level",
    rung: "PT1M",
    anchors: [{ time: Date.UTC(2024, 0, 2), price: 1 }],
    props: { label: "a" },
    note: "",
  },
});

describe("a transaction", () => {
  it("has one connection, whatever is asked within it and however deep", async () => {
    const ids = await transact(async () => {
      const deep = async () => (await Promise.all([connection(), transact(() => connection())])).flat();
      return [await connection(), ...(await deep())];
    });
    expect(new Set(ids).size).toBe(1);
  });
  it("sees what it wrote itself without being told that it is one, and nobody else does", async () => {
    const market = await aMarket();
    let wrote = () => {};
    let looked = () => {};
    const [written, seen] = [new Promise<void>((done) => (wrote = done)), new Promise<void>((done) => (looked = done))];
    let within: string | undefined;
    const undone = transact(async () => {
      await market.update({ name: "other" });
      within = (await Market.findByPk(market.id))?.name;
      wrote();
      await seen;
      throw new Error("back");
    });
    await written;
    const outside = (await Market.findByPk(market.id))?.name;
    looked();
    await expect(undone).rejects.toThrow("back");
    expect([within, outside, (await Market.findByPk(market.id))?.name]).toEqual(["other", market.id, market.id]);
  });
  it("leaves no trace for what is asked after it", async () => {
    await transact(() => readClock());
    const slowly = async () =>
      (
        await ClockRow.sequelize!.query<{ id: number }>("SELECT CONNECTION_ID() AS id, SLEEP(0.1)", {
          type: QueryTypes.SELECT,
        })
      )[0].id;
    const [a, b] = await Promise.all([slowly(), slowly()]);
    expect(a).not.toBe(b);
  });
});

describe("saving at once", () => {
  const scenario = () => ({
    version: 0,
    step: "save" as const,
    scenario: aFormer(),
  });
  it(
    "forty marks and forty scenarios of one market are all saved, and health is told meanwhile",
    { timeout: 30_000 },
    async () => {
      const [{ id: author }, { id }] = [await anAnalyst(), await aMarket()];
      await setClock(Date.UTC(2024, 0, 3));
      await transact((transaction) =>
        appendBars(
          { marketId: id, base: "PT1M", shelf: "live" },
          minutes(Date.UTC(2024, 0, 2), [1, 1, 1]),
          transaction,
        ),
      );
      const url = process.env.COMPASS_DATABASE ?? "";
      const before = (await Market.findByPk(id))?.marked ?? 0;
      const work = Array.from({ length: 40 }, () => [
        applySteps(id, [level()], author),
        saveScenario(id, scenario(), author),
      ]).flat();
      const healthy = await Promise.all(Array.from({ length: 10 }, () => databaseAnswers(url)));
      expect((await Promise.all(work)).length).toBe(80);
      expect(healthy).toEqual(Array.from({ length: 10 }, () => true));
      expect((await Market.findByPk(id))?.marked).toBe(before + 40);
      closeHealth();
    },
  );
  it("five first looks of a round begin one round", async () => {
    const [{ id: author }, { id }] = [await anAnalyst(), await aMarket()];
    await setClock(Date.UTC(2024, 0, 3));
    const rounds = await Promise.all(
      Array.from({ length: 5 }, () => sayInRound("", [{ step: "look", market: id, rung: "P1D" }], author)),
    );
    expect(new Set(rounds.map(({ round }) => round)).size).toBe(1);
    expect(await RoundRow.count({ where: { accountId: author } })).toBe(1);
  });
});

describe("one row", () => {
  it("is asked for as one, also by a part of a key of several columns", async () => {
    const said: string[] = [];
    const logging = (sql: string) => said.push(sql);
    await BarChunk.findOne({ where: { marketId: "tin", base: "PT1M", shelf: "live" }, logging });
    await Market.findByPk("tin", { logging });
    expect(said).toHaveLength(2);
    for (const sql of said) expect(sql).toMatch(/LIMIT 1;$/);
    await Market.findAll({ logging });
    expect(said[2]).not.toContain("LIMIT");
  });
});

describe("health", () => {
  it("says within a second that a database that is not there does not answer", async () => {
    const began = performance.now();
    expect(await databaseAnswers("mariadb://nobody:x@127.0.0.1:9/none")).toBe(false);
    expect(performance.now() - began).toBeLessThan(5000);
    closeHealth();
  });
  it("a failure of a transaction is the failure, not one of the database", async () => {
    expect((await failureOf(applySteps("nowhere", [level()], "x"))).code).toBe("not-found");
  });
});
