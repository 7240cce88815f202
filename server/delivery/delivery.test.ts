import { randomUUID } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { simpleParser, type ParsedMail } from "mailparser";
import { XMLParser, XMLValidator } from "fast-xml-parser";
import { describe, expect, it } from "vitest";
import { plainDraft } from "#core/edition/blocks";
import { MASTHEAD } from "#core/edition/masthead";
import { CHOICES } from "#core/readers/choices";
import { putOnPlan } from "../accounts/plans.ts";
import { sealed, unsealed } from "../secret.ts";
import { findToken, issueToken, revokeToken, spendToken } from "../accounts/tokens.ts";
import { Account, OutboxRow } from "../database/models.ts";
import { withMailbox } from "../../commands/desk/mailTesting.ts";
import { advance } from "../intake/feed.ts";
import { claim, failed, MOST_TRIES, sendAgain, triedAgain } from "../outbox/outbox.ts";
import { decide } from "../publishing/deskSettings.ts";
import { saveDraft } from "../publishing/drafts.ts";
import { publish } from "../publishing/publish.ts";
import { aWorld } from "../publishingTesting.ts";
import { fanOut } from "./fanOut.ts";
import { choicesOf, endMail, saveChoices } from "../readers/choices.ts";
import { aReader, failureOf, withTables } from "../testing.ts";
import { deliveries } from "./deliveries.ts";
import { deliver } from "./deliver.ts";
import { feedOf } from "./feeds.ts";

withTables();

const { folder } = withMailbox();

const addressOf = async (id: string) => (await Account.findByPk(id, { rejectOnEmpty: true })).email;
/** Every mail that was taken for somebody, read by a parser that is not ours. */
async function mailsTo(id: string): Promise<ParsedMail[]> {
  const address = await addressOf(id);
  const all = await Promise.all(readdirSync(folder).map((name) => simpleParser(readFileSync(join(folder, name)))));
  return all.filter(({ to }) => [to].flat().some((one) => one?.value.some((own) => own.address === address)));
}
const rowOf = (name: string) => OutboxRow.findOne({ where: { name }, rejectOnEmpty: true });

async function aTitled(title: string) {
  const world = await aWorld([102, 102, 102, 102, 102, 102, 103, 104, 105, 106, 107, 107], { stop: 97.31 });
  await saveDraft(world.draft.id, { version: 2, ...plainDraft(title, "Words of it.", [world.section]) });
  return { ...world, number: await publish(world.draft.id, world.author) };
}

describe("an edition by mail", () => {
  it("is in both forms, with its pictures, a name of its own and a way to end it in one click", async () => {
    const reader = await aReader();
    const { number, market } = await aTitled("Tin \u2013 holds");
    await deliver("one");
    const [mail, ...more] = await mailsTo(reader.id);
    expect(more).toEqual([]);
    expect(mail.subject).toBe("Tin \u2013 holds");
    expect(mail.text).toContain("Words of it.");
    expect(mail.text).toContain("97.31");
    expect(mail.html).toContain("97.31");
    expect(mail.html).toContain(`Chart of ${market.name}`);
    expect(mail.messageId).toBe(`<edition.${number}.to.${reader.id.replaceAll("-", ".")}@127.0.0.1>`);
    const [picture] = mail.attachments;
    expect([picture.contentType, picture.content.subarray(1, 4).toString()]).toEqual(["image/png", "PNG"]);
    // RFC 8058, section 3.1, and RFC 2369: the address is one of https or http, and the body of one click is named.
    const raw = mail.headerLines.map(({ line }) => line).join("\n");
    const [, end] = /^List-Unsubscribe: <([^>]+)>$/m.exec(raw.replace(/\r?\n\s+/g, " ")) ?? [];
    expect(raw).toContain("List-Unsubscribe-Post: List-Unsubscribe=One-Click");
    expect(unsealed("unsubscribe", end.split("/").at(-1) ?? "")).toBe(reader.id);
    expect((await rowOf(`edition ${number} to ${reader.id}`)).state).toBe("sent");
    // Nobody is sent the same twice, however often it is looked for.
    await deliver("two");
    expect(await mailsTo(reader.id)).toHaveLength(1);
  });

  it("and a feed are from the desk by its name, whatever letters it has", async () => {
    const reader = await aReader();
    await decide({ masthead: { name: 'Die "Laterne" \u00fcber See', pigment: "plum" } });
    await aTitled("Named");
    await deliver("one");
    const [mail] = await mailsTo(reader.id);
    expect(mail.from?.value).toMatchObject([{ name: 'Die "Laterne" \u00fcber See' }]);
    // RFC 2919, section 3: the phrase before a list's name, here without what would have to be quoted.
    expect(mail.headers.get("list")).toMatchObject({ id: { name: "Die Laterne ber See" } });
    const token = await issueToken({ purpose: "feed", accountId: reader.id });
    const { body } = await feedOf(token, "outlooks.json");
    expect((JSON.parse(body) as { title: string }).title).toBe('Die "Laterne" \u00fcber See: outlooks');
    await decide({ masthead: MASTHEAD });
  });

  it("shows a plan what that plan shows, when it shows it, and is for nobody who has ended it", async () => {
    const [free, ended, closed] = [await aReader(), await aReader(), await aReader()];
    await putOnPlan(free.id, "free");
    await endMail(ended.id);
    const { number } = await aTitled("For whom");
    await Account.update({ closedAt: Date.now() }, { where: { id: closed.id } });
    await deliver("one");
    const waiting = await rowOf(`edition ${number} to ${free.id}`);
    expect(waiting.state).toBe("waiting");
    expect(waiting.dueAt - waiting.createdAt).toBeGreaterThan(23.9 * 3_600_000);
    expect(await OutboxRow.count({ where: { accountId: ended.id } })).toBe(0);
    expect(await OutboxRow.count({ where: { accountId: closed.id } })).toBe(0);
    // Brought forward by hand, it is still asked for when it is sent: it is not to be seen yet.
    const { dueAt } = waiting;
    await waiting.update({ dueAt: 0 });
    await deliver("one");
    expect(await mailsTo(free.id)).toEqual([]);
    const putOff = await rowOf(waiting.name);
    expect([putOff.state, putOff.dueAt]).toEqual(["waiting", dueAt]);
  });

  it("that waits for somebody whose account was closed meanwhile is not sent", async () => {
    const reader = await aReader();
    const { number } = await aTitled("Before it was closed");
    for (const news of await OutboxRow.findAll({ where: { name: `edition ${number}` } })) await fanOut(news);
    expect((await rowOf(`edition ${number} to ${reader.id}`)).state).toBe("waiting");
    await Account.update({ closedAt: Date.now() }, { where: { id: reader.id } });
    await deliver("one");
    expect((await rowOf(`edition ${number} to ${reader.id}`)).state).toBe("dropped");
    expect(await mailsTo(reader.id)).toEqual([]);
  });

  it("cannot be made to say more in its head than it says, by a title or a name with lines in it", async () => {
    const reader = await aReader({ name: 'Eve"\u2028, <evil@x.example>' });
    await aTitled("A\r\nBcc: evil@x.example\r\n\r\n<script>alert(1)</script>");
    await deliver("one");
    const mails = await mailsTo(reader.id);
    expect(mails).toHaveLength(1);
    expect(mails[0].headers.has("bcc")).toBe(false);
    expect([mails[0].to].flat().flatMap((one) => one?.value ?? [])).toHaveLength(1);
    expect(mails[0].html).not.toContain("<script>");
  });
});

describe("what happened to a call", () => {
  it("is told at once to who wants that, without its result where the plan does not show it", async () => {
    const [all, none] = [await aReader(), await aReader()];
    await saveChoices(all.id, { ...CHOICES, kinds: [], moments: ["triggered", "target"] });
    const { market } = await aTitled("A call");
    await deliver("one");
    await advance(12);
    await deliver("one");
    const subjects = (await mailsTo(all.id)).map(({ subject }) => subject ?? "");
    expect(subjects.filter((text) => text.startsWith(market.name)).map((text) => text.split(": ")[1])).toEqual(
      expect.arrayContaining([expect.stringMatching(/^Triggered/), expect.stringMatching(/^Target 1 reached/)]),
    );
    expect(subjects.some((text) => /Stopped|The stop stands/.test(text))).toBe(false);
    expect((await mailsTo(none.id)).every(({ subject }) => subject === "A call")).toBe(true);
  });
});

describe("the outbox", () => {
  const letter = (name: string, accountId: string) =>
    OutboxRow.create({
      ...{ name, kind: "mail", accountId, what: { edition: 1 }, state: "waiting", attempts: 0, dueAt: 0 },
      ...{ leasedUntil: 0, leasedBy: "", createdAt: Date.now(), fault: "" },
    });

  it("gives each row to one of many who ask at once, and gives back what was not finished in time", async () => {
    await OutboxRow.destroy({ where: {} });
    const { id } = await aReader();
    for (let i = 0; i < 30; i++) await letter(`row ${i}`, id);
    const taken = await Promise.all(Array.from({ length: 6 }, (_, i) => claim(`worker ${i}`, ["mail"], 10)));
    const numbers = taken.flat().map(({ number }) => number);
    expect(new Set(numbers).size).toBe(numbers.length);
    expect(numbers).toHaveLength(30);
    expect(await claim("late", ["mail"], 10)).toEqual([]);
    // A worker that died holds its lease for a minute, and nobody waits for it longer.
    await OutboxRow.update({ leasedUntil: Date.now() - 1 }, { where: { leasedBy: "worker 0" } });
    expect(await claim("late", ["mail"], 100)).toHaveLength(taken[0].length);
  });

  it("tries again a little later each time, keeps dead letters, and sends them by hand", async () => {
    const waits = Array.from({ length: MOST_TRIES }, (_, i) => triedAgain(i + 1, 0));
    expect(waits.slice(0, 4)).toEqual([5_000, 20_000, 80_000, 320_000]);
    expect(waits.slice(4)).toEqual([1_280_000, 3_600_000, 3_600_000, undefined]);
    const [bounced, later] = [
      await aReader({ name: "Bo", before: "bounce" }),
      await aReader({ name: "La", before: "later" }),
    ];
    const { number } = await aTitled("Bounced");
    await deliver("one");
    const [dead, waiting] = await Promise.all([bounced, later].map(({ id }) => rowOf(`edition ${number} to ${id}`)));
    // RFC 5321, section 4.2.1: a 5yz reply is for good, a 4yz one for now.
    expect([dead.state, dead.fault]).toEqual(["dead", expect.stringContaining("550") as string]);
    expect([waiting.state, waiting.attempts, waiting.dueAt > Date.now()]).toEqual(["waiting", 1, true]);
    expect((await deliveries()).dead).toMatchObject([
      { to: await addressOf(bounced.id), what: `edition ${number}`, fault: expect.stringContaining("550") as string },
    ]);
    expect(await sendAgain(dead.number)).toBe(true);
    expect(await sendAgain(dead.number)).toBe(false);
    expect((await rowOf(dead.name)).state).toBe("waiting");
    for (let i = waiting.attempts; i < MOST_TRIES; i++) await failed(await rowOf(waiting.name), "451");
    expect((await rowOf(waiting.name)).state).toBe("dead");
  });
});

describe("a private feed", () => {
  it("is Atom and JSON Feed of what its reader's plan shows, until its address ends", async () => {
    const [member, free] = [await aReader(), await aReader()];
    await putOnPlan(free.id, "free");
    const { number } = await aTitled("Up & <b>down</b> ]]> 5 > 3");
    const tokens = await Promise.all([member, free].map(({ id }) => issueToken({ purpose: "feed", accountId: id })));
    const { body } = await feedOf(tokens[0], "outlooks.atom");
    expect(XMLValidator.validate(body)).toBe(true);
    const { feed } = new XMLParser({ ignoreAttributes: false }).parse(body) as { feed: Record<string, unknown> };
    // RFC 4287, section 4.1: a feed has an id, a title and when it was updated, and so has each entry.
    const [entry] = [feed.entry].flat() as Record<string, unknown>[];
    for (const one of [feed, entry]) for (const name of ["id", "title", "updated"]) expect(one).toHaveProperty(name);
    expect(String(entry.id)).toMatch(new RegExp(`/outlooks/${number}$`));
    expect(body).toContain("97.31");
    const json = JSON.parse((await feedOf(tokens[0], "outlooks.json")).body) as Record<string, unknown>;
    // JSON Feed 1, jsonfeed.org: version, title and items are required, and of items their ids.
    expect(json).toMatchObject({ version: expect.stringMatching(/^https:\/\/jsonfeed\.org\/version\/1/) as string });
    const [item] = json.items as Record<string, string>[];
    expect([item.title, item.id]).toEqual(["Up & <b>down</b> ]]> 5 > 3", String(entry.id)]);
    // A plan that waits a day is shown nothing of it yet.
    expect((await feedOf(tokens[1], "outlooks.json")).body).not.toContain("Up &");
    expect((await feedOf(tokens[0], "calendar.ics")).body).toMatch(/^BEGIN:VCALENDAR\r\n[\s\S]*END:VCALENDAR\r\n$/);
    expect(await failureOf(feedOf(tokens[0], "outlooks.exe"))).toMatchObject({ status: 404 });
    expect(await failureOf(feedOf("x".repeat(43), "outlooks.atom"))).toMatchObject({ status: 404 });
    const row = await findToken("feed", tokens[0]);
    await revokeToken(free.id, "feed", row!.id);
    expect((await feedOf(tokens[0], "outlooks.atom")).body).toBe(body);
    await revokeToken(member.id, "feed", row!.id);
    expect(await failureOf(feedOf(tokens[0], "outlooks.atom"))).toMatchObject({ status: 404 });
  });
});

describe("tokens", () => {
  it("are used once, though two come at once, for their purpose, and in time", async () => {
    const { id } = await aReader();
    const token = await issueToken({ purpose: "reset", accountId: id, lasts: 60_000 });
    expect(await findToken("invite", token)).toBeUndefined();
    const uses = await Promise.allSettled([1, 2].map(() => spendToken("reset", token, () => Promise.resolve("done"))));
    expect(uses.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
    const old = await issueToken({ purpose: "reset", accountId: id, lasts: -1 });
    expect(await failureOf(spendToken("reset", old, () => Promise.resolve()))).toMatchObject({ status: 410 });
    // What fails is not used up.
    const kept = await issueToken({ purpose: "reset", accountId: id });
    await failureOf(spendToken("reset", kept, () => Promise.reject(new Error("no"))));
    expect(await findToken("reset", kept)).toBeDefined();
  });

  it("that are sealed stand for one account and one purpose, and nobody else makes them", async () => {
    const { id } = await aReader();
    const own = sealed("unsubscribe", id);
    expect(unsealed("unsubscribe", own)).toBe(id);
    for (const forged of [`${randomUUID()}.${own.split(".")[1]}`, `${own}x`, own.slice(0, -1), id, "", "."])
      expect(unsealed("unsubscribe", forged)).toBeUndefined();
    expect(unsealed("other", own)).toBeUndefined();
    await endMail(id);
    expect(await choicesOf(id)).toMatchObject({ ...CHOICES, mail: false });
    await endMail(randomUUID());
  });
});
