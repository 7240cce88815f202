import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { DeriveMarketDto } from "#contracts/derive";
import { readDto } from "#contracts/read";
import { transact } from "../database/connection.ts";
import { FollowUpRow, Market } from "../database/models.ts";
import { advance } from "../intake/feed.ts";
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
  withTables,
} from "../testing.ts";
import { appendBars } from "./chunks.ts";
import { deriveMarket } from "./derive.ts";
import { importUpload } from "../intake/import.ts";
import { fromBars } from "#core/series/series";
import { relationAt } from "../desk/relation.ts";
import { seriesAsOf, seriesOf } from "./series.ts";

withTables();

const START = Date.UTC(2024, 0, 2);
const MINUTE = 60_000;

function definition(change: Partial<DeriveMarketDto>): DeriveMarketDto {
  return {
    name: `D ${randomUUID().slice(0, 8)}`,
    form: "product",
    legs: [],
    scale: 1,
    tick: 0.01,
    decimals: 2,
    hoursOf: "",
    ...change,
  };
}

/** Two markets with three minutes behind the clock and three on the tape. */
async function twoFedMarkets(): Promise<[Market, Market]> {
  const markets = await Promise.all([aMarket(), aMarket()]);
  await transact(async (transaction) => {
    for (const [k, { id }] of markets.entries()) {
      const price = (n: number) => (k === 0 ? 10 + n : 2);
      await appendBars(
        { marketId: id, base: "PT1M", shelf: "live" },
        minutes(START, [0, 1, 2].map(price)),
        transaction,
      );
      await appendBars(
        { marketId: id, base: "PT1M", shelf: "tape" },
        minutes(START + 3 * MINUTE, [3, 4, 5].map(price)),
        transaction,
      );
    }
  });
  await setClock(START + 3 * MINUTE);
  return markets as [Market, Market];
}

const fresh = async ({ id }: Market) => (await Market.findByPk(id))!;
const legs = (markets: readonly Market[], units: number[]) =>
  markets.map(({ id }, k) => ({ market: id, units: units[k] }));

describe("a derived market", () => {
  it("has the bars of its legs on every rung, grows with them, and may itself be a leg", async () => {
    const markets = await twoFedMarkets();
    const cross = await deriveMarket(definition({ legs: legs(markets, [1, 1]) }));
    const twice = await deriveMarket(definition({ form: "spread", legs: legs([cross, markets[0]], [1, -1]) }));
    expect([...(await seriesOf(await fresh(cross), "PT1M")).close]).toEqual([20, 22, 24]);
    await advance(2);
    expect([...(await seriesOf(await fresh(cross), "PT1M")).close]).toEqual([20, 22, 24, 26, 28]);
    expect([...(await seriesOf(await fresh(cross), "P1D")).high]).toEqual([28]);
    expect([...(await seriesOf(await fresh(twice), "PT1M")).close]).toEqual([10, 11, 12, 13, 14]);
    expect((await fresh(cross)).history).toBe(1);
  });
  it("stands on others three deep and is made of sixty prices at most", async () => {
    const markets = await twoFedMarkets();
    let deepest = await deriveMarket(definition({ form: "spread", legs: legs(markets, [1, -1]) }));
    for (let depth = 2; depth <= 3; depth++)
      deepest = await deriveMarket(definition({ form: "spread", legs: legs([deepest, markets[0]], [1, -1]) }));
    expect(
      await failureOf(deriveMarket(definition({ form: "spread", legs: legs([deepest, markets[0]], [1, -1]) }))),
    ).toMatchObject({ code: "too-deep", sentence: expect.stringContaining("3 deep") as string });
    const many = await Promise.all(Array.from({ length: 21 }, () => aMarket()));
    const ones = (list: readonly Market[]) =>
      legs(
        list,
        list.map(() => 1),
      );
    const wide = await Promise.all([1, 2, 3].map(() => deriveMarket(definition({ form: "spread", legs: ones(many) }))));
    await deriveMarket(definition({ form: "spread", legs: ones(wide.slice(0, 2)) }));
    expect((await failureOf(deriveMarket(definition({ form: "spread", legs: ones(wide) })))).sentence).toContain(
      "60 prices",
    );
  });
  it("costs the same at an instant by its last weeks as by all of its past", async () => {
    const [tin, lead] = [await aMarket(), await aMarket()];
    const days = (level: number) =>
      fromBars(
        Array.from({ length: 400 }, (_, i) => ({
          time: Date.UTC(2023, 0, 1 + i),
          open: level,
          high: level + 2,
          low: level - 1,
          close: level + (i % 7) / 7,
          volume: 1,
        })),
      );
    await transact(async (transaction) => {
      await appendBars({ marketId: tin.id, base: "P1D", shelf: "live" }, days(10), transaction);
      await appendBars({ marketId: lead.id, base: "P1D", shelf: "live" }, days(3), transaction);
      // Minutes of the last day alone, and a gap of three months before it.
      await appendBars(
        { marketId: lead.id, base: "PT1M", shelf: "live" },
        minutes(Date.UTC(2024, 4, 1), [4, 5, 6]),
        transaction,
      );
    });
    await setClock(Date.UTC(2024, 5, 1));
    const ratio = await deriveMarket(definition({ form: "ratio", legs: legs([tin, lead], [1, -1]) }));
    for (const at of [Date.UTC(2023, 3, 4), Date.UTC(2023, 11, 31, 12), Date.UTC(2024, 4, 2)]) {
      const { here, there } = await relationAt(ratio.id, lead.id, at);
      const whole = async (market: Market) => (await seriesAsOf(await fresh(market), "P1D", "all", at)).close.at(-1);
      expect([here, there]).toEqual([await whole(ratio), await whole(lead)]);
    }
  });
  it("is followed like any other: a scenario on it is triggered by its legs' bars", async () => {
    const markets = await twoFedMarkets();
    const cross = await deriveMarket(definition({ legs: legs(markets, [1, 1]) }));
    const number = await aPublishedScenario(cross.id, {
      trigger: { event: "closeAbove", price: 25, timeframe: "PT1M" },
    });
    await advance(3);
    const events = await FollowUpRow.findAll({ where: { edition: number }, order: [["sequence", "ASC"]] });
    expect(events.map(({ event }) => [event.event, event.price])).toEqual([
      ["triggered", 26],
      ["entered", 26],
    ]);
  });
  it("a leg that is restated restates it too", async () => {
    const { id } = await anAnalyst();
    const one = await importUpload(await upload(dailyFile(0, 5, 10), id), confirmation(), id);
    const two = await importUpload(await upload(dailyFile(0, 5, 20), id), confirmation(), id);
    const ratio = await deriveMarket(
      definition({
        form: "ratio",
        legs: [
          { market: two.market, units: 1 },
          { market: one.market, units: -1 },
        ],
        scale: 100,
      }),
    );
    expect([...(await seriesOf(ratio, "P1D")).close]).toEqual([200, 200, 200, 200, 200]);
    await importUpload(
      await upload(dailyFile(2, 2, 40), id),
      confirmation({ market: two.market, differing: "file" }),
      id,
    );
    const after = await fresh(ratio);
    expect(after.history).toBe(2);
    expect([...(await seriesOf(after, "P1D")).close]).toEqual([200, 200, 400, 400, 200]);
  });
  it("an equal basket begins at 100 on the first common day, each leg with its share", async () => {
    const { id } = await anAnalyst();
    const one = await importUpload(await upload(dailyFile(0, 5, 10), id), confirmation(), id);
    const two = await importUpload(await upload(dailyFile(2, 5, 40), id), confirmation(), id);
    const basket = await deriveMarket(
      definition({
        form: "basket",
        legs: [
          { market: one.market, units: 1 },
          { market: two.market, units: 3 },
        ],
      }),
    );
    expect(basket.formula?.legs.map(({ units }) => units)).toEqual([2.5, 1.875]);
    const series = await seriesOf(basket, "P1D");
    expect([series.length, series.close[0], series.high[0]]).toEqual([3, 100, 104.38]);
  });
  it("takes the sessions of the leg that is open the shortest, or of the one that was named", async () => {
    const [long, short] = [await aMarket(), await aMarket()];
    await short.update({
      calendar: { zone: "Asia/Tokyo", sessions: [{ days: [1, 2, 3], open: "09:00", close: "15:00" }] },
    });
    const both = legs([long, short], [1, -1]);
    expect((await deriveMarket(definition({ form: "quotient", legs: both }))).calendar.zone).toBe("Asia/Tokyo");
    expect((await deriveMarket(definition({ form: "quotient", legs: both, hoursOf: long.id }))).calendar.zone).toBe(
      "UTC",
    );
  });
  it.each([
    [
      "a leg that is not there",
      async () =>
        definition({
          legs: [
            { market: (await aMarket()).id, units: 1 },
            { market: "nowhere", units: 1 },
          ],
        }),
      "leg",
    ],
    [
      "a basket of markets that never met",
      async () => definition({ form: "basket", legs: legs([await aMarket(), await aMarket()], [1, 1]) }),
      "apart",
    ],
    [
      "one market twice",
      async () => ((one) => definition({ legs: legs([one, one], [1, 1]) }))(await aMarket()),
      "formula",
    ],
  ])("%s is refused and nothing is made", async (_name, make, code) => {
    const before = await Market.count();
    const asked = await make();
    const legsMade = (await Market.count()) - before;
    expect(await failureOf(deriveMarket(asked))).toMatchObject({ code, details: { kept: "Nothing was made." } });
    expect(await Market.count()).toBe(before + legsMade);
  });
  it("takes no file: its bars are its legs'", async () => {
    const { id } = await anAnalyst();
    const cross = await deriveMarket(definition({ legs: legs([await aMarket(), await aMarket()], [1, 1]) }));
    expect(
      await failureOf(importUpload(await upload(dailyFile(0, 3), id), confirmation({ market: cross.id }), id)),
    ).toMatchObject({ code: "derived" });
  });
});

describe("the form of a derived market", () => {
  const good = {
    name: "Ratio",
    form: "ratio",
    legs: [
      { market: "a", units: 1 },
      { market: "b", units: -1 },
    ],
    scale: 1,
    tick: 0.01,
    decimals: 2,
    hoursOf: "",
  };
  it("a whole one passes", () => expect(readDto(DeriveMarketDto, good).ok).toBe(true));
  it.each([
    ["form", { form: "power" }],
    ["legs", { legs: [] }],
    ["legs.1.units", { legs: [good.legs[0], { market: "b", units: "1" }] }],
    ["scale", { scale: 0 }],
    ["decimals", { decimals: 2.5 }],
  ])("%s is told at its field", (field, change) => {
    const read = readDto(DeriveMarketDto, { ...good, ...change });
    expect(read.ok ? {} : read.fields).toHaveProperty([field]);
  });
});
