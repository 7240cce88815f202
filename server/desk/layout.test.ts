import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { LayoutDto, MOST_PANES } from "#contracts/layout";
import { readDto } from "#contracts/read";
import { EVERYTHING } from "#core/marks/shown";
import { appendBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { LayoutRow } from "../database/models.ts";
import { aMarket, anAnalyst, failureOf, minutes, setClock, withTables } from "../testing.ts";
import { layoutOf, ONE_CHART, saveLayout } from "./layout.ts";
import { relationAt } from "./relation.ts";

withTables();

const panes = (count: number) => Array.from({ length: count }, () => ({ market: "", rung: "PT4H" }));

describe("the charts side by side", () => {
  it("are kept for each analyst, and one is there at first", async () => {
    const [one, other, market] = [await anAnalyst(), await anAnalyst(), await aMarket()];
    expect(await layoutOf(one.id)).toEqual(ONE_CHART);
    const layout = {
      panes: [
        { market: "", rung: "P1W" },
        { market: market.id, rung: "PT45M" },
      ],
      shown: { without: ["note"], higher: false, dead: true },
    };
    await saveLayout(layout, one.id);
    await saveLayout({ ...layout, panes: panes(1) }, other.id);
    expect(await layoutOf(one.id)).toEqual(layout);
  });
  it("of a market that was removed are left out", async () => {
    const { id } = await anAnalyst();
    await saveLayout({ panes: [...panes(1), { market: "gone", rung: "P1D" }], shown: EVERYTHING }, id);
    expect((await layoutOf(id)).panes).toEqual(panes(1));
    await LayoutRow.update({ layout: { panes: "many" } }, { where: { accountId: id } });
    expect(await layoutOf(id)).toEqual(ONE_CHART);
  });
  it.each([
    ["none", { panes: [], shown: EVERYTHING }],
    ["more than six", { panes: panes(MOST_PANES + 1), shown: EVERYTHING }],
    ["a rung that is none", { panes: [{ market: "", rung: "hourly" }], shown: EVERYTHING }],
    ["what is left out missing", { panes: panes(1) }],
    ["hostile kinds", { panes: panes(1), shown: { ...EVERYTHING, without: [5] } }],
  ])("%s are refused", (_name, layout) => expect(readDto(LayoutDto, layout).ok).toBe(false));
});

describe("two markets at one instant", () => {
  const start = Date.UTC(2024, 0, 2);
  async function pair() {
    const [here, there] = [await aMarket(), await aMarket()];
    await transact(async (transaction) => {
      await appendBars(
        { marketId: here.id, base: "PT1M", shelf: "live" },
        minutes(start, [100, 101, 102, 110]),
        transaction,
      );
      await appendBars(
        { marketId: there.id, base: "PT1M", shelf: "live" },
        minutes(start, [50, 50.5, 51, 50]),
        transaction,
      );
    });
    await setClock(start + 240_000);
    return [here.id, there.id] as const;
  }
  it("cost what was known then: the minute that was running is not", async () => {
    const [here, there] = await pair();
    expect(await relationAt(here, there, start + 120_000)).toEqual({
      at: start + 120_000,
      here: 101,
      there: 50.5,
      now: { at: start + 240_000, here: 110, there: 50 },
    });
  });
  it("in the past do not know the present, nor a time to come", async () => {
    const [here, there] = await pair();
    expect(await relationAt(here, there, start + 9e6, start + 180_000)).toMatchObject({
      at: start + 180_000,
      here: 102,
      now: { here: 102 },
    });
  });
  it("before the first bar, or with a market that is none, say so", async () => {
    const [here] = await pair();
    expect(await failureOf(relationAt(here, here, start - 1))).toMatchObject({ code: "early" });
    expect(await failureOf(relationAt(here, randomUUID(), start + 60_000))).toMatchObject({ code: "not-found" });
  });
});
