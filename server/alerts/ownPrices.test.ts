import { describe, expect, it } from "vitest";
import { ownData, removeOwn } from "../accounts/ownData.ts";
import { OutboxRow, WatcherRow } from "../database/models.ts";
import { deliver } from "../delivery/deliver.ts";
import { advance } from "../intake/feed.ts";
import { withMailbox } from "../../commands/desk/mailTesting.ts";
import { publish } from "../publishing/publish.ts";
import { aWorld } from "../publishingTesting.ts";
import { checkRecord, forgetCheck } from "../record/check.ts";
import { run } from "../recordTesting.ts";
import { aMarket, aReader, failureOf, withTables } from "../testing.ts";
import { removeAlert } from "./alerts.ts";
import { pricesWaitedFor, waitForPrice } from "./ownPrices.ts";

withTables();

const { mails } = withMailbox();
const mailsOf = (subject: RegExp) => mails().filter((text) => subject.test(text));

describe("a price a reader waits for", () => {
  it("is told once, when price gets there, to whoever waits for it and to nobody else", async () => {
    const { draft, author, market } = await aWorld([100, 100, 101, 102, 103, 104, 103, 104]);
    const [reader, other] = [await aReader(), await aReader()];
    await publish(draft.id, author);
    await waitForPrice(reader, market.id, " 103,5 ");
    await waitForPrice(other, market.id, "250");
    expect(await pricesWaitedFor(reader.id, market.id)).toMatchObject([{ says: expect.stringContaining("103.5") }]);
    await advance(8);
    await deliver("one");
    await deliver("two");
    expect(mailsOf(/^Subject: .*103\.5/m)).toHaveLength(1);
    // Of the edition alone.
    expect(await OutboxRow.count({ where: { accountId: other.id, kind: "mail" } })).toBe(1);
    expect(await pricesWaitedFor(reader.id)).toEqual([]);
    const [waiting] = await pricesWaitedFor(other.id);
    expect(await failureOf(removeAlert(waiting.id, reader.id))).toMatchObject({ status: 404 });
    await removeAlert(waiting.id, other.id);
    expect(await pricesWaitedFor(other.id)).toEqual([]);
    // Who leaves takes their prices along.
    await waitForPrice(other, market.id, "251");
    expect(await ownData(other.id)).toMatchObject({ alerts: [{ marketId: market.id }] });
    await removeOwn(other.id, "long enough");
    expect(await WatcherRow.count({ where: { kind: "alert", done: false } })).toBe(0);
  });

  it("is not another one because somebody wrote that into the database", async () => {
    const { draft, author, market } = await aWorld([100, 100, 101, 102, 103, 104, 103, 104]);
    const reader = await aReader();
    await publish(draft.id, author);
    await waitForPrice(reader, market.id, "250");
    const before = mails().length;
    await run(
      "UPDATE alerts SET terms = JSON_SET(terms, '$.at.bottom', 102, '$.at.top', 102) WHERE accountId = ?",
      reader.id,
    );
    await advance(8);
    await deliver("one");
    expect(mailsOf(/^Subject: .*102/m)).toEqual([]);
    expect(await pricesWaitedFor(reader.id)).toEqual([]);
    forgetCheck();
    expect((await checkRecord()).faults.join()).toMatch(/what the desk did not write: alerts: /);
    expect(mails().length).toBeGreaterThanOrEqual(before);
    // Nor is what an alert saw another thing.
    await run("DELETE FROM alerts WHERE accountId = ?", reader.id);
  });

  it("is one, on a market their outlooks speak of, and they wait for fifty at most", async () => {
    const { draft, author, market } = await aWorld([100]);
    const reader = await aReader();
    await publish(draft.id, author);
    for (const text of ["", "high", "1e9", "0x10", "1.2.3", "9".repeat(20)])
      expect(await failureOf(waitForPrice(reader, market.id, text)), text).toMatchObject({ code: "price" });
    const unsaid = await aMarket();
    expect(await failureOf(waitForPrice(reader, unsaid.id, "100"))).toMatchObject({ status: 404 });
    for (let n = 0; n < 50; n++) await waitForPrice(reader, market.id, String(200 + n));
    expect(await failureOf(waitForPrice(reader, market.id, "300"))).toMatchObject({ code: "many" });
  });
});
