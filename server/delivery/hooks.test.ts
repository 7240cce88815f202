import { Webhook } from "standardwebhooks";
import { describe, expect, it } from "vitest";
import { lastSunday } from "#core/readers/week";
import { CHOICES } from "#core/readers/choices";
import { withReceiver, type Taken } from "../../commands/desk/receiverTesting.ts";
import { findPlan, putOnPlan, savePlan } from "../accounts/plans.ts";
import { HookRow, OutboxRow } from "../database/models.ts";
import { withMailbox } from "../../commands/desk/mailTesting.ts";
import { advance } from "../intake/feed.ts";
import { aTinEdition } from "../publishingTesting.ts";
import { saveChoices } from "../readers/choices.ts";
import { aReader, failureOf, withTables } from "../testing.ts";
import { announceWeek } from "./week.ts";
import { deliver } from "./deliver.ts";
import { addHook, endHook, hooksOf } from "./hooks.ts";

withTables();

const { mails } = withMailbox();
const { taken, addressOf } = withReceiver();
const takenAt = (path: string) => taken().filter((one) => one.path === path);
const said = ({ body }: Taken) => JSON.parse(body) as { type: string; data: Record<string, unknown> };

describe("a reader's program", () => {
  // Standard Webhooks 1.0, the example of its reference libraries (from memory).
  it("is signed to as the published example is", () => {
    const webhook = new Webhook("whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw");
    const signature = webhook.sign("msg_p5jXN8AQM9LWM0D4loKWxJek", new Date(1_614_265_330_000), '{"test": 2432232314}');
    expect(signature).toBe("v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=");
  });

  it("is told what its reader chose, once, signed, with what the plan shows and nothing else", async () => {
    const [whole, less] = [await aReader(), await aReader()];
    await putOnPlan(whole.id, "member");
    const plan = await findPlan("free");
    await savePlan("free", { ...plan, parts: [...plan.parts], kinds: [...plan.kinds], wait: 0 });
    await putOnPlan(less.id, "free");
    const secret = await addHook(whole.id, addressOf("/whole"));
    await addHook(less.id, addressOf("/less"));
    await saveChoices(whole.id, { ...CHOICES, mail: false, moments: ["triggered", "target"] });
    const { number } = await aTinEdition();
    await Promise.all([deliver("one"), deliver("two")]);
    const [first, ...more] = takenAt("/whole");
    expect(more).toEqual([]);
    expect(new Webhook(secret).verify(first.body, first.headers)).toMatchObject({
      type: "edition.published",
      data: { edition: number, subject: "Tin holds" },
    });
    expect(() => new Webhook(secret).verify(`${first.body} `, first.headers)).toThrow();
    expect(first.body).toContain("97.31");
    expect(first.body).not.toContain("whsec_");
    const [small] = takenAt("/less");
    expect(said(small).data).toMatchObject({ subject: "Tin holds", text: expect.stringContaining("Words of it.") });
    await advance(12);
    await deliver("one");
    expect(takenAt("/whole").map((one) => said(one).type)).toContain("call.changed");
    for (const one of takenAt("/less")) expect(one.body).not.toContain("97.31");
    expect(await OutboxRow.count({ where: { kind: "mail", accountId: whole.id } })).toBe(0);
    const names = new Set(takenAt("/whole").map(({ headers }) => headers["webhook-id"]));
    expect(names.size).toBe(takenAt("/whole").length);
  });

  it("that is away is tried again; one that says it is gone is told nothing any more", async () => {
    const reader = await aReader();
    await addHook(reader.id, addressOf("/away"));
    await addHook(reader.id, addressOf("/gone"));
    await aTinEdition();
    await deliver("one");
    const rows = await OutboxRow.findAll({ where: { accountId: reader.id, kind: "hook" } });
    expect(rows.map(({ state }) => state).sort()).toEqual(["dead", "waiting"]);
    expect(rows.find(({ state }) => state === "waiting")).toMatchObject({ attempts: 1, fault: "It answers 503." });
    expect((await hooksOf(reader.id)).map(({ address }) => address)).toEqual([addressOf("/away")]);
  });

  it("has an address that is not inside, is ended by its reader alone, and is one of five at most", async () => {
    const [reader, other] = [await aReader(), await aReader()];
    expect(await failureOf(addHook(reader.id, "http://127.0.0.1:3306/"))).toMatchObject({ code: "address" });
    for (let n = 0; n < 5; n++) await addHook(reader.id, addressOf(`/${n}`));
    expect(await failureOf(addHook(reader.id, addressOf("/6")))).toMatchObject({ code: "many" });
    const [first] = await hooksOf(reader.id);
    expect(first.secret).not.toContain("whsec_");
    await endHook(other.id, first.id);
    expect(await HookRow.count({ where: { accountId: reader.id } })).toBe(5);
    await endHook(reader.id, first.id);
    expect(await HookRow.count({ where: { accountId: reader.id } })).toBe(4);
  });
});

describe("the week in one mail", () => {
  it("comes to who asked for it, once, with what their plan showed in it", async () => {
    const [asked, not] = [await aReader(), await aReader()];
    await putOnPlan(asked.id, "member");
    await saveChoices(asked.id, { ...CHOICES, kinds: [], digest: true });
    await saveChoices(not.id, { ...CHOICES, kinds: [] });
    const { number } = await aTinEdition();
    // The Sunday that comes, a minute after its end; whoever looks, and however often.
    const sunday = lastSunday(Date.now()) + 7 * 86_400_000 + 60_000;
    await announceWeek(sunday);
    await announceWeek(sunday + 5_000);
    const news = await OutboxRow.findOne({ where: { kind: "digest" }, rejectOnEmpty: true });
    expect(news.what).toEqual({ until: sunday - 60_000 });
    await deliver("one");
    await OutboxRow.update({ dueAt: 0 }, { where: { kind: "mail", accountId: asked.id } });
    await deliver("one");
    const weeks = mails().filter((text) => text.includes("Subject: The week to"));
    expect(weeks).toHaveLength(1);
    expect(weeks[0]).toContain("Tin holds");
    expect(weeks[0]).toContain(`/outlooks/${number}`);
    expect(await OutboxRow.count({ where: { kind: "mail", accountId: not.id } })).toBe(0);
  });

  it("of a week that ended over a day ago is not made", async () => {
    await announceWeek(Date.parse("2027-03-02T17:00:01Z"));
    expect(await OutboxRow.count({ where: { name: "week 2027-02-28" } })).toBe(0);
  });
});
