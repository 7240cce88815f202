import { mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { readBars } from "../bars/chunks.ts";
import { aMarket, anAnalyst, dailyFile, withTables } from "../testing.ts";
import { inboxFolder, takeInbox } from "./inbox.ts";

withTables();

const lay = (name: string, text: string) => {
  mkdirSync(inboxFolder(), { recursive: true });
  writeFileSync(join(inboxFolder(), name), text);
};
/** As if nobody had written to the files for a while. */
const later = () => takeInbox(Date.now() + 10_000);
const found = (where: string) =>
  readdirSync(join(inboxFolder(), where))
    .map((name) => name.slice(25))
    .sort();
const reportIn = (where: string, name: string) => {
  const [own] = readdirSync(join(inboxFolder(), where)).filter((one) => one.endsWith(`${name}.report.txt`));
  return readFileSync(join(inboxFolder(), where, own), "utf8");
};

describe("the inbox", () => {
  it("takes files that are at rest for the market they are named after, and says what became of each", async () => {
    const market = await aMarket("grey-tin");
    await aMarket("grey");
    await anAnalyst();
    lay("grey-tin 2020.csv", dailyFile(0, 10));
    lay("nowhere.csv", dailyFile(0, 10));
    lay("grey-tin_broken.csv", "<html>");
    lay("notes.md", "no bars");
    expect(await takeInbox()).toBe(0);
    expect(await later()).toBe(3);
    expect((await readBars({ marketId: market.id, base: "P1D", shelf: "live" })).length).toBe(10);
    expect(found("done")).toEqual(["grey-tin 2020.csv", "grey-tin 2020.csv.report.txt"]);
    expect(JSON.parse(reportIn("done", "grey-tin 2020.csv"))).toMatchObject({ added: 10, market: "grey-tin" });
    expect(reportIn("refused", "nowhere.csv")).toMatch(/No market's id begins this name.*Nothing was stored/);
    expect(reportIn("refused", "grey-tin_broken.csv")).toMatch(/Nothing was stored/);
    expect(readdirSync(inboxFolder()).filter((name) => name.endsWith(".csv"))).toEqual([]);
    // A name as long as a file's may be is laid aside, and holds nobody up.
    lay(`${"n".repeat(251)}.csv`, dailyFile(0, 3));
    lay("zz.csv", dailyFile(0, 3));
    expect(await later()).toBe(2);
    expect(readdirSync(inboxFolder()).filter((name) => name.endsWith(".csv"))).toEqual([]);
    // The same again is told to be the same.
    lay("grey-tin 2020.csv", dailyFile(0, 10));
    await later();
    expect(await later()).toBe(0);
    expect(found("done").filter((name) => name === "grey-tin 2020.csv")).toHaveLength(2);
  });
});
