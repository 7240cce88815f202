import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { barAt, type Series } from "#core/series/series";
import { BarImport, FollowUpRow, Market, OutcomeNoteRow, Restatement } from "../database/models.ts";

import {
  aMarket,
  anAnalyst,
  aPublishedScenario,
  confirmation,
  dailyFile,
  failureOf,
  minutes,
  setClock,
  upload,
  watchersOf,
  withTables,
} from "../testing.ts";
import { appendBars, readBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { deriveMarket } from "../bars/derive.ts";
import { applySteps } from "../desk/marks.ts";
import { dependentsOf } from "./dependents.ts";
import { importUpload } from "./import.ts";
import { removeMarket } from "../bars/remove.ts";
import { seriesOf } from "../bars/series.ts";
import { undoImport } from "./undo.ts";

withTables();

const DAY = 86_400_000;
const START = Date.UTC(2020, 0, 1);
const bars = (series: Series) => Array.from({ length: series.length }, (_, i) => barAt(series, i));
const stored = (market: string) => readBars({ marketId: market, base: "P1D", shelf: "live" }).then(bars);
const newest = async (market: string) =>
  (await BarImport.findOne({ where: { marketId: market }, order: [["createdAt", "DESC"]] }))!.id;

/** A market with ten days at 10; a second import replaces days 5 to 9 by 20 and adds ten more. */
async function twiceImported() {
  const { id: analyst } = await anAnalyst();
  const { market } = await importUpload(await upload(dailyFile(0, 10, 10), analyst), confirmation(), analyst);
  const before = await stored(market);
  const first = await newest(market);
  await importUpload(await upload(dailyFile(5, 15, 20), analyst), confirmation({ market, differing: "file" }), analyst);
  return { analyst, market, before, first, second: await newest(market) };
}

/** A level of the desk whose anchor stands on one bar. */
async function aLevel(market: string, time: number, account: string): Promise<void> {
  const anchors = [{ time, price: 9 }];
  const mark = { id: randomUUID(), kind: "level", rung: "P1D", anchors, props: { label: "shelf" }, note: "" };
  await applySteps(market, [{ id: randomUUID(), version: 0, step: "set", mark } as never], account);
}

describe("what depends on an import", () => {
  it("is named: marks on its bars, calls followed on them, markets made of it; and nothing else", async () => {
    const { analyst, market, first, second } = await twiceImported();
    expect(await dependentsOf(first)).toEqual([]);
    await aLevel(market, START + 2 * DAY, analyst);
    expect(await dependentsOf(second)).toEqual([]);
    expect(await dependentsOf(first)).toEqual(["1 mark stands on its bars."]);
    await setClock(START + 12 * DAY);
    await aPublishedScenario(market);
    const legs = [market, (await aMarket()).id].map((id) => ({ market: id, units: 1 }));
    await deriveMarket({ name: "Both", form: "spread", legs, scale: 1, tick: 0.01, decimals: 2, hoursOf: "" });
    expect(await dependentsOf(second)).toEqual([
      "1 published call was followed on them: their outcomes stand and get a note.",
      "Made of this market: Both.",
    ]);
  });
});

describe("undoing an import", () => {
  it("puts back what was there to the last bit, and the series anew on every rung", async () => {
    const { analyst, market, before, second } = await twiceImported();
    const row = () => Market.findByPk(market) as Promise<Market>;
    expect((await seriesOf(await row(), "P1D")).length).toBe(20);
    expect(await undoImport(second, analyst)).toMatchObject({ market, removed: 10, putBack: 5 });
    expect(await stored(market)).toEqual(before);
    expect([...(await seriesOf(await row(), "P1D")).close]).toEqual(before.map(({ close }) => close));
    expect((await row()).history).toBe(3);
  });
  it("is refused for the earlier of two that cover the same days, and twice", async () => {
    const { analyst, market, first, second } = await twiceImported();
    const whole = await stored(market);
    expect(await failureOf(undoImport(first, analyst))).toMatchObject({
      code: "covered",
      details: { kept: "Nothing was changed." },
    });
    expect(await stored(market)).toEqual(whole);
    await undoImport(second, analyst);
    expect(await failureOf(undoImport(second, analyst))).toMatchObject({ code: "undone" });
    await undoImport(first, analyst);
    expect(await stored(market)).toEqual([]);
    expect(await failureOf(undoImport("nothing", analyst))).toMatchObject({ code: "not-found" });
  });
  it("the same file can come again after it was undone", async () => {
    const { analyst, market, second } = await twiceImported();
    const whole = await stored(market);
    await undoImport(second, analyst);
    const again = await importUpload(
      await upload(dailyFile(5, 15, 20), analyst),
      confirmation({ market, differing: "file" }),
      analyst,
    );
    expect(again).toMatchObject({ already: false, added: 10, differing: 5 });
    expect(await stored(market)).toEqual(whole);
  });
  it("two who undo at once undo it once", async () => {
    const { analyst, market, before, second } = await twiceImported();
    const done = await Promise.allSettled([undoImport(second, analyst), undoImport(second, analyst)]);
    expect(done.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
    expect(await stored(market)).toEqual(before);
  });
  it("leaves bars alone that came by themselves after it", async () => {
    const { analyst, market, first, second } = await twiceImported();
    const price = { open: 7, high: 8, low: 6, close: 7, volume: 0 };
    const later = minutes(START + 20 * DAY, [7]);
    await transact((transaction) => appendBars({ marketId: market, base: "P1D", shelf: "live" }, later, transaction));
    await undoImport(second, analyst);
    await undoImport(first, analyst);
    expect((await stored(market)).map(({ time, close }) => [time, close])).toEqual([[START + 20 * DAY, price.close]]);
  });
});

describe("a restatement", () => {
  it("is recorded with its stretch; bars that only follow are none", async () => {
    const { analyst, market, second } = await twiceImported();
    const [found] = await Restatement.findAll({ where: { marketId: market } });
    expect(found).toMatchObject({
      cause: "import",
      importId: second,
      base: "P1D",
      fromTime: START + 5 * DAY,
      toTime: START + 19 * DAY,
      bars: 15,
    });
    const { history } = (await Market.findByPk(market))!;
    await importUpload(await upload(dailyFile(20, 5, 20), analyst), confirmation({ market }), analyst);
    expect(await Restatement.count({ where: { marketId: market } })).toBe(1);
    expect((await Market.findByPk(market))!.history).toBe(history);
  });
  it("finer bars of days that were told already are one too, for they change what the days say", async () => {
    const { analyst, market } = await twiceImported();
    const rows = ["time,open,high,low,close", "2020-01-03T10:00:00Z,10,10,10,10"].join("\n");
    await importUpload(await upload(rows, analyst), confirmation({ market, base: "PT1M" }), analyst);
    expect(
      (await Restatement.findAll({ where: { marketId: market }, order: [["createdAt", "ASC"]] })).map(
        ({ base }) => base,
      ),
    ).toEqual(["P1D", "PT1M"]);
  });
});

describe("a published outcome whose bars are restated", () => {
  /** A scenario published after day 9 that day 12 triggers and day 14 stops. */
  async function stopped() {
    const { id: analyst } = await anAnalyst();
    const { market } = await importUpload(await upload(dailyFile(0, 10, 10), analyst), confirmation(), analyst);
    await setClock(START + 10 * DAY);
    const edition = await aPublishedScenario(market, {
      trigger: { event: "closeAbove", price: 15, timeframe: "P1D" },
      entry: { order: "market", price: 16 },
      stop: 12,
      invalidation: 5,
    });
    await setClock(START + 40 * DAY);
    const days = [10, 10, 20, 20, 11, 11].map((close, n) => dailyFile(10 + n, 1, close).split("\n")[1]);
    const file = ["date,open,high,low,close,volume", ...days].join("\n");
    await importUpload(await upload(file, analyst), confirmation({ market }), analyst);
    return { analyst, market, edition };
  }
  const followUps = async (edition: number) =>
    (await FollowUpRow.findAll({ where: { edition }, order: [["sequence", "ASC"]] })).map(({ event }) => event);
  const notes = async (edition: number) =>
    (await OutcomeNoteRow.findAll({ where: { edition }, order: [["sequence", "ASC"]] })).map(({ note }) => note);

  it("was followed over imported bars as over the feed's", async () => {
    const { edition } = await stopped();
    expect((await followUps(edition)).map(({ event, price }) => [event, price])).toEqual([
      ["triggered", 20],
      ["entered", 20],
      ["stopped", 11],
    ]);
    expect(await notes(edition)).toEqual([]);
  });
  it("is never changed: a note says what other bars would have led to", async () => {
    const { analyst, market, edition } = await stopped();
    const before = await followUps(edition);
    await importUpload(
      await upload(dailyFile(14, 2, 25), analyst),
      confirmation({ market, differing: "file" }),
      analyst,
    );
    expect(await followUps(edition)).toEqual(before);
    expect((await watchersOf(edition))[0].done).toBe(true);
    expect(await notes(edition)).toMatchObject([
      { cause: "import", from: START + 14 * DAY, to: START + 15 * DAY, same: false, last: { event: "entered" } },
    ]);
    await undoImport(await newest(market), analyst);
    expect((await notes(edition)).map(({ cause, same }) => [cause, same])).toEqual([
      ["import", false],
      ["undo", true],
    ]);
  });
  it("is noted also where the other bars make no difference, and not where they were never used", async () => {
    const { analyst, market, edition } = await stopped();
    await importUpload(
      await upload(dailyFile(10, 1, 10.5), analyst),
      confirmation({ market, differing: "file" }),
      analyst,
    );
    expect(await notes(edition)).toMatchObject([{ same: true }]);
    await importUpload(
      await upload(dailyFile(2, 2, 10.5), analyst),
      confirmation({ market, differing: "file" }),
      analyst,
    );
    expect(await notes(edition)).toHaveLength(1);
  });
  it("bars that are not over yet are not shown to a scenario", async () => {
    const { id: analyst } = await anAnalyst();
    const market = await aMarket();
    await setClock(START + 2 * DAY + 1);
    const edition = await aPublishedScenario(market.id, {
      trigger: { event: "closeAbove", price: 15, timeframe: "P1D" },
      entry: { order: "market", price: 16 },
      stop: 12,
      invalidation: 5,
    });
    const file = (to: number) => dailyFile(3, to, 20);
    await importUpload(await upload(file(1), analyst), confirmation({ market: market.id }), analyst);
    expect(await followUps(edition)).toEqual([]);
    await setClock(START + 4 * DAY);
    await importUpload(await upload(file(2), analyst), confirmation({ market: market.id }), analyst);
    expect((await followUps(edition)).map(({ event }) => event)).toEqual(["triggered"]);
  });
});

describe("removing a market", () => {
  it("takes one that nobody spoke of, with its bars", async () => {
    const { market } = await twiceImported();
    await removeMarket(market);
    expect(await Market.findByPk(market)).toBeNull();
    expect(await stored(market)).toEqual([]);
    expect(await failureOf(removeMarket(market))).toMatchObject({ code: "not-found" });
  });
  it("leaves one that a published scenario, or another market, needs", async () => {
    const { market } = await twiceImported();
    const other = await aMarket();
    await deriveMarket({
      name: `Of ${market}`,
      form: "spread",
      legs: [market, other.id].map((id, i) => ({ market: id, units: i === 0 ? 1 : -1 })),
      scale: 1,
      tick: 0.01,
      decimals: 2,
      hoursOf: "",
    });
    await aPublishedScenario(market);
    const failure = await failureOf(removeMarket(market));
    expect(failure.sentence).toMatch(
      /is made of it; an edition has published a scenario on it; scenarios are written on it/,
    );
    expect(await stored(market)).toHaveLength(20);
  });
});
