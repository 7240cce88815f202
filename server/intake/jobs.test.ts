import { randomUUID } from "node:crypto";
import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import { describe, expect, it } from "vitest";
import { readBars } from "../bars/chunks.ts";
import { ImportJobRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { aMarket, anAnalyst, dailyFile, failureOf, withTables } from "../testing.ts";
import type { ImportReport } from "./import.ts";
import { beginImport, findImport, waitForImport, type ImportStep } from "./jobs.ts";
import { SENT, storeSent, takeSent } from "./sent.ts";

withTables();

const LONG = 30_000;
const never = () => new Promise<never>(() => {});
const aFile = () => ({ id: randomUUID(), name: "tin.csv" });

async function aSentFile(text: string) {
  const [market, { id: account }] = [await aMarket(), await anAnalyst()];
  const body = Readable.toWeb(Readable.from([Buffer.from(text)])) as ReadableStream<Uint8Array>;
  const sent = await takeSent(market.id, body, "tin.csv", SENT, account);
  const stored = async () => (await readBars({ marketId: market.id, base: "P1D", shelf: "live" })).length;
  return { sent, account, stored };
}

describe("an import on its way", () => {
  it("is done while others are answered; its report is known for whoever sent it, and for nobody else", async () => {
    const { sent, account, stored } = await aSentFile(dailyFile(0, 50));
    await beginImport(sent.upload, account, (told) => storeSent(sent, told));
    const job = await waitForImport(sent.upload.id, account, LONG);
    expect(job).toMatchObject({ state: "stored", fileName: "tin.csv", report: { added: 50, same: 0 } });
    expect(await stored()).toBe(50);
    const [other, id] = [await anAnalyst(), sent.upload.id];
    expect(await failureOf(findImport(id, other.id))).toMatchObject({ code: "not-found" });
  });

  it("says at what it is and how far, from reading to telling", async () => {
    const { sent, account } = await aSentFile(dailyFile(0, 50));
    const seen: [ImportStep, number][] = [];
    const told = { at: (...step: [ImportStep, number]) => void seen.push(step), did: () => Promise.resolve() };
    await storeSent(sent, told);
    expect([...new Set(seen.map(([step]) => step))]).toEqual(["storing", "telling"]);
    expect(seen.filter(([step]) => step === "storing").at(-1)).toEqual(["storing", 1]);
    const other = aFile();
    await beginImport(other, account, (its) => {
      its.at("storing", 0.25);
      return never();
    });
    await expect
      .poll(() => findImport(other.id, account))
      .toEqual({ id: other.id, fileName: "tin.csv", state: "working", step: "storing", share: 0.25 });
    expect(await waitForImport(other.id, account, 30)).toMatchObject({ state: "working" });
  });

  it("is not begun twice, however often it is asked for", async () => {
    const [{ id: account }, file] = [await anAnalyst(), aFile()];
    let begun = 0;
    const work = () => (begun++, never());
    await Promise.all([1, 2, 3].map(() => beginImport(file, account, work)));
    expect(begun).toBe(1);
  });

  it("that is refused says why, stores nothing, and can be begun again", async () => {
    const { sent, account, stored } = await aSentFile(`${dailyFile(0, 5)}2024-02-30,1,2,3\n`);
    await beginImport(sent.upload, account, (told) => storeSent(sent, told));
    const job = await waitForImport(sent.upload.id, account, LONG);
    expect(job).toMatchObject({ state: "refused", failure: { code: "bad-rows" } });
    expect((job as { failure: Failure }).failure).toBeInstanceOf(Failure);
    expect(await stored()).toBe(0);
    const report = { added: 7 } as ImportReport;
    await beginImport(sent.upload, account, async ({ did }) => (await did(report), report));
    expect(await waitForImport(sent.upload.id, account, LONG)).toMatchObject({ state: "stored", report });
  });

  it("that fails in a way nobody expected tells nothing of its inside", async () => {
    const [{ id: account }, file] = [await anAnalyst(), aFile()];
    await beginImport(file, account, () => Promise.reject(new Error("secret inside")));
    const job = await waitForImport(file.id, account, LONG);
    expect(job).toMatchObject({ state: "refused", failure: { code: "unexpected", status: 500 } });
    expect(JSON.stringify(job)).not.toContain("secret");
  });

  it("whose process ended in the middle is told as ended, and can be begun again", async () => {
    const [{ id: account }, file] = [await anAnalyst(), aFile()];
    await beginImport(file, account, never);
    // As after a kill: nobody says any more that it is worked on.
    await ImportJobRow.update({ id: `${file.id.slice(0, -1)}-` }, { where: { id: file.id } });
    const left = `${file.id.slice(0, -1)}-`;
    await ImportJobRow.update({ aliveAt: Date.now() - 60_000 }, { where: { id: left } });
    expect(await findImport(left, account)).toMatchObject({ state: "refused", failure: { code: "ended" } });
    let begun = 0;
    await beginImport({ ...file, id: left }, account, () => (begun++, never()));
    expect([begun, (await findImport(left, account)).state]).toEqual([1, "working"]);
  });

  it("is known for a day", async () => {
    const [{ id: account }, file] = [await anAnalyst(), aFile()];
    await beginImport(file, account, never);
    await ImportJobRow.update({ createdAt: Date.now() - 25 * 3_600_000 }, { where: { id: file.id } });
    await beginImport(aFile(), account, never);
    expect(await failureOf(findImport(file.id, account))).toMatchObject({ code: "not-found" });
  });
});

describe("the report of an import", () => {
  it("stands only if its bars do: they are stored in one", async () => {
    const { sent, account, stored } = await aSentFile(dailyFile(0, 5));
    await beginImport(sent.upload, account, (told) =>
      storeSent(sent, {
        ...told,
        did: async (report) => {
          await told.did(report);
          throw new Failure("disk", "The desk's disk is full.", { status: 507 });
        },
      }),
    );
    expect(await waitForImport(sent.upload.id, account, LONG)).toMatchObject({
      ...{ state: "refused", failure: { code: "disk", status: 507 } },
    });
    expect(await stored()).toBe(0);
  });
});
