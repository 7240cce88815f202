import { randomUUID } from "node:crypto";
import { Webhook } from "standardwebhooks";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { GRACE, type Payment } from "#core/readers/membership";
import { Account, MembershipRow, PaymentRow } from "../database/models.ts";
import { forgetSettings } from "../settings.ts";
import { aReader, failureOf, withTables } from "../testing.ts";
import { createAccount } from "./accounts.ts";
import { endLapsed, takePayment } from "./memberships.ts";
import { putOnPlan } from "./plans.ts";
import { sayPayment } from "./till.ts";

withTables();

const SECRET = `whsec_${Buffer.alloc(24, 7).toString("base64")}`;
beforeAll(() => {
  process.env.COMPASS_TILL_SECRET = SECRET;
  forgetSettings();
});
afterAll(() => {
  delete process.env.COMPASS_TILL_SECRET;
  forgetSettings();
});

const DAY = 86_400_000;
const aPayer = async () => {
  const { id } = await aReader();
  await putOnPlan(id, "free");
  return id;
};
const planOf = async (id: string) => (await Account.findByPk(id, { rejectOnEmpty: true })).plan;

interface Told {
  at?: number;
  until?: number;
  plan?: string;
  id?: string;
  secret?: string;
  sent?: Date;
}

function message(kind: Payment | "forgiven", account: string, told: Told = {}) {
  const {
    at = Date.now(),
    until,
    plan = "member",
    id = `msg-${randomUUID()}`,
    secret = SECRET,
    sent = new Date(),
  } = told;
  const timestamp = sent.toISOString();
  const body = JSON.stringify({
    type: `membership.${kind}`,
    timestamp,
    data: { account, plan, at, ...(until ? { until } : {}) },
  });
  const headers = new Headers({
    "webhook-id": id,
    "webhook-timestamp": String(Math.floor(sent.getTime() / 1000)),
    "webhook-signature": new Webhook(secret).sign(id, sent, body),
  });
  return { headers, body };
}
const take = (kind: Payment, account: string, told?: Told) => {
  const { headers, body } = message(kind, account, told);
  return takePayment(headers, body);
};

describe("the stand-in for a payment house", () => {
  it("gives a trial once, whatever became of it", async () => {
    Object.assign(process.env, { COMPASS_TILL: "stand-in" });
    forgetSettings();
    const id = await aPayer();
    const now = Date.now();
    await take("trial", id, { at: now - 2, until: now + 14 * DAY });
    expect(await failureOf(sayPayment("trial", id, "member"))).toMatchObject({ code: "trial", status: 409 });
    await take("lapsed", id, { at: now - 1 });
    expect(await failureOf(sayPayment("trial", id, "member"))).toMatchObject({ code: "trial", status: 409 });
    expect(await planOf(id)).toBe("free");
    delete process.env.COMPASS_TILL;
    forgetSettings();
  });
});

describe("what the payment house says", () => {
  it("puts a reader on the plan while it is paid for, and back on the one before when it is over", async () => {
    const id = await aPayer();
    const now = Date.now();
    await take("trial", id, { at: now - 4, until: now + 14 * DAY });
    expect(await planOf(id)).toBe("member");
    await take("paid", id, { at: now - 3, until: now + 30 * DAY });
    await take("failed", id, { at: now - 2, until: now + 37 * DAY });
    expect(await planOf(id)).toBe("member");
    await take("refunded", id, { at: now - 1 });
    expect(await planOf(id)).toBe("free");
    expect(await MembershipRow.findByPk(id)).toMatchObject({ state: "refunded", before: "free" });
  });

  it("counts once, however often it is said, and late messages change nothing", async () => {
    const id = await aPayer();
    const now = Date.now();
    const paid = message("paid", id, { at: now, until: now + 30 * DAY });
    const answers = await Promise.all(Array.from({ length: 5 }, () => takePayment(paid.headers, paid.body)));
    expect(answers.filter((one) => one === "taken")).toHaveLength(1);
    expect(await PaymentRow.count({ where: { accountId: id } })).toBe(1);
    // A charge that failed before it was tried once more comes in behind.
    await take("failed", id, { at: now - 60_000, until: now - 1 });
    expect(await MembershipRow.findByPk(id)).toMatchObject({ state: "paid", until: now + 30 * DAY });
    expect(await planOf(id)).toBe("member");
  });

  it("is refused where it is not signed by it, changed on its way, too old, or no such thing", async () => {
    const id = await aPayer();
    const refused = async ({ headers, body }: ReturnType<typeof message>) => failureOf(takePayment(headers, body));
    const other = `whsec_${Buffer.alloc(24, 8).toString("base64")}`;
    expect(await refused(message("paid", id, { secret: other }))).toMatchObject({ code: "signature", status: 401 });
    const whole = message("paid", id);
    expect(await refused({ ...whole, body: whole.body.replace("member", "membes") })).toMatchObject({ status: 401 });
    expect(await refused({ ...whole, headers: new Headers() })).toMatchObject({ status: 401 });
    // Standard Webhooks 1.0 has a tolerance of five minutes against replays.
    const old = new Date(Date.now() - 6 * 60_000);
    expect(await refused(message("paid", id, { sent: old }))).toMatchObject({ status: 401 });
    expect(await refused(message("forgiven", id))).toMatchObject({ code: "fields" });
    expect(await planOf(id)).toBe("free");
    expect(await PaymentRow.count({ where: { accountId: id } })).toBe(0);
  });

  it("of somebody who left, or of those at the desk, is taken and means nothing", async () => {
    const analyst = await createAccount(
      { email: `an-${randomUUID()}@meridian.example`, name: "An Alyst", password: "long enough" },
      "analyst",
    );
    expect(await take("paid", analyst.id, { until: Date.now() + DAY })).toBe("taken");
    expect(await take("paid", randomUUID(), { until: Date.now() + DAY })).toBe("taken");
    expect(await MembershipRow.findByPk(analyst.id)).toBeNull();
  });
});

describe("a membership of which nothing more is heard", () => {
  it("ends a little after what was paid for, and not where something was heard meanwhile", async () => {
    const [id, other] = [await aPayer(), await aPayer()];
    const now = Date.now();
    await take("paid", id, { at: now, until: now + 1_000 });
    await take("paid", other, { at: now, until: now + 2 * GRACE });
    await endLapsed(now + GRACE);
    expect(await planOf(id)).toBe("member");
    await endLapsed(now + GRACE + 1_001);
    expect([await planOf(id), await planOf(other)]).toEqual(["free", "member"]);
    expect(await MembershipRow.findByPk(id)).toMatchObject({ state: "lapsed" });
    expect(await endLapsed(now + GRACE + 2_000)).toBe(0);
  });

  it("is not for sale where there is no payment house", async () => {
    delete process.env.COMPASS_TILL_SECRET;
    forgetSettings();
    const { headers, body } = message("paid", randomUUID());
    expect(await failureOf(takePayment(headers, body))).toMatchObject({ status: 404 });
    process.env.COMPASS_TILL_SECRET = SECRET;
    forgetSettings();
  });
});
