import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { DEFAULT_SET } from "#core/time/rungs";
import { appendBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { aMarket, anAnalyst, failureOf, setClock, withTables } from "../testing.ts";
import { boardOf, boardRow } from "./board.ts";

withTables();

const START = Date.UTC(2024, 0, 1);
const DAY = 86_400_000;

describe("the board of the round", () => {
  it("comes at once with what is kept; what is not is asked for market by market, and kept from then on", async () => {
    const { id } = await anAnalyst();
    const [rich, bare] = [await aMarket("rich"), await aMarket("bare")];
    const bars = Array.from({ length: 120 }, (_, i) => ({ time: START + i * DAY, open: 100 + i, high: 103 + i, low: 99 + i - 3 * (i % 5), close: 101 + i - (i % 5), volume: 1 }));
    await transact((transaction) => appendBars({ marketId: rich.id, base: "P1D", shelf: "live" }, fromBars(bars), transaction));
    await setClock(START + 119.5 * DAY);
    const rungs = DEFAULT_SET.rungs.map(({ rung }) => rung);
    const first = await boardOf(id);
    expect(first.rungs).toEqual(rungs);
    expect(first.rows.map(({ name, cells }) => [name, cells])).toEqual([["bare", rungs.map(() => null)], ["rich", rungs.map(() => null)]]);
    const row = await boardRow(rich.id, id);
    expect(row.cells.map((cell) => cell?.rung)).toEqual(rungs);
    // The last day is still being made: the one before is the last that closed.
    expect(row.cells.find((cell) => cell?.rung === "P1D")).toMatchObject({ close: bars[118].close, bearing: { direction: "up" } });
    expect(row.cells.find((cell) => cell?.rung === "PT1H")?.close).toBeUndefined();
    expect((await boardRow(bare.id, id)).cells.every((cell) => cell?.close === undefined)).toBe(true);
    const kept = (await boardOf(id)).rows.find((one) => one.id === rich.id);
    // Rungs without bars are never kept: they are asked for each time.
    expect(kept?.cells.map((cell) => cell?.rung)).toEqual(rungs.map((rung) => (rung.startsWith("PT") ? undefined : rung)));
    expect((await failureOf(boardRow("nowhere", id))).code).toBe("not-found");
  });
});
