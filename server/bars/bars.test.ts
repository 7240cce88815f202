import { describe, expect, it } from "vitest";
import { LARGEST_FILE } from "#contracts/market";
import { barAt, concat, slice } from "#core/series/series";
import { transact } from "../database/connection.ts";
import { BarChunk, BarImport, Market } from "../database/models.ts";
import { aMarket, anAnalyst, confirmation, dailyFile, failureOf, minutes, upload, withTables } from "../testing.ts";
import { appendBars, readBars, replaceFrom, type Shelf } from "./chunks.ts";
import { importUpload, inspectUpload, type Inspection } from "../intake/import.ts";
import { slugOf } from "./slug.ts";
import { seriesOf } from "./series.ts";
import { findUpload } from "./uploads.ts";

withTables();

const START = Date.UTC(2024, 0, 1);
const list = (series: Awaited<ReturnType<typeof readBars>>) =>
  Array.from({ length: series.length }, (_, i) => barAt(series, i));

describe("stored bars", () => {
  it("come back as they went in, whole and by range, however they were appended", async () => {
    const { id } = await aMarket();
    const shelf: Shelf = { marketId: id, base: "PT1M", shelf: "live" };
    const all = minutes(
      START,
      Array.from({ length: 9000 }, (_, i) => 100 + (i % 37)),
    );
    let at = 0;
    for (const size of [1, 1, 500, 30, 700, 1, 7000, 1, 1, 5, 700, 60]) {
      await transact((transaction) => appendBars(shelf, slice(all, at, at + size), transaction));
      at += size;
    }
    expect(list(await readBars(shelf))).toEqual(list(slice(all, 0, at)));
    const part = await readBars(shelf, START + 600 * 60_000, START + 8000 * 60_000);
    expect(list(part)).toEqual(list(slice(all, 600, 8000)));
    // Before the first, at and beside the first and last bar of chunks, between two bars, after the last.
    for (const from of [-5, 0, 1, 501, 502, 1231, 1232, 1232.5, 8231, 8239, at - 1, at, at + 9]) {
      const [first, to] = [Math.max(0, Math.ceil(from)), Math.ceil(from) + 3];
      const range = await readBars(shelf, START + from * 60_000, START + to * 60_000);
      expect(list(range), `from ${from}`).toEqual(list(slice(all, Math.min(first, at), Math.max(0, Math.min(to, at)))));
    }
    await transact((transaction) => replaceFrom(shelf, START + 5000 * 60_000, slice(all, 5000, 5100), transaction));
    expect(list(await readBars(shelf))).toEqual(list(slice(all, 0, 5100)));
  });
  it("small chunks are packed into whole ones, so a year of minutes is not a thousand rows", async () => {
    const { id } = await aMarket();
    const shelf: Shelf = { marketId: id, base: "PT1M", shelf: "live" };
    for (let i = 0; i < 40; i++) {
      const part = minutes(
        START + i * 300 * 60_000,
        Array.from({ length: 300 }, () => 5),
      );
      await transact((transaction) => appendBars(shelf, part, transaction));
    }
    expect(await BarChunk.count({ where: { marketId: id } })).toBeLessThan(10);
    expect((await readBars(shelf)).length).toBe(12_000);
  });
  it("a bar that does not follow is refused and nothing is half stored", async () => {
    const { id } = await aMarket();
    const shelf: Shelf = { marketId: id, base: "PT1M", shelf: "live" };
    await transact((transaction) => appendBars(shelf, minutes(START, [1, 2, 3]), transaction));
    await expect(
      transact((transaction) => appendBars(shelf, minutes(START + 60_000, [9]), transaction)),
    ).rejects.toThrow(/must follow/);
    expect((await readBars(shelf)).length).toBe(3);
  });
  it("a rung is made of daily bars and, where they begin, of minutes", async () => {
    const market = await aMarket();
    const day = 86_400_000;
    await transact(async (transaction) => {
      const daily = concat([0, 1].map((n) => slice(minutes(START + n * day, [50, 50]), 0, 1)));
      await appendBars({ marketId: market.id, base: "P1D", shelf: "live" }, daily, transaction);
      await appendBars(
        { marketId: market.id, base: "PT1M", shelf: "live" },
        minutes(
          START + 2 * day,
          Array.from({ length: 1440 }, () => 70),
        ),
        transaction,
      );
    });
    const series = await seriesOf(market, "P1D");
    expect([...series.close]).toEqual([50, 50, 70]);
    expect((await failureOf(seriesOf(market, "tomorrow"))).sentence).toContain("is not a timeframe");
  });
});

describe("importing a file", () => {
  it("makes a market, says it when the very file comes again, and extends it with a later one", async () => {
    const { id } = await anAnalyst();
    const file = dailyFile(0, 30);
    const first = await importUpload(await upload(file, id), confirmation(), id);
    expect(first).toMatchObject({ added: 30, already: false });
    const revision = (await Market.findByPk(first.market))!.revision;
    const again = await importUpload(await upload(file, id), confirmation({ market: first.market }), id);
    expect(again).toMatchObject({ added: 0, already: true });
    expect((await Market.findByPk(first.market))!.revision).toBe(revision);
    const later = await importUpload(await upload(dailyFile(20, 20), id), confirmation({ market: first.market }), id);
    expect(later).toMatchObject({ added: 10, same: 10 });
    expect((await readBars({ marketId: first.market, base: "P1D", shelf: "live" })).length).toBe(40);
  });
  it("a new market trades when its bars show it does, or always if that was asked; its tick is no noise", async () => {
    const { id } = await anAnalyst();
    const rows = dailyFile(0, 90).split("\n");
    // 1 January 2020 is a Wednesday: weekends are left out, and prices are as single-precision storage writes them.
    const weekdays = rows
      .filter((row) => !["0", "6"].includes(String(new Date(row.slice(0, 10)).getUTCDay())))
      .map((row) => row.replaceAll(",10,", ",10.420000,").replaceAll(",11,", ",11.420000076,"));
    const file = weekdays.join("\n");
    const inspection = (await inspectUpload(await upload(file, id), { zone: "UTC" }, id)) as Inspection;
    expect(inspection.sessions).toEqual([{ days: [1, 2, 3, 4, 5], open: "00:00", close: "24:00" }]);
    expect(inspection.decimals).toBe(2);
    const shown = await importUpload(await upload(file, id), confirmation({ hours: "shown" }), id);
    expect(shown.gaps.count).toBe(0);
    const all = await importUpload(await upload(`${file}\n`, id), confirmation({ hours: "all" }), id);
    expect(all.gaps.count).toBe(13);
  });
  it("stores nothing while rows are bad, and leaves out exactly those once agreed", async () => {
    const { id } = await anAnalyst();
    const rows = dailyFile(0, 10).split("\n");
    rows[5] = "2020-01-05,1,0.5,2,1,1";
    const text = rows.join("\n");
    const name = confirmation().name;
    const failure = await failureOf(importUpload(await upload(text, id), confirmation({ name }), id));
    expect(failure).toMatchObject({ code: "bad-rows", details: { kept: "Nothing was stored." } });
    expect(await Market.findByPk(slugOf(name))).toBeNull();
    const report = await importUpload(await upload(text, id), confirmation({ name, badRows: "leaveOut" }), id);
    expect(report).toMatchObject({ added: 9, leftOut: [{ line: 6, reason: "The high is below the low." }] });
  });
  it("asks which stands when a file says other values", async () => {
    const { id } = await anAnalyst();
    const { market } = await importUpload(await upload(dailyFile(0, 5, 10), id), confirmation(), id);
    const other = dailyFile(0, 5, 20);
    expect(await failureOf(importUpload(await upload(other, id), confirmation({ market }), id))).toMatchObject({
      code: "differing",
    });
    const shelf: Shelf = { marketId: market, base: "P1D", shelf: "live" };
    expect((await readBars(shelf)).close[0]).toBe(10);
    await importUpload(await upload(other, id), confirmation({ market, differing: "file" }), id);
    expect((await readBars(shelf)).close[0]).toBe(20);
  });
  it("the same file from two people at once is stored once", async () => {
    const [one, two] = await Promise.all([anAnalyst(), anAnalyst()]);
    const { market } = await importUpload(await upload(dailyFile(0, 3), one.id), confirmation(), one.id);
    const file = dailyFile(3, 50);
    const reports = await Promise.all(
      [one, two].map(async ({ id }) => importUpload(await upload(file, id), confirmation({ market }), id)),
    );
    expect(reports.map(({ already }) => already).sort()).toEqual([false, true]);
    expect((await readBars({ marketId: market, base: "P1D", shelf: "live" })).length).toBe(53);
    expect(await BarImport.count({ where: { marketId: market } })).toBe(2);
  });
  it("recognises UTF-16, a byte order mark and Windows line ends", async () => {
    const { id } = await anAnalyst();
    const text = dailyFile(0, 4).replaceAll("\n", "\r\n");
    for (const bytes of [Buffer.from(`\ufeff${text}`, "utf16le"), Buffer.from(`\ufeff${text}`, "utf8")])
      expect(await inspectUpload(await upload(bytes, id), { zone: "UTC" }, id)).toMatchObject({
        bars: 4,
        faultCount: 0,
        timeframe: "P1D",
      });
  });
  it.each([
    ["an archive", Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 0]), /no text/],
    ["broken letters", Buffer.from([0x64, 0xff, 0xfe, 0x80, 0x64]), /no text/],
  ])("refuses %s calmly", async (_name, bytes, words) => {
    const { id } = await anAnalyst();
    expect((await failureOf(inspectUpload(await upload(bytes, id), { zone: "UTC" }, id))).sentence).toMatch(words);
  });
  it("counts lines through quoted cells that run over several", async () => {
    const { id } = await anAnalyst();
    const text = 'date,open,high,low,close,note\n2024-01-02,1,2,1,2,"two\nlines"\n\n2024-01-03,1,2,1,x,plain\n';
    const { faults } = (await inspectUpload(await upload(text, id), { zone: "UTC" }, id)) as Inspection;
    expect(faults).toEqual([{ line: 5, reason: 'The close "x" is not a number.' }]);
  });
  it("nobody opens another's upload, nor a file elsewhere", async () => {
    const [one, two] = await Promise.all([anAnalyst(), anAnalyst()]);
    const id = await upload(dailyFile(0, 2), one.id);
    expect(await failureOf(findUpload(id, two.id))).toMatchObject({ code: "gone" });
    expect(await failureOf(findUpload("../../../etc/passwd", one.id))).toMatchObject({ code: "not-found" });
  });
  it("a file past the limit is refused as it comes in", async () => {
    const { id } = await anAnalyst();
    const failure = await failureOf(upload(Buffer.alloc(LARGEST_FILE + 1, 48), id));
    expect(failure).toMatchObject({ code: "too-large", details: { status: 413 } });
  });
  it("names become addresses of letters, digits and dashes", () => {
    expect(slugOf("Verin / Olta")).toBe("verin-olta");
    expect(slugOf("../../etc")).toBe("etc");
    expect(slugOf("\u{1F9ED}")).toMatch(/^market-/);
    expect(slugOf("Import")).toMatch(/^import-\w{8}$/);
  });
});
