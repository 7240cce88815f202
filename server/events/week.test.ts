import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { appendBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { aMarket, aPublishedScenario, setClock, withTables } from "../testing.ts";
import { storeEvents } from "./events.ts";
import { weekFrom } from "./week.ts";

withTables();

const DAY = 86_400_000;
const HOUR = 3_600_000;
const START = Date.UTC(2024, 0, 1);

describe("the week ahead", () => {
  it("has what earlier releases of a name did, what is open on whom it touches, and who stands still", async () => {
    const market = await aMarket(randomUUID());
    const now = START + 40 * DAY;
    // Days of a range of 2; at the releases of two days price goes 3 and 1 within the hour.
    const quarters = Array.from({ length: 40 * 96 }, (_, i) => {
      const time = START + i * 900_000;
      const moved = time === START + 20 * DAY + 8 * HOUR ? 3 : time === START + 30 * DAY + 8 * HOUR ? 1 : 0;
      const noon = i % 96 === 48 ? 1 : 0;
      return { time, open: 100, high: 100 + Math.max(moved, noon), low: 100 - noon, close: 100, volume: 1 };
    });
    await transact((transaction) =>
      appendBars({ marketId: market.id, base: "PT15M", shelf: "live" }, fromBars(quarters), transaction),
    );
    await setClock(now);
    const [holiday, half] = [1, 2].map((days) => new Date(now + days * DAY).toISOString().slice(0, 10));
    await market.update({ calendar: { ...market.calendar, holidays: [holiday], halfDays: { [half]: "12:00" } } });
    const number = await aPublishedScenario(market.id, { title: "Open one" });
    const release = (at: number, title = "Wages") => ({
      ...{ uid: `${title} ${at}`, kind: "release" as const, title, at, allDay: false, impact: 3 as const },
      ...{ currencies: [], region: "", sector: "", markets: [market.id], actual: "1" },
    });
    const times = [20, 30, 41].map((days) => START + days * DAY + 8 * HOUR);
    await storeEvents([...times.map((at) => release(at)), release(now + 2 * DAY, "Never before")], "t");
    const { events, closed } = await weekFrom(now);
    const own = events.filter(({ markets }) => markets.includes(market.id));
    expect(own.map(({ title, touched }) => [title, touched])).toEqual([
      ["Wages", [market.name]],
      ["Never before", [market.name]],
    ]);
    // ATR is about 2: it moved by three halves of it, and by half of it.
    expect(own[0].reactions).toMatchObject([{ market: market.name, n: 2, median: expect.closeTo(1, 1) as number }]);
    expect(own[1].reactions).toEqual([]);
    expect(own[0].open).toEqual([{ title: "Open one", edition: number, market: market.name }]);
    expect(closed.find(({ date }) => date === holiday)?.closed).toContain(market.name);
    expect(closed.find(({ date }) => date === half)?.early).toContainEqual({ market: market.name, at: "12:00" });
  });
});
