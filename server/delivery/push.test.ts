import { describe, expect, it } from "vitest";
import { CHOICES } from "#core/readers/choices";
import type { PushDto } from "#contracts/push";
import { pushDevice } from "../../commands/desk/pushDevice.ts";
import { withReceiver } from "../../commands/desk/receiverTesting.ts";
import { findPlan, putOnPlan, savePlan } from "../accounts/plans.ts";
import { OutboxRow, PushRow } from "../database/models.ts";
import { advance } from "../intake/feed.ts";
import { aTinEdition } from "../publishingTesting.ts";
import { saveChoices } from "../readers/choices.ts";
import { aReader, failureOf, withTables } from "../testing.ts";
import { deliver } from "./deliver.ts";
import { addDevice, devicesOf, endDevice, pushKeys } from "./push.ts";

withTables();

const { receiver, taken, addressOf } = withReceiver();

/** What the stand-in of a browser has shown, as it read it. */
const shown = () =>
  taken().map(({ body, ...rest }) => ({
    ...rest,
    notice: JSON.parse(body) as { title: string; body: string; address: string; tag: string },
  }));

const ofAnother = (path: string): PushDto => pushDevice().subscription(addressOf(path));

describe("a browser that is notified", () => {
  it("shows what its reader chose, once, with what the plan shows and nothing else", async () => {
    const [whole, less] = [await aReader(), await aReader()];
    await putOnPlan(whole.id, "member");
    const plan = await findPlan("free");
    await savePlan("free", { ...plan, parts: ["words"], kinds: [...plan.kinds], wait: 0 });
    await putOnPlan(less.id, "free");
    for (const { id } of [whole, less]) {
      const { keys, endpoint } = receiver().browser;
      await addDevice(id, { keys, endpoint: `${endpoint}/${id}` }, "Firefox on Linux");
      await saveChoices(id, { ...CHOICES, mail: false, moments: ["triggered", "target"] });
    }
    const { number, market } = await aTinEdition();
    await deliver("one");
    await advance(12);
    await deliver("one");
    await deliver("another");
    const toldTo = (id: string) => shown().filter(({ path }) => path.endsWith(id));
    // Calls are not on the smaller plan: nothing of them is told, and no price.
    const [[edition], [same, ...events]] = [toldTo(less.id), toldTo(whole.id)];
    expect(toldTo(less.id)).toHaveLength(1);
    expect(JSON.stringify(edition)).not.toContain("97.31");
    expect(edition.notice.title).toBe("Tin holds");
    expect(edition.notice.body).toContain("Words of it.");
    expect(edition.notice.address).toMatch(new RegExp(`/outlooks/${number}$`));
    expect(edition.headers).toMatchObject({ ttl: "86400", urgency: "normal", "content-encoding": "aes128gcm" });
    expect(same.notice.title).toBe("Tin holds");
    // What price has done is told at once, and only for some hours.
    expect(events.length).toBeGreaterThan(0);
    for (const { headers, notice } of events) {
      expect(headers).toMatchObject({ ttl: "21600", urgency: "high" });
      expect(notice.title).toContain(market.name);
      expect(notice.body.length).toBeGreaterThan(0);
    }
    const tags = toldTo(whole.id).map(({ notice }) => notice.tag);
    expect(new Set(tags).size).toBe(tags.length);
  });

  it("waits through the reader's quiet hours, as mail does", async () => {
    const reader = await aReader();
    await putOnPlan(reader.id, "member");
    await addDevice(reader.id, receiver().browser, "one");
    const hour = new Date().getUTCHours();
    await saveChoices(reader.id, { ...CHOICES, quiet: { from: hour, to: (hour + 2) % 24 } });
    await aTinEdition();
    await deliver("one");
    const [row] = await OutboxRow.findAll({ where: { accountId: reader.id, kind: "push" } });
    expect(row.dueAt).toBeGreaterThan(Date.now());
    expect(row.dueAt).toBeLessThanOrEqual(Date.now() + 2 * 3_600_000);
  });

  it("is forgotten once its service says that it is gone, and tried again where that is away", async () => {
    const reader = await aReader();
    await putOnPlan(reader.id, "member");
    await addDevice(reader.id, ofAnother("/gone"), "gone");
    await addDevice(reader.id, ofAnother("/away"), "away");
    await aTinEdition();
    await deliver("one");
    const rows = await OutboxRow.findAll({ where: { accountId: reader.id, kind: "push" } });
    expect(rows.map(({ state, fault }) => `${state}: ${fault}`).sort()).toEqual([
      "dropped: The browser is there no more.",
      "waiting: It answers 503.",
    ]);
    expect((await devicesOf(reader.id)).map(({ name }) => name)).toEqual(["away"]);
  });

  it("lies outside, is whoever's it is now, is ended by its reader alone, and is one of ten at most", async () => {
    const [reader, other] = [await aReader(), await aReader()];
    const inside = pushDevice().subscription("http://127.0.0.1:3306/");
    expect(await failureOf(addDevice(reader.id, inside, "inside"))).toMatchObject({ code: "address" });
    await addDevice(other.id, ofAnother("/shared"), "shared");
    await addDevice(reader.id, ofAnother("/shared"), "shared");
    expect(await devicesOf(other.id)).toEqual([]);
    for (let n = 1; n < 10; n++) await addDevice(reader.id, ofAnother(`/${n}`), `browser ${n}`);
    expect(await failureOf(addDevice(reader.id, ofAnother("/11"), "one more"))).toMatchObject({ code: "many" });
    const [first] = await devicesOf(reader.id);
    expect(first.secrets).not.toContain("auth");
    await endDevice(other.id, first.id);
    expect(await PushRow.count({ where: { accountId: reader.id } })).toBe(10);
    await endDevice(reader.id, first.id);
    expect(await PushRow.count({ where: { accountId: reader.id } })).toBe(9);
  });

  it("knows the desk by one key, whichever process asks", () => {
    expect(pushKeys()).toEqual(pushKeys());
    expect(Buffer.from(pushKeys().publicKey, "base64url")).toHaveLength(65);
  });
});
