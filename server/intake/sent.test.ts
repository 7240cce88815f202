import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import { readdirSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { readBars } from "../bars/chunks.ts";
import { BarImport } from "../database/models.ts";
import { aMarket, anAnalyst, dailyFile, failureOf, withTables } from "../testing.ts";
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
    expect(await BarImport.count({ where: { marketId: market.id } })).toBe(2);
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
    expect((await failureOf(send("<html>"))).code).toBe("file");
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
