import { describe, expect, it } from "vitest";
import type { Block } from "#core/edition/blocks";
import { wordsOf } from "#core/edition/words";
import { CHOICES } from "#core/readers/choices";
import { putOnPlan, sightOf, savePlan, WHOLE, type Sight } from "../accounts/plans.ts";
import { issueToken } from "../accounts/tokens.ts";
import { Account, OutboxRow, OutcomeNoteRow, PlanRow } from "../database/models.ts";
import { fanOut } from "../delivery/fanOut.ts";
import { feedOf } from "../delivery/feeds.ts";
import { advance } from "../intake/feed.ts";
import { beginCorrection } from "../publishing/corrections.ts";
import { saveDraft } from "../publishing/drafts.ts";
import { publish } from "../publishing/publish.ts";
import { aTinEdition } from "../publishingTesting.ts";
import { run } from "../recordTesting.ts";
import { aMarket, aReader, failureOf, withTables } from "../testing.ts";
import { archiveSeen } from "./archive.ts";
import { saveChoices } from "./choices.ts";
import { frontSeen } from "./front.ts";
import { marketSaid } from "./marketSaid.ts";
import { becameOf, seeEdition } from "./seen.ts";

withTables();

const HOUR = 3_600_000;
const DAYS: Sight = { ...WHOLE, wait: 24 };
const tomorrow = () => Date.now() + 25 * HOUR;

describe("a plan that waits", () => {
  it("is told that something was published, and no title, market or word of it", async () => {
    const { number, market } = await aTinEdition();
    const waits = await archiveSeen({ words: "", page: 1 }, DAYS);
    expect(waits.editions.find((one) => one.number === number)).toMatchObject({
      title: "",
      markets: [],
      isOpen: false,
    });
    expect(JSON.stringify([waits, await frontSeen(DAYS)])).not.toContain("Tin holds");
    expect(JSON.stringify(waits)).not.toContain(market.id);
    const later = await archiveSeen({ words: "", page: 1 }, DAYS, tomorrow());
    expect(later.editions.find((one) => one.number === number)).toMatchObject({ title: "Tin holds", isOpen: true });
  });

  it("is told of a correction when it shows the correction, and of kinds it has not never", async () => {
    const { number, author } = await aTinEdition();
    const fix = await beginCorrection(number, "correction", author.id);
    const words: Block[] = fix.blocks.map((one) =>
      one.kind === "words" ? { ...one, words: wordsOf("Put right.") } : one,
    );
    await saveDraft(fix.id, { version: 1, title: fix.title, kind: fix.kind, blocks: words });
    await publish(fix.id, author);
    const { content } = await seeEdition(String(number), WHOLE);
    const told = async (sight: Sight, now = Date.now()) => (await becameOf(number, content, sight, now)).corrections;
    expect(await told(WHOLE)).toHaveLength(1);
    expect(await told(DAYS)).toEqual([]);
    expect(await told(DAYS, tomorrow())).toHaveLength(1);
    expect(await told({ ...WHOLE, kinds: ["morning"] }, tomorrow())).toEqual([]);
  });

  it("is told of what happens to a call when it shows the call, and not before", async () => {
    const reader = await aReader();
    await putOnPlan(reader.id, (await savePlan(undefined, { ...PLAN, name: "Days", wait: 24 })).id);
    await saveChoices(reader.id, { ...CHOICES, moments: ["triggered"] });
    const { number, scenario } = await aTinEdition();
    await advance(7);
    const name = `event ${number} ${scenario.id} 1`;
    const news = await OutboxRow.findOne({ where: { name }, rejectOnEmpty: true });
    expect(JSON.stringify(news.what)).not.toContain("price");
    await fanOut(news);
    const message = await OutboxRow.findOne({ where: { name: `${name} to ${reader.id}` }, rejectOnEmpty: true });
    expect(message.dueAt - message.createdAt).toBeGreaterThan(23.9 * HOUR);
  });
});

const PLAN = {
  ...{ name: "P", parts: [...WHOLE.parts], kinds: [...WHOLE.kinds], wait: 0, version: 0 },
};

describe("a plan without calls", () => {
  it("is told that calls are not on it, and not that none is open", async () => {
    await aTinEdition();
    expect(await frontSeen({ ...WHOLE, parts: ["words", "levels"] })).toMatchObject({ showsCalls: false, inForce: [] });
    expect(await frontSeen(WHOLE)).toMatchObject({ showsCalls: true });
  });
});

describe("a plan without entries, stops and results", () => {
  it("is told neither where a call stands nor what became known of its outcome later", async () => {
    const { number, scenario } = await aTinEdition();
    const note = { note: "finer" as const, cause: "import" as const, time: 1, from: 1, to: 2, same: false };
    await OutcomeNoteRow.create({ edition: number, scenarioId: scenario.id, sequence: 1, note, createdAt: 1 });
    const { content } = await seeEdition(String(number), WHOLE);
    const whole = await becameOf(number, content, WHOLE);
    expect([whole.notes.length, whole.standings.length]).toEqual([1, 1]);
    const without = { ...WHOLE, parts: WHOLE.parts.filter((part) => part !== "orders") };
    expect(await becameOf(number, content, without)).toMatchObject({ notes: [], standings: [] });
  });
});

describe("a plan whose row somebody else wrote into", () => {
  it("shows nothing until its owner saves it again", async () => {
    const reader = await aReader();
    const { id, version } = await savePlan(undefined, { ...PLAN, name: "Few", parts: ["words"] });
    await putOnPlan(reader.id, id);
    expect((await sightOf(reader)).parts).toEqual(["words"]);
    await run(`UPDATE plans SET parts = '["words","scenarios","orders"]' WHERE id = ?`, id);
    expect(await sightOf(reader)).toMatchObject({ parts: [], kinds: [] });
    await savePlan(id, { ...PLAN, name: "Few", parts: ["words"], version });
    expect((await sightOf(reader)).parts).toEqual(["words"]);
    await expect(PlanRow.update({ wait: 1 }, { where: { id } })).rejects.toThrow("sealed");
  });
});

describe("a market that no edition speaks of", () => {
  it("is told by nobody: neither what it is called nor that it is there", async () => {
    const { id } = await aMarket();
    expect(await failureOf(marketSaid(id, WHOLE))).toMatchObject({ code: "not-found" });
    const { market } = await aTinEdition();
    expect(await failureOf(marketSaid(market.id, DAYS))).toMatchObject({ code: "not-found" });
    expect((await marketSaid(market.id, DAYS, tomorrow())).market.id).toBe(market.id);
  });
});

describe("the feed of an account", () => {
  it("opens while the account is open, and not once it is closed", async () => {
    const reader = await aReader();
    const token = await issueToken({ purpose: "feed", accountId: reader.id });
    expect((await feedOf(token, "outlooks.atom")).body).toContain("<feed");
    await Account.update({ closedAt: Date.now() }, { where: { id: reader.id } });
    expect(await failureOf(feedOf(token, "outlooks.atom"))).toMatchObject({ code: "not-found" });
  });
});
