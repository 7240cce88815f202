import { describe, expect, it } from "vitest";
import { FINDING_DEFAULTS, type FindingParams } from "#core/finding/params";
import { fromBars, type Bar } from "#core/series/series";
import { appendBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { Market, ReadingRow } from "../database/models.ts";
import { aMarket, anAnalyst, failureOf, setClock, withTables } from "../testing.ts";
import { findingParamsOf, saveFindingParams } from "./findingParams.ts";
import { readingsOf } from "./readings.ts";

withTables();

const START = Date.UTC(2024, 0, 1);
const HOUR = 3_600_000;
const RUNGS = ["P1D", "PT4H", "PT1H"];
const params: FindingParams = { ...FINDING_DEFAULTS, lookBack: 200, touches: 2 };
const hours = (from: number, to: number, change = 0): Bar[] =>
  Array.from({ length: to - from }, (_, n) => {
    const i = from + n;
    const price = (at: number) => Math.round(100 + 20 * Math.sin(at / 17) + 9 * Math.sin(at / 5) + (at % 7)) + change;
    const [open, close] = [price(i - 1), price(i)];
    return {
      time: START + i * HOUR,
      open,
      high: Math.max(open, close) + (i % 3),
      low: Math.min(open, close) - (i % 2),
      close,
      volume: 1,
    };
  });
const add = (market: Market, bars: readonly Bar[]) =>
  transact(async (transaction) => {
    await appendBars({ marketId: market.id, base: "PT1H", shelf: "live" }, fromBars(bars), transaction);
    await Market.increment("revision", { where: { id: market.id }, transaction });
  });
async function marketOf(bars: readonly Bar[]): Promise<Market> {
  const market = await aMarket();
  await add(market, bars);
  return (await Market.findByPk(market.id))!;
}
const plain = (value: unknown) => JSON.parse(JSON.stringify(value)) as unknown;

describe("what a market's rungs say", () => {
  it("after each new bar is what a market read for the first time says, kept or worked out", async () => {
    const grown = await marketOf(hours(0, 500));
    for (const count of [500, 501, 524, 700]) {
      const before = await Market.findByPk(grown.id);
      const last = (await readingsOf(before!, ["PT1H"], params)).rungs[0].until;
      if (last !== undefined && count > 500) await add(grown, hours((last - START) / HOUR + 1, count));
      await setClock(START + count * HOUR);
      const now = (await Market.findByPk(grown.id))!;
      const [first, again] = [await readingsOf(now, RUNGS, params), await readingsOf(now, RUNGS, params)];
      const fresh = await readingsOf(await marketOf(hours(0, count)), RUNGS, params);
      expect(plain(first)).toEqual(plain(fresh));
      expect(plain(again)).toEqual(plain(first));
      expect(first.facts.length).toBeGreaterThan(10);
    }
  }, 60_000);
  it("only speaks of closed bars, and of none that came after the moment it is put to", async () => {
    const poisoned = hours(0, 300).map((bar, i) =>
      i < 250 ? bar : { ...bar, open: 1e6, high: 1e6, low: 1e6, close: 1e6 },
    );
    const market = await marketOf(poisoned);
    await setClock(START + 300 * HOUR);
    const past = await readingsOf(market, RUNGS, params, START + 250 * HOUR);
    expect(past.facts.length).toBeGreaterThan(5);
    expect(Math.max(...past.facts.map(({ top }) => top), ...past.rungs.map(({ close }) => close))).toBeLessThan(1e4);
    expect(past.rungs.map(({ until }) => until)).toEqual([
      START + 9 * 24 * HOUR,
      START + 244 * HOUR,
      START + 249 * HOUR,
    ]);
  });
  it("is kept until the next bar of the rung closes or bars change", async () => {
    const market = await marketOf(hours(0, 300));
    await setClock(START + 300 * HOUR);
    await readingsOf(market, RUNGS, params);
    const rows = await ReadingRow.findAll({ where: { marketId: market.id } });
    expect(rows).toHaveLength(3);
    // What is kept is what is told: a line that was never worked out comes back.
    await rows[0].update({ reading: { ...(rows[0].reading as object), close: 77 } });
    expect((await readingsOf(market, [rows[0].rung], params)).rungs[0].close).toBe(77);
    // A bar that is still being made changes nothing; its close does, and so do closed bars that say something else
    // now.
    await market.update({ revision: market.revision + 1 });
    expect((await readingsOf(market, [rows[0].rung], params)).rungs[0].close).toBe(77);
    await market.update({ history: market.history + 1 });
    expect((await readingsOf(market, [rows[0].rung], params)).rungs[0].close).not.toBe(77);
  });
  it("of a market without bars is nothing, in words that can be sent", async () => {
    const market = await aMarket();
    await setClock(START);
    expect(plain(await readingsOf(market, ["P1D"], params))).toEqual({
      rungs: [
        {
          rung: "P1D",
          atr: 0,
          close: 0,
          legs: [],
          labels: [],
          candles: [],
          bearing: { direction: "sideways", score: 0, reasons: [] },
        },
      ],
      facts: [],
    });
  });
});

describe("what is looked for", () => {
  it("is kept for each set of an analyst; nonsense and other people's sets are refused", async () => {
    const [ada, ben] = [await anAnalyst(), await anAnalyst()];
    expect(await findingParamsOf(ada.id, "")).toEqual(FINDING_DEFAULTS);
    await saveFindingParams(ada.id, "", { k: 5 });
    expect([(await findingParamsOf(ada.id, "")).k, (await findingParamsOf(ben.id, "")).k]).toEqual([5, 3]);
    expect((await failureOf(saveFindingParams(ada.id, "", { k: 0 }))).sentence).toMatch(/number from 1 to 20/);
    expect((await failureOf(saveFindingParams(ada.id, "nobody's", {}))).code).toBe("not-found");
  });
});
