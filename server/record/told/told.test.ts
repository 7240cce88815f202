import { describe, expect, it } from "vitest";
import { BarChunk, Market, ToldPageRow } from "../../database/models.ts";
import { faultsAfter, run } from "../../recordTesting.ts";
import { anAnalyst, confirmation, upload, withTables } from "../../testing.ts";
import { importUpload } from "../../intake/import.ts";
import { forgetReplays } from "../../watch/callReplays.ts";
import { openStandings } from "../../watch/standing.ts";
import { checkRecord, forgetCheck } from "../check.ts";
import { readPages, readRows } from "./book.ts";
import { packRows, unpackRows } from "./rows.ts";
import { anArmedCall, append, said } from "../../toldTesting.ts";

withTables();

/** The high of a market's twelfth bar, changed where it is stored. */
async function raiseHigh(marketId: string): Promise<void> {
  const chunk = await BarChunk.findOne({ where: { marketId }, rejectOnEmpty: true });
  const bytes = Buffer.from(chunk.data);
  // Columns stand one after the other: times, opens, highs.
  bytes.writeDoubleLE(140, (2 * chunk.length + 11) * 8);
  await BarChunk.update({ data: bytes }, { where: { marketId, startTime: chunk.startTime } });
}

const faults = async () => {
  forgetCheck();
  return (await checkRecord()).faults;
};

describe("a call whose row was rewritten in the database", () => {
  // What an outside review did: readers saw the invented prices, the desk signed what came of them, the check held.
  it.each([
    [
      "a bound entry",
      `UPDATE watchers SET state = JSON_SET(state, '$.bound', JSON_OBJECT('entry', JSON_OBJECT('price', 90)))`,
    ],
    ["its stop", `UPDATE watchers SET state = JSON_SET(state, '$.trade', JSON_OBJECT('stop', 50))`],
    ["its phase", `UPDATE watchers SET state = JSON_SET(state, '$.phase', 'done'), done = 1`],
    ["from when on it is followed", `UPDATE watchers SET since = since - 86400000`],
  ])("%s is named, shown to nobody, and nothing of it is signed", async (_what, statement) => {
    const { market, edition } = await anArmedCall();
    const named = await faultsAfter(async () => {
      await run(`${statement} WHERE subject LIKE '${edition}/%'`);
      expect(await openStandings([market])).toEqual([]);
    });
    expect(named).toMatch(new RegExp(`watchers: ${edition}/`));
    await run(`${statement.replace(", done = 1", "")} WHERE subject LIKE '${edition}/%'`);
    // By the process that was there, and by one that begins anew.
    await append(market, 15, [102, 103, 104.5]);
    forgetReplays();
    await append(market, 18, [105, 106.5]);
    expect(await said(edition)).toEqual([
      "triggered 103",
      "entered 102",
      "target 104",
      "breakEven 102",
      "target 106",
      "completed 106",
    ]);
    // What somebody else wrote was written over by what was worked out.
    expect(await faults()).toEqual([]);
  });
});

describe("what calls were told", () => {
  it("is named when a bar of it, a page or the end of it is changed, and nothing is said of its calls", async () => {
    const { market, edition } = await anArmedCall();
    const tampered: [string, RegExp][] = [
      [
        "UPDATE told_bars SET bytes = CONCAT(bytes, 'x')",
        /bars of page \d of what calls on .* were told are not those/,
      ],
      [`DELETE FROM told_bars`, /bars of page \d of what calls on .* were told are not those/],
      [`UPDATE told_pages SET through = through - 60000 WHERE marketId = '${market}'`, /is not what was sealed/],
      [`UPDATE told_pages SET bars = bars - 1 WHERE marketId = '${market}' AND number = 2`, /is not what was sealed/],
      [`DELETE FROM told_pages WHERE marketId = '${market}' AND number = 2`, /Pages of what calls on .* are gone/],
      [`DELETE FROM told_pages WHERE marketId = '${market}' AND number = 1`, /is missing/],
      [`DELETE FROM told_pages WHERE marketId = '${market}'`, /was entered in the record and is gone/],
    ];
    for (const [statement, named] of tampered) {
      const found = await faultsAfter(async () => {
        await run(statement);
        forgetReplays();
        await append(market, 15, [102]);
        expect(await said(edition)).toEqual(["triggered 103"]);
      });
      expect(found).toMatch(named);
    }
    expect(await faults()).toEqual([]);
  });

  it("is named where bars are stored otherwise, unless a change of them was entered", async () => {
    const { market } = await anArmedCall();
    const found = await faultsAfter(async () => {
      await raiseHigh(market);
    });
    expect(found).toMatch(/are stored otherwise than calls were told/);
    const { id: analyst } = await anAnalyst();
    const file = "time,open,high,low,close\n2024-01-02T00:11Z,103,140,103,103\n2024-01-02T00:12Z,103,103,103,103";
    await importUpload(await upload(file, analyst), confirmation({ market, base: "PT1M", differing: "file" }), analyst);
    expect(await faults()).toEqual([]);
    // A change that was entered may not be taken out again.
    expect(await faultsAfter(() => run("DELETE FROM restatements"))).toMatch(
      /A change of bars was entered and is gone/,
    );
  });

  it("begins anew behind a change of bars, goes on where it stood, and the whole is worked out again", async () => {
    const { market, edition } = await anArmedCall();
    const { id: analyst } = await anAnalyst();
    const file = "time,open,high,low,close\n2024-01-02T00:11Z,103,103.5,103,103\n2024-01-02T00:12Z,103,103,103,103";
    await importUpload(await upload(file, analyst), confirmation({ market, base: "PT1M", differing: "file" }), analyst);
    await append(market, 15, [102]);
    const generations = (await readPages(market)).filter(({ facts }) => facts !== null);
    expect(generations.map(({ facts }) => facts?.history)).toEqual([1, 2]);
    forgetReplays();
    await append(market, 16, [103, 104.5]);
    expect(await said(edition)).toEqual(["triggered 103", "entered 102", "target 104", "breakEven 102"]);
    expect(await faults()).toEqual([]);
    // Bars that changed between two generations without a word are named, and so is a market read otherwise.
    expect(await faultsAfter(() => run("UPDATE record_entries SET part = NULL WHERE kind = 'restated'"))).toMatch(
      /were changed between calls, and no change was entered/,
    );
    expect(await faultsAfter(() => run(`UPDATE markets SET tick = 5 WHERE id = '${market}'`))).toMatch(/markets: /);
  });

  it("does not follow bars that were changed by nobody at the desk, whatever the market's history says", async () => {
    const { market, edition } = await anArmedCall();
    await faultsAfter(async () => {
      await run(`UPDATE markets SET history = history + 1, revision = revision + 1 WHERE id = '${market}'`);
      await raiseHigh(market);
      forgetReplays();
      await append(market, 15, [102]);
      expect(await said(edition)).toEqual(["triggered 103"]);
    });
    await append(market, 15, [102]);
    expect(await said(edition)).toEqual(["triggered 103", "entered 102"]);
  });

  it("fills a page, enters it in the record, and goes on with the next", async () => {
    const { market, edition } = await anArmedCall();
    await append(
      market,
      15,
      Array.from({ length: 1_200 }, () => 103),
    );
    const pages = await readPages(market);
    expect(pages.map(({ bars, warm }) => (warm ? 0 : bars))).toEqual([0, 512, 512, 181]);
    expect(await faults()).toEqual([]);
    forgetReplays();
    await append(market, 1_215, [102]);
    expect((await said(edition)).at(-1)).toBe("entered 102");
    expect(await faults()).toEqual([]);
    const end = await Market.findByPk(market);
    expect(end?.revision).toBeGreaterThan(1);
    expect(await ToldPageRow.count({ where: { marketId: market } })).toBe(4);
  });

  it("packs bars and unpacks the same, and refuses what is none", async () => {
    const { market } = await anArmedCall();
    const [, page] = await readPages(market);
    const rows = await readRows(page);
    expect(unpackRows(packRows(rows))).toEqual(rows);
    expect(unpackRows(packRows([]))).toEqual([]);
    for (const bytes of [Buffer.of(), Buffer.of(1, 2, 3), packRows(rows).subarray(0, 20)])
      expect(() => unpackRows(bytes)).toThrow(RangeError);
  });
});
