import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import type { Scenario } from "#core/scenarios/scenario";
import { fromBars, type Bar } from "#core/series/series";
import type { CalendarSpec } from "#core/time/calendar";
import { appendBars } from "../bars/chunks.ts";
import { lockMarket } from "../bars/markets.ts";
import { transact } from "../database/connection.ts";
import type { Market } from "../database/models.ts";
import { OutcomeNoteRow } from "../database/models.ts";
import { importUpload } from "../intake/import.ts";
import { lastPage } from "../record/told/book.ts";
import { followUpsOf } from "../publishing/editions.ts";
import {
  aMarket,
  anAnalyst,
  aPublishedScenario,
  confirmation,
  setClock,
  upload,
  watchersOf,
  withTables,
} from "../testing.ts";
import { barsAppended } from "./changes.ts";

withTables();

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** A Monday. */
const MONDAY = Date.UTC(2024, 0, 8);
type Row = [time: number, open: number, high: number, low: number, close: number];
const barOf = ([time, open, high, low, close]: Row): Bar => ({ time, open, high, low, close, volume: 1 });

async function append(marketId: string, base: string, now: number, ...rows: Row[]): Promise<void> {
  await setClock(now);
  await transact(async (transaction) => {
    const market = await lockMarket(marketId, transaction);
    await appendBars({ marketId, base, shelf: "live" }, fromBars(rows.map(barOf)), transaction);
    await barsAppended([market], now, transaction);
  });
}

async function marketOf(calendar?: CalendarSpec): Promise<Market> {
  const market = await aMarket(randomUUID());
  if (calendar) await market.update({ calendar });
  return market;
}

/** Long at the next open after a day has closed above 100, stop 95, half at 105 and half at 110, wrong below 90. */
const scenario: Partial<Scenario> = {
  trigger: { event: "closeAbove", price: 100, timeframe: "P1D" },
  entry: { order: "market", price: 101 },
  stop: 95,
  targets: [
    { price: 105, share: 0.5 },
    { price: 110, share: 0.5 },
  ],
  invalidation: 90,
};
const said = async (edition: number) =>
  (await followUpsOf(edition)).map(({ event: { event, target } }) => (target ? `${event} ${target}` : event));

describe("a published outcome", () => {
  it("is told each stretch of time once: days, and then the hours of the same days, invent nothing", async () => {
    const market = await marketOf();
    await append(market.id, "P1D", MONDAY, [MONDAY - DAY, 98, 99, 97, 98]);
    const edition = await aPublishedScenario(market.id, scenario);
    await append(market.id, "P1D", MONDAY + DAY, [MONDAY, 98, 102, 97, 101]);
    // It opened at the entry, went nowhere, and is still open.
    await append(market.id, "P1D", MONDAY + 2 * DAY, [MONDAY + DAY, 101, 103, 99, 102]);
    expect(await said(edition)).toEqual(["triggered", "entered"]);
    // The same Tuesday by its hours: up through the first target and down to the stop, had they been told.
    const hours: Row[] = [
      [MONDAY + DAY, 101, 105.5, 101, 105],
      [MONDAY + DAY + HOUR, 105, 105, 94, 99],
    ];
    await append(market.id, "PT1H", MONDAY + 2 * DAY, ...hours);
    expect(await said(edition)).toEqual(["triggered", "entered"]);
    // Wednesday has no hours, and goes on as a day.
    await append(market.id, "P1D", MONDAY + 3 * DAY, [MONDAY + 2 * DAY, 102, 106, 101.5, 104]);
    expect(await said(edition)).toEqual(["triggered", "entered", "target 1", "breakEven"]);
  });
  it("of a scenario published before the session sees that very day", async () => {
    const market = await marketOf({
      zone: "America/New_York",
      sessions: [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }],
    });
    await append(market.id, "P1D", MONDAY - 2 * DAY, [MONDAY - 3 * DAY, 98, 99, 97, 98]);
    // Monday, 08:00 in New York.
    await setClock(MONDAY + 13 * HOUR);
    const edition = await aPublishedScenario(market.id, scenario);
    await append(market.id, "P1D", MONDAY + DAY, [MONDAY, 98, 102, 97, 101]);
    expect(await said(edition)).toEqual(["triggered"]);
  });
  it("is not ended by a price of a bar that had opened before it was published", async () => {
    const market = await marketOf();
    const hour = MONDAY - HOUR;
    await append(market.id, "PT1H", hour, [hour - HOUR, 98, 99, 97, 98]);
    // Sunday 23:30; the low of 23:10 lies within the hour that is being made.
    await setClock(hour + HOUR / 2);
    const edition = await aPublishedScenario(market.id, scenario);
    await append(market.id, "PT1H", MONDAY, [hour, 98, 98, 89, 97]);
    expect(await said(edition)).toEqual([]);
    await append(market.id, "PT1H", MONDAY + HOUR, [MONDAY, 97, 97, 89, 96]);
    expect(await said(edition)).toEqual(["invalid"]);
  });
  it("sees the close of a week that its calendar says nothing of, with the first day after it", async () => {
    const market = await marketOf();
    await append(market.id, "P1D", MONDAY, [MONDAY - 3 * DAY, 98, 99, 97, 98]);
    const edition = await aPublishedScenario(market.id, {
      ...scenario,
      trigger: { ...scenario.trigger!, timeframe: "P1W" },
    });
    const days = [0, 1, 2, 3, 4].map((n): Row => [MONDAY + n * DAY, 101, 102, 100, 101]);
    await append(market.id, "P1D", MONDAY + 6 * DAY, ...days);
    expect(await said(edition)).toEqual([]);
    await append(market.id, "P1D", MONDAY + 8 * DAY, [MONDAY + 7 * DAY, 101, 102, 100, 101]);
    expect(await said(edition)).toEqual(["triggered"]);
  });
  it("finer bars that come late make a note that says whether they would have told something else", async () => {
    const { id: analyst } = await anAnalyst();
    const market = await marketOf();
    await append(market.id, "P1D", MONDAY, [MONDAY - DAY, 98, 99, 97, 98]);
    const edition = await aPublishedScenario(market.id, scenario);
    const days: Row[] = [
      [MONDAY, 98, 102, 97, 101],
      [MONDAY + DAY, 101, 106, 94, 104],
    ];
    await append(market.id, "P1D", MONDAY + 2 * DAY, ...days);
    // Within one day both stop and target: the worst of it counts.
    expect((await followUpsOf(edition)).at(-1)?.event).toMatchObject({ event: "stopped", ambiguous: true });
    const hour = (n: number, open: number, close: number) =>
      `2024-01-09T${String(n).padStart(2, "0")}:00Z,${open},${Math.max(open, close)},${Math.min(open, close)},${close}`;
    // Its hours: first the target, then back to the entry.
    const file = `time,open,high,low,close\n${[hour(0, 101, 106), hour(1, 106, 94), hour(2, 94, 104)].join("\n")}`;
    await importUpload(await upload(file, analyst), confirmation({ market: market.id, base: "PT1H" }), analyst);
    expect((await followUpsOf(edition)).at(-1)?.event).toMatchObject({ event: "stopped", r: -1 });
    const [{ note }] = await OutcomeNoteRow.findAll({ where: { edition } });
    expect(note).toMatchObject({
      note: "finer",
      cause: "import",
      same: false,
      last: { event: "stopped", r: expect.closeTo(1 / 3) as number },
    });
  });
});

describe("watchers", () => {
  it("a bar and what it told are kept together or not at all", async () => {
    const market = await marketOf();
    await append(market.id, "P1D", MONDAY, [MONDAY - DAY, 98, 99, 97, 98]);
    const edition = await aPublishedScenario(market.id, scenario);
    const day = fromBars([barOf([MONDAY, 98, 102, 97, 101])]);
    const attempt = transact(async (transaction) => {
      const locked = await lockMarket(market.id, transaction);
      await appendBars({ marketId: market.id, base: "P1D", shelf: "live" }, day, transaction);
      await barsAppended([locked], MONDAY + DAY, transaction);
      throw new Error("The light went out.");
    });
    await expect(attempt).rejects.toThrow("light");
    expect(await said(edition)).toEqual([]);
    // What this process had ready of the market stands further than the market does, and is made anew.
    await append(market.id, "P1D", MONDAY + DAY, [MONDAY, 98, 99, 97, 98.5]);
    expect(await said(edition)).toEqual([]);
    await append(market.id, "P1D", MONDAY + 2 * DAY, [MONDAY + DAY, 98.5, 102, 97, 101]);
    expect(await said(edition)).toEqual(["triggered"]);
  });
  it("that have nothing to say are not written again, and pages say how far they were told", async () => {
    const market = await marketOf();
    await append(market.id, "P1D", MONDAY, [MONDAY - DAY, 98, 99, 97, 98]);
    const edition = await aPublishedScenario(market.id, scenario);
    await append(market.id, "P1D", MONDAY + DAY, [MONDAY, 98, 99, 97, 98]);
    const [before] = await watchersOf(edition);
    await append(market.id, "P1D", MONDAY + 2 * DAY, [MONDAY + DAY, 98, 99.5, 96, 97]);
    const [row] = await watchersOf(edition);
    expect(row.state).toEqual(before.state);
    expect(row).toMatchObject({ done: false, through: null, since: MONDAY });
    expect((await lastPage(market.id))?.through).toBe(MONDAY + 2 * DAY);
  });
});
