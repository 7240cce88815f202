import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import { readdirSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { readBars } from "../bars/chunks.ts";
import { BarChunk, BarImport } from "../database/models.ts";
import { aMarket, anAnalyst, dailyFile, failureOf, upload, withTables } from "../testing.ts";
import { dropUpload, findUpload, partsBeside } from "../bars/uploads.ts";
import { splitUpload } from "./import.ts";
import { undoImport } from "./undo.ts";
import { importSent, SENT, sentOptions } from "./sent.ts";

withTables();

const stream = (text: string) => Readable.toWeb(Readable.from([Buffer.from(text)])) as ReadableStream<Uint8Array>;

async function aDesk() {
  const [market, { id }] = [await aMarket(), await anAnalyst()];
  const send = (text: string, options = SENT) => importSent(market.id, stream(text), "bars.csv", options, id);
  const stored = async () => (await readBars({ marketId: market.id, base: "P1D", shelf: "live" })).length;
  return { market, send, stored };
}

describe("bars that a program sends", () => {
  it("are stored by the checks of the page; the same file sent twice changes nothing, a longer one adds", async () => {
    const { market, send, stored } = await aDesk();
    expect(await send(dailyFile(0, 10))).toMatchObject({ added: 10, already: false });
    expect(await send(dailyFile(0, 10))).toMatchObject({ added: 0, already: true });
    expect(await send(dailyFile(5, 10))).toMatchObject({ added: 5, same: 5 });
    expect(await stored()).toBe(15);
    // One import a day, whatever it came in.
    const [one, ...more] = await BarImport.findAll({ where: { marketId: market.id } });
    expect(more).toEqual([]);
    expect(one.report).toMatchObject({ rows: 20, added: 15, same: 5, pieces: 2 });
  });

  it("come one by one as they close: one import a day, in few chunks, undone as one", async () => {
    const { market, send, stored } = await aDesk();
    await send(dailyFile(0, 10), { ...SENT, timeframe: "P1D" });
    for (let day = 10; day < 40; day++)
      expect(await send(dailyFile(day, 1), { ...SENT, timeframe: "P1D" })).toMatchObject({ added: 1 });
    // What was there already is no piece.
    expect(await send(dailyFile(30, 10))).toMatchObject({ added: 0, same: 10 });
    expect(await BarChunk.count({ where: { marketId: market.id } })).toBe(1);
    const [one, ...more] = await BarImport.findAll({ where: { marketId: market.id } });
    expect([more, await stored()]).toEqual([[], 40]);
    expect(one.report).toMatchObject({ added: 40, pieces: 31 });
    expect(await undoImport(one.id, one.accountId)).toMatchObject({ removed: 40, putBack: 0 });
    expect(await stored()).toBe(0);
  });

  it("begin an import of their own where they fill what was left out, or take the place of others", async () => {
    const { market, send, stored } = await aDesk();
    const imports = () => BarImport.findAll({ where: { marketId: market.id }, order: [["createdAt", "ASC"]] });
    await send(dailyFile(10, 10));
    await send(dailyFile(0, 5));
    expect(await imports()).toHaveLength(2);
    await send(dailyFile(18, 5, 11), { ...SENT, differing: "file" });
    expect((await imports()).map(({ report }) => report.added)).toEqual([10, 5, 3]);
    // The last is taken back first, as ever: what it replaced stands again.
    const [first, early, last] = await imports();
    expect(await failureOf(undoImport(first.id, first.accountId))).toMatchObject({ code: "covered" });
    expect(await undoImport(last.id, last.accountId)).toMatchObject({ removed: 3, putBack: 2 });
    await undoImport(first.id, first.accountId);
    await undoImport(early.id, early.accountId);
    expect(await stored()).toBe(0);
  });

  it("keep apart what lies between two pieces: it is not theirs to undo", async () => {
    const { market, send, stored } = await aDesk();
    const id = (await anAnalyst()).id;
    await send(dailyFile(0, 5));
    await importSent(market.id, stream(dailyFile(5, 3)), "other.csv", SENT, id);
    // The newest import is another's: these begin their own, and go on with it.
    await send(dailyFile(8, 3));
    await send(dailyFile(11, 3));
    const sent = await BarImport.findAll({ where: { marketId: market.id, fileName: "bars.csv" } });
    expect(sent.map(({ report }) => report.added).sort()).toEqual([5, 6]);
    for (const one of sent) await undoImport(one.id, one.accountId);
    expect(await stored()).toBe(3);
  });

  it("say how long they are where they are too few to show it, and are believed only as far as they show", async () => {
    const { send } = await aDesk();
    const minutes = "time,open,high,low,close\n2024-03-01T09:00Z,1,1,1,1\n2024-03-01T09:01Z,1,1,1,1\n";
    for (const few of [dailyFile(0, 1), dailyFile(0, 2), minutes])
      expect(await failureOf(send(few))).toMatchObject({ code: "timeframe" });
    expect(await failureOf(send(minutes, { ...SENT, timeframe: "P1D" }))).toMatchObject({ code: "timeframe" });
    expect(await send(minutes, { ...SENT, timeframe: "PT1M" })).toMatchObject({ added: 2 });
    // All that the market holds are minutes: so is one more.
    const one = "time,open,high,low,close\n2024-03-01T09:02Z,1,1,1,1\n";
    expect(await send(one)).toMatchObject({ added: 1 });
    // A minute before the weekend and one after it.
    const apart = "time,open,high,low,close\n2024-03-01T21:59Z,1,1,1,1\n2024-03-03T22:00Z,1,1,1,1\n";
    expect(await send(apart, { ...SENT, timeframe: "PT1M" })).toMatchObject({ added: 2 });
    expect(() => sentOptions(new URLSearchParams("timeframe=minute"))).toThrow(/not a timeframe/);
    // Days and minutes are held: one bar more may be either.
    await send(dailyFile(0, 5));
    expect(await failureOf(send(dailyFile(5, 1)))).toMatchObject({ code: "timeframe" });
  });

  it("of a market of days are days, one by one, and minutes are not stored as days", async () => {
    const { send, stored } = await aDesk();
    await send(dailyFile(0, 5));
    expect(await send(dailyFile(5, 1))).toMatchObject({ added: 1 });
    expect(await stored()).toBe(6);
    const minutes = "time,open,high,low,close\n2024-03-01T09:00Z,1,1,1,1\n2024-03-01T09:01Z,1,1,1,1\n";
    expect(await failureOf(send(minutes))).toMatchObject({ code: "timeframe" });
  });

  it("stop whole where they differ or cannot be read, unless it is said what stands", async () => {
    const { send, stored } = await aDesk();
    await send(dailyFile(0, 10));
    expect((await failureOf(send(dailyFile(5, 10, 11)))).sentence).toMatch(/differ/);
    expect(await stored()).toBe(10);
    expect(await send(dailyFile(5, 10, 11), { ...SENT, differing: "file" })).toMatchObject({ differing: 5, added: 5 });
    const bad = `${dailyFile(20, 3)}\n2020-02-30,x,1,1,1,1\n`;
    expect(await failureOf(send(bad))).toMatchObject({ code: "bad-rows" });
    expect(await send(bad, { ...SENT, badRows: "leaveOut" })).toMatchObject({ added: 3, leftOutCount: 1 });
    expect(await failureOf(send("<html>"))).toMatchObject({
      code: "columns",
      details: { kept: "Nothing was stored.", remedy: expect.stringMatching(/columns=time:1/) as string },
    });
    const twoMarkets = "symbol,date,open,high,low,close\nA,2020-02-01,1,1,1,1\nB,2020-02-01,1,1,1,1\n";
    expect((await failureOf(send(twoMarkets))).sentence).toBe("The file holds bars of 2 markets.");
    const odd = "tag,a,b,c,d\n2020-03-01,1,2,1,2\n2020-03-02,1,2,1,2\n2020-03-03,1,2,1,2\n";
    expect(await send(odd, { ...SENT, columns: "time:1,open:2,high:3,low:4,close:5" })).toMatchObject({ added: 3 });
    expect(readdirSync(join(process.env.COMPASS_VAR ?? "", "uploads"))).toEqual([]);
    expect(await failureOf(importSent("nowhere", stream("x"), "x", SENT, "x"))).toMatchObject({ status: 404 });
  });

  it("say how they are to be taken in the address, and anything else is told", async () => {
    expect(sentOptions(new URLSearchParams("zone=Europe/Lisbon&differing=stored&order=dmy"))).toEqual({
      ...{ zone: "Europe/Lisbon", differing: "stored", order: "dmy", badRows: "refuse" },
    });
    expect(sentOptions(new URLSearchParams())).toEqual(SENT);
    expect(() => sentOptions(new URLSearchParams("differing=mine"))).toThrow(/is one of ask, stored, file/);
    const { send } = await aDesk();
    expect(await failureOf(send(dailyFile(0, 3), { ...SENT, zone: "Moon/Base" }))).toMatchObject({ code: "zone" });
  });
});

describe("what can be read in two ways", () => {
  const thousands = 'date,open,high,low,close\n2024-01-02,"38,250","38,500","38,000","38,400"\n';
  it("is refused until it is said, and then read so", async () => {
    const { send, stored, market } = await aDesk();
    const options = { ...SENT, timeframe: "P1D" };
    expect(await failureOf(send(thousands, options))).toMatchObject({ code: "numbers" });
    expect(await stored()).toBe(0);
    await send(thousands, { ...options, numbers: "thousands" });
    const { open } = await readBars({ marketId: market.id, base: "P1D", shelf: "live" });
    expect(open[0]).toBe(38_250);
  });
  it("a daily bar alone is of the date its clock shows, a minute alone of its moment", async () => {
    const bar = "time,open,high,low,close\n2024-01-03T00:00:00+09:00,1,2,1,2\n";
    const daily = await aDesk();
    await daily.send(bar, { ...SENT, timeframe: "P1D" });
    const found = await readBars({ marketId: daily.market.id, base: "P1D", shelf: "live" });
    expect(found.time[0]).toBe(Date.UTC(2024, 0, 3));
    const minutes = await aDesk();
    await minutes.send(bar, { ...SENT, timeframe: "PT1M" });
    const one = await readBars({ marketId: minutes.market.id, base: "PT1M", shelf: "live" });
    expect(one.time[0]).toBe(Date.UTC(2024, 0, 2, 15));
  });
  it("a first line that says what separates the cells is no row, and lines are counted with it", async () => {
    const { send, stored } = await aDesk();
    const text = "sep=;\ndate;open;high;low;close\n2024-01-02;1;2;1;2\n2024-01-03;1;0;1;2\n";
    const refused = await failureOf(send(text, { ...SENT, timeframe: "P1D" }));
    expect(refused).toMatchObject({ code: "bad-rows" });
    const report = await send(text, { ...SENT, timeframe: "P1D", badRows: "leaveOut" });
    expect([report.leftOut[0].line, await stored()]).toEqual([4, 1]);
  });
});

describe("a file of several markets", () => {
  it("is taken apart for whoever sent it, and for nobody else", async () => {
    const [{ id }, { id: other }] = [await anAnalyst(), await anAnalyst()];
    const text = "symbol,date,open,high,low,close\nA,2020-02-01,1,1,1,1\nB,2020-02-01,1,1,1,1\n";
    const sent = await upload(text, id);
    expect(await failureOf(splitUpload(sent, undefined, other))).toMatchObject({ code: "gone" });
    const [first, second] = await splitUpload(sent, undefined, id);
    const part = await findUpload(first, id);
    expect(part.name).toBe("A");
    expect(await partsBeside(part, id)).toEqual([{ id: second, name: "B" }]);
    expect(await partsBeside(part, other)).toEqual([]);
    expect(await failureOf(findUpload(second, other))).toMatchObject({ code: "gone" });
    expect(await failureOf(findUpload(sent, id))).toMatchObject({ code: "gone" });
    for (const one of [first, second]) await dropUpload(await findUpload(one, id));
  });
});
