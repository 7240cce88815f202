import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { openCell, safeCell } from "#core/csv/safe";
import { barAt, fromBars, type Bar, type Series } from "#core/series/series";
import { transact } from "../database/connection.ts";
import { Market } from "../database/models.ts";
import { aMarket, anAnalyst, confirmation, failureOf, upload, withTables } from "../testing.ts";
import { appendBars } from "./chunks.ts";
import { barsAsCsv, barsAsJson } from "./export.ts";
import { importUpload, inspectUpload, type Inspection } from "../intake/import.ts";
import { seriesOf } from "./series.ts";
import { saveMarket } from "./settings.ts";

withTables();

const bars = (series: Series) => Array.from({ length: series.length }, (_, i) => barAt(series, i));
const PRICE = fc.double({ min: 1e-8, max: 1e9, noNaN: true });

async function whole(parts: AsyncGenerator<string>): Promise<string> {
  let text = "";
  for await (const part of parts) text += part;
  return text;
}

/** A market with bars of any price there may be, at minutes or days in a row with gaps. */
async function marketWith(
  base: "PT1M" | "P1D",
  list: readonly [number, number, number, number, number][],
): Promise<{ market: Market; stored: Bar[] }> {
  const market = await aMarket();
  const length = base === "PT1M" ? 60_000 : 86_400_000;
  const stored = list.map(([gap, a, b, c, d], i): Bar => ({
    time: Date.UTC(2024, 2, 1) + (i * 40 + gap) * length,
    open: a,
    high: Math.max(a, b, c, d),
    low: Math.min(a, b, c, d),
    close: c,
    volume: d,
  }));
  await transact((transaction) =>
    appendBars({ marketId: market.id, base, shelf: "live" }, fromBars(stored), transaction),
  );
  return { market: (await Market.findByPk(market.id))!, stored };
}

describe("exported bars", () => {
  it.each([
    ["CSV", "PT1M", barsAsCsv],
    ["CSV", "P1D", barsAsCsv],
    ["JSON", "PT1M", barsAsJson],
    ["JSON", "P1D", barsAsJson],
  ] as const)("as %s of %s come back to the last bit", async (_format, base, write) => {
    const { id } = await anAnalyst();
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(39), PRICE, PRICE, PRICE, PRICE), { minLength: 2, maxLength: 40 }),
        async (list) => {
          const { market, stored } = await marketWith(base, list);
          const text = await whole(write(market, base));
          const report = await importUpload(await upload(text, id), confirmation({ base }), id);
          const again = await Market.findByPk(report.market);
          expect(bars(await seriesOf(again!, base))).toEqual(stored);
        },
      ),
      { numRuns: 12 },
    );
  });
  it("JSON brings the market's sessions and units along", async () => {
    const { id } = await anAnalyst();
    const { market } = await marketWith("PT1M", [
      [0, 1, 2, 1, 1],
      [1, 1, 2, 1, 1],
    ]);
    await saveMarket(market.id, {
      name: "Isle glass",
      kind: "commodity",
      tick: 0.25,
      pip: 1,
      pipName: "pt",
      decimals: 2,
      zone: "Asia/Kolkata",
      sessions: [{ days: [5, 1, 1], open: "09:00", close: "12:00", opensDayBefore: false, kind: "regular" }],
      holidays: ["2026-12-25"],
      halfDays: [{ date: "2026-12-24", close: "11:00" }],
    });
    const source = (await Market.findByPk(market.id))!;
    const file = await upload(await whole(barsAsJson(source, "PT1M")), id, "glass.json");
    const { about } = (await inspectUpload(file, { zone: "UTC" }, id)) as Inspection;
    expect(about).toMatchObject({ name: "Isle glass", pip: 1, calendar: source.calendar });
    const { market: made } = await importUpload(
      file,
      confirmation({ base: "PT1M", zone: "Asia/Kolkata", tick: 0.25 }),
      id,
    );
    expect(await Market.findByPk(made)).toMatchObject({ pip: 1, pipName: "pt", calendar: source.calendar });
  });
  it("a derived rung can be exported like a stored one", async () => {
    const { market } = await marketWith("PT1M", [
      [0, 1, 2, 1, 1],
      [1, 3, 4, 3, 1],
    ]);
    expect(await whole(barsAsCsv(market, "P1D"))).toBe("date,open,high,low,close,volume\n2024-03-01,1,4,1,3,2\n");
    expect(await failureOf(whole(barsAsCsv(market, "soon")))).toMatchObject({ code: "timeframe" });
  });
  it.each([
    ["JSON of something else", '{"format":"other","bars":[]}', /no file of bars/],
    ["half of JSON", '{"format":"even-compass-bars-1","bars":[[', /begins like JSON/],
    [
      "bars that are none",
      '{"format":"even-compass-bars-1","columns":["time","open","high","low","close"],"bars":[7,{"a":1}]}',
      /column of dates is empty/,
    ],
  ])("%s is refused calmly", async (_name, text, words) => {
    const { id } = await anAnalyst();
    const file = await upload(text, id);
    const outcome = await (inspectUpload(file, { zone: "UTC" }, id) as Promise<Inspection>).then(
      (found) => `${found.faultCount} rows`,
      (error: { sentence: string }) => error.sentence,
    );
    expect(outcome).toMatch(words);
  });
  it("what a hostile file says of its market is left aside", async () => {
    const { id } = await anAnalyst();
    const head = {
      format: "even-compass-bars-1",
      columns: ["time", "open", "high", "low", "close"],
      bars: [["2024-01-02", 1, 1, 1, 1]],
    };
    for (const market of [
      { name: "X" },
      { calendar: { zone: "Moon/Sea", sessions: [] } },
      [],
      "text",
      { name: "X", calendar: { zone: "UTC", sessions: "all" } },
    ])
      expect(
        await inspectUpload(await upload(JSON.stringify({ ...head, market }), id), { zone: "UTC" }, id),
      ).not.toHaveProperty("about");
  });
});

describe("cells of text", () => {
  it("never begin as a formula does, and come back as they were", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.string().map((text) => `=${text}`),
          fc.constantFrom("'", "''=1", "@SUM(A1)", "+1", "-1", "\t=1", "\uff1d1"),
        ),
        (text) => {
          expect(openCell(safeCell(text))).toBe(text);
          expect(safeCell(text)).not.toMatch(/^[=+\-@\t\r\n\uff1d\uff0b\uff0d\uff20]/);
        },
      ),
    );
  });
});
