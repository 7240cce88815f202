import { describe, expect, it } from "vitest";
import { barAt, fromBars, type Bar, type Series } from "#core/series/series";
import { transact } from "../database/connection.ts";
import { Market } from "../database/models.ts";
import { aMarket, withTables } from "../testing.ts";
import { appendBars } from "./chunks.ts";
import { deriveMarket } from "./derive.ts";
import { seriesAsOf } from "./series.ts";
import { sketchesOf } from "./sketches.ts";

withTables();

const START = Date.UTC(2024, 0, 1);
const HOUR = 3_600_000;
const RUNGS = ["PT1H", "PT4H", "P1D", "P1W", "P1M"];
const bars = (series: Series) => Array.from({ length: series.length }, (_, i) => barAt(series, i));
const hourly = (count: number, poisonedFrom: number): Bar[] =>
  Array.from({ length: count }, (_, i) => {
    const price = i >= poisonedFrom ? 1e9 : 100 + (i % 13);
    return {
      time: START + i * HOUR,
      open: price,
      high: price + 1,
      low: i >= poisonedFrom ? 0.01 : price - 1,
      close: price,
      volume: 1,
    };
  });

async function marketOf(list: readonly Bar[], close = "24:00"): Promise<Market> {
  const market = await aMarket();
  await market.update({ calendar: { zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close }] } });
  await transact((transaction) =>
    appendBars({ marketId: market.id, base: "PT1H", shelf: "live" }, fromBars(list), transaction),
  );
  return (await Market.findByPk(market.id))!;
}

describe("a market as of a past moment", () => {
  it.each([0, 1, 37, 100, 239])(
    "%d hours in, is what a market whose history ends there would be, whatever came after",
    async (known) => {
      const instant = START + known * HOUR + 1;
      const [poisoned, cut] = [
        await marketOf(hourly(240, known)),
        known > 0 ? await marketOf(hourly(known, known)) : undefined,
      ];
      for (const rung of RUNGS)
        expect(bars(await seriesAsOf(poisoned, rung, "all", instant)), rung).toEqual(
          cut ? bars(await seriesAsOf(cut, rung, "all", 8e14)) : [],
        );
      const sketches = await sketchesOf(poisoned, RUNGS, "all", instant);
      expect(Math.max(0, ...sketches.flatMap(({ sketch }) => sketch))).toBeLessThan(1e6);
    },
  );
  it("a market made of others knows a day when the last of its legs does", async () => {
    const day = (close: number) => fromBars([{ time: START, open: close, high: close, low: close, close, volume: 1 }]);
    const legs = await Promise.all(
      ["12:00", "20:00"].map(async (closes) => {
        const market = await aMarket();
        await market.update({
          calendar: { zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5], open: "08:00", close: closes }] },
        });
        await transact((transaction) =>
          appendBars({ marketId: market.id, base: "P1D", shelf: "live" }, day(10), transaction),
        );
        return market.id;
      }),
    );
    const cross = await deriveMarket({
      name: "Late leg",
      form: "product",
      legs: legs.map((market) => ({ market, units: 1 })),
      scale: 1,
      tick: 0.01,
      decimals: 2,
      hoursOf: "",
    });
    const length = async (hour: number) => (await seriesAsOf(cross, "P1D", "all", START + hour * HOUR)).length;
    expect([await length(12), await length(19), await length(20)]).toEqual([0, 0, 1]);
  });
});
