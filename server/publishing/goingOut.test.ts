import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { DeskSettingsDto } from "#contracts/goingOut";
import { readDto } from "#contracts/read";
import { plainDraft } from "#core/edition/blocks";
import { applySteps } from "../desk/marks.ts";
import { advance } from "../intake/feed.ts";
import { readClock } from "../clock.ts";
import { aWorld, MINUTE, START } from "../publishingTesting.ts";
import { aMarket, anAnalyst, failureOf, withTables } from "../testing.ts";
import { decide, deskSettings } from "./deskSettings.ts";
import { createDraft, findDraft, saveDraft } from "./drafts.ts";
import { publish } from "./publish.ts";
import { isApproved, listReadings, readDraft } from "./reading.ts";
import { OutboxRow } from "../database/models.ts";
import { heldLetter } from "../delivery/compose.ts";
import { heldDrafts } from "./held.ts";
import { lacksOf } from "./publishable.ts";
import { keepBack, letGoOut, nextOpen, publishDue } from "./schedule.ts";

withTables();

const TAPE = Array.from({ length: 400 }, () => 100);
const inMinutes = async (minutes: number) => ({ at: (await readClock()).now + minutes * MINUTE });

describe("a draft that goes out later", () => {
  it("goes out by itself once its time has come, and once, whoever looks", async () => {
    const { draft, author } = await aWorld(TAPE);
    await letGoOut(draft.id, await inMinutes(30), author);
    await advance(29);
    await publishDue();
    expect((await findDraft(draft.id)).published).toBeNull();
    await advance(1);
    await Promise.all([publishDue(), publishDue(), publishDue()]);
    const published = await findDraft(draft.id);
    expect(published.published).toBeGreaterThan(0);
    expect(published.goesOut).toBeNull();
  });

  it("is held, and says why, where it or what it rests on is not what it was", async () => {
    const { draft, author, market, section } = await aWorld(TAPE);
    await letGoOut(draft.id, await inMinutes(5), author);
    const { version } = await findDraft(draft.id);
    await saveDraft(draft.id, { version, ...plainDraft("A title", "Other words.", [section]) });
    await advance(5);
    await publishDue();
    expect(await findDraft(draft.id)).toMatchObject({
      published: null,
      goesOut: { held: expect.stringMatching(/^It was changed/) },
    });
    // Held once, it waits for somebody.
    await keepBack(draft.id);
    expect((await findDraft(draft.id)).goesOut).toBeNull();
    await letGoOut(draft.id, await inMinutes(5), author);
    const mark = {
      ...{ id: randomUUID(), kind: "level", rung: "PT15M", note: "" },
      ...{ anchors: [{ time: START, price: 99.5 }], props: { label: "base" } },
    };
    await applySteps(market.id, [{ id: randomUUID(), step: "set", version: 0, mark }], author.id);
    await saveDraftAgain(draft.id, section);
    await letGoOut(draft.id, await inMinutes(5), author);
    await advance(5);
    await publishDue();
    expect((await findDraft(draft.id)).published).toBeGreaterThan(0);
  });

  it("is refused at once where it cannot be published, with all that stops it", async () => {
    const { author } = await aWorld(TAPE);
    const { id } = await createDraft(author.id);
    expect(await failureOf(letGoOut(id, await inMinutes(1), author))).toMatchObject({
      code: "incomplete",
      sentence: expect.stringMatching(/a title\. .*some words\. .*at least one market\./) as string,
      details: { kept: "The draft is saved; nothing was decided." },
    });
    expect((await findDraft(id)).goesOut).toBeNull();
  });

  it("that walks through a market alone speaks of one", () => {
    const draft = { title: "T", kind: "morning" as const, corrects: null };
    const walk = { kind: "walk" as const, id: "w", market: "tin", steps: [] };
    const lacking = (blocks: object[]) => lacksOf({ ...draft, blocks } as never, [], 0).map(({ field }) => field);
    expect(lacking([])).toContain("markets");
    expect(lacking([walk])).not.toContain("markets");
  });

  it("is refused where a call of it will have lapsed by then", async () => {
    const { draft, author } = await aWorld(TAPE);
    const { sentence } = await failureOf(letGoOut(draft.id, await inMinutes(50 * 24 * 60), author));
    expect(sentence).toMatch(/lapse/);
  });

  it("is told of to its author and to whoever decided it, once each, where it is held", async () => {
    const { draft, author } = await aWorld(TAPE);
    const { id, name } = await anAnalyst();
    await letGoOut(draft.id, await inMinutes(5), { id, name });
    const { version, blocks } = await findDraft(draft.id);
    await saveDraft(draft.id, { version, ...plainDraft("Another title", "Words.", []), blocks } as never);
    await advance(5);
    await publishDue();
    await publishDue();
    expect((await heldDrafts()).filter(({ id: one }) => one === draft.id)).toMatchObject([
      { id: draft.id, author: author.name, held: expect.stringMatching(/changed/) },
    ]);
    const mails = (await OutboxRow.findAll()).filter(({ what }) => what.held === draft.id);
    expect(mails.map(({ accountId }) => accountId).sort()).toEqual([author.id, id].sort());
    const { subject, text } = await heldLetter(draft.id);
    expect(subject).toBe("Held: Another title");
    expect(text).toMatch(/did not\. It was changed since it was said to go out\.\n\nReaders wait for it: .*editions/);
    await keepBack(draft.id);
    expect((await heldDrafts()).map(({ id: one }) => one)).not.toContain(draft.id);
    expect(await failureOf(heldLetter(draft.id))).toMatchObject({ code: "over" });
  });

  it("is refused a time that is over, far off, or none", async () => {
    const { draft, author } = await aWorld(TAPE);
    for (const at of [NaN, (await readClock()).now, (await readClock()).now + 90 * 86_400_000])
      expect(await failureOf(letGoOut(draft.id, { at }, author))).toMatchObject({ code: "when" });
  });

  it("goes out when a market opens next, by its own calendar", async () => {
    const market = await aMarket();
    const sessions = [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }];
    await market.update({ calendar: { zone: "America/New_York", sessions } });
    // Common practice, no source: half past nine in New York is 13:30 UTC in summer and 14:30 in winter.
    const open = async (text: string) => new Date(await nextOpen(market.id, Date.parse(text))).toISOString();
    expect(await open("2024-07-05T10:00Z")).toBe("2024-07-05T13:30:00.000Z");
    expect(await open("2024-07-05T13:30Z")).toBe("2024-07-08T13:30:00.000Z");
    expect(await open("2024-12-06T22:00Z")).toBe("2024-12-09T14:30:00.000Z");
  });
});

async function saveDraftAgain(id: string, section: Parameters<typeof plainDraft>[2][number]): Promise<void> {
  const { version } = await findDraft(id);
  await saveDraft(id, { version, ...plainDraft("A title", "Words once more.", [section]) });
}

describe("a colleague's reading", () => {
  it("is wanted where the desk says so: of the version that goes out, and by somebody else", async () => {
    const { draft, author, section } = await aWorld(TAPE);
    const colleague = await anAnalyst();
    await decide({ reading: true });
    try {
      expect(await failureOf(publish(draft.id, author))).toMatchObject({ code: "unread", status: 409 });
      const { version } = await findDraft(draft.id);
      expect(await failureOf(readDraft(draft.id, "approved", author, version))).toMatchObject({ code: "reading" });
      expect(await failureOf(readDraft(draft.id, "back", colleague, version))).toMatchObject({
        sentence: "What is asked back?",
      });
      expect(await failureOf(readDraft(draft.id, "approved", colleague, version - 1))).toMatchObject({
        code: "reading",
      });
      await readDraft(draft.id, "asked", author, version);
      expect((await listReadings())[0]).toMatchObject({ id: draft.id, state: "asked", isChanged: false });
      await readDraft(draft.id, "back", colleague, version, "Why not lower?");
      await readDraft(draft.id, "approved", colleague, version);
      expect(isApproved(await findDraft(draft.id))).toBe(true);
      await saveDraftAgain(draft.id, section);
      expect(isApproved(await findDraft(draft.id))).toBe(false);
      expect(await failureOf(publish(draft.id, author))).toMatchObject({ code: "unread" });
      await readDraft(draft.id, "approved", colleague, version + 1);
      expect(await publish(draft.id, author)).toBeGreaterThan(0);
      expect(await failureOf(readDraft(draft.id, "asked", author, version + 1))).toMatchObject({ code: "reading" });
    } finally {
      await decide({ reading: false });
    }
  });
});

describe("templates of the desk", () => {
  it("are what a kind begins with from then on; every one has its risk notice", async () => {
    const { templates } = await deskSettings();
    await decide({ templates: { ...templates, close: ["board", "words", "risk"] } });
    const { blocks } = await createDraft((await anAnalyst()).id, { kind: "close" });
    expect(blocks.map(({ kind }) => kind)).toEqual(["board", "words", "risk"]);
    const { blocks: other } = await createDraft((await anAnalyst()).id, { kind: "lesson" });
    expect(other.map(({ kind }) => kind)).toEqual(["words", "risk"]);
    const house = { name: "The Lantern", pigment: "plum" };
    const dto = (of: object[], masthead: object = house) =>
      readDto(DeskSettingsDto, { masthead, reading: true, templates: of });
    expect(dto([{ kind: "close", blocks: ["words", "risk"] }])).toMatchObject({ ok: true });
    for (const bad of [
      { kind: "close", blocks: ["words"] },
      { kind: "evening", blocks: ["risk"] },
      { kind: "close", blocks: ["risk", "market"] },
      { kind: "close", blocks: Array.from({ length: 11 }, () => "risk") },
    ])
      expect(dto([bad]).ok, JSON.stringify(bad)).toBe(false);
    for (const bad of [
      { name: "", pigment: "plum" },
      { name: "A\r\nBcc: x", pigment: "plum" },
      { ...house, pigment: "red" },
    ])
      expect(dto([], bad).ok, JSON.stringify(bad)).toBe(false);
  });
});
