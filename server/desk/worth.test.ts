import { describe, expect, it } from "vitest";
import { fromBars, type Bar } from "#core/series/series";
import { appendBars } from "../bars/chunks.ts";
import { findMarket } from "../bars/markets.ts";
import { transact } from "../database/connection.ts";
import { Market, WorthRow } from "../database/models.ts";
import { aMarket, setClock, withTables } from "../testing.ts";
import { keptWorth, measured, worthOfMarket } from "./worth.ts";

withTables();

const DAY = 86_400_000;
const START = Date.UTC(2024, 0, 1);
const bars = (from: number, to: number): Bar[] =>
  Array.from({ length: to - from }, (_, n) => {
    const i = from + n;
    const price = (at: number) => Math.round(100 + 20 * Math.sin(at / 17) + 9 * Math.sin(at / 5) + (at % 7));
    const [open, close] = [price(i - 1), price(i)];
    const [high, low] = [Math.max(open, close) + (i % 3), Math.min(open, close) - (i % 2)];
    return { time: START + i * DAY, open, high, low, close, volume: 1 };
  });
const add = (market: Market, from: number, to: number) =>
  transact(async (transaction) => {
    const part = { marketId: market.id, base: "P1D", shelf: "live" } as const;
    await appendBars(part, fromBars(bars(from, to)), transaction);
    await Market.increment("revision", { where: { id: market.id }, transaction });
  });

describe("what findings were worth on a market", () => {
  it("is measured once it is asked for, of closed bars alone, and kept until enough bars have come", async () => {
    const { id } = await aMarket();
    await add(await findMarket(id), 0, 300);
    // The last bar is still open.
    await setClock(START + 299.5 * DAY);
    const ask = async () => worthOfMarket(await findMarket(id), ["P1D"]);
    expect(await ask()).toEqual({ rungs: [], measuring: ["P1D"] });
    // Asked for twice it is measured once.
    expect((await ask()).measuring).toEqual(["P1D"]);
    await measured();
    const { rungs, measuring } = await ask();
    expect(measuring).toEqual([]);
    expect(rungs).toMatchObject([{ rung: "P1D", bars: 299, to: START + 298 * DAY }]);
    expect(rungs[0].kinds.length).toBeGreaterThan(2);

    await add(await findMarket(id), 300, 318);
    await setClock(START + 318 * DAY);
    expect((await ask()).measuring).toEqual([]);
    await add(await findMarket(id), 318, 319);
    await setClock(START + 319 * DAY);
    // What was known stands until the new is there.
    expect(await ask()).toMatchObject({ rungs: [{ bars: 299 }], measuring: ["P1D"] });
    await measured();
    expect((await ask()).rungs).toMatchObject([{ bars: 319 }]);
  });

  it("of bars that were changed, or by other rules, is not told", async () => {
    const { id } = await aMarket();
    await add(await findMarket(id), 0, 100);
    await setClock(START + 100 * DAY);
    await worthOfMarket(await findMarket(id), ["P1D"]);
    await measured();
    expect(await keptWorth(await findMarket(id), ["P1D"])).toHaveLength(1);
    await Market.increment("history", { where: { id } });
    expect(await keptWorth(await findMarket(id), ["P1D"])).toEqual([]);
    expect((await worthOfMarket(await findMarket(id), ["P1D"])).rungs).toEqual([]);
    await measured();
    await WorthRow.update({ rules: 0 }, { where: { marketId: id } });
    expect(await keptWorth(await findMarket(id), ["P1D"])).toEqual([]);
  });

  it("of a rung without bars is nothing, and nothing is begun", async () => {
    const { id } = await aMarket();
    expect(await worthOfMarket(await findMarket(id), ["P1D"])).toEqual({ rungs: [], measuring: [] });
  });
});
