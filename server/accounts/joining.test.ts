import { randomUUID } from "node:crypto";
import { Secret, TOTP } from "otpauth";
import { describe, expect, it } from "vitest";
import {
  Account,
  AuditRow,
  HookRow,
  OutboxRow,
  PushRow,
  ReaderChoicesRow,
  Session,
  TokenRow,
} from "../database/models.ts";
import { audit } from "../audit/audit.ts";
import { accountLetter } from "../delivery/compose.ts";
import { saveChoices } from "../readers/choices.ts";
import { CHOICES } from "#core/readers/choices";
import { anAnalyst, failureOf, withTables } from "../testing.ts";
import { changePassword, createAccount, signIn } from "./accounts.ts";
import { afterCode, beginFactor, endFactor, FactorNeeded, proposeFactor, proveFactor, stepOf } from "./factor.ts";
import { askReset, choosePassword, invite, join } from "./joining.ts";
import { ownData, removeOwn } from "./ownData.ts";
import { decrypted, encrypted } from "../secret.ts";
import { beginSession } from "./sessions.ts";
import { issueToken, tokensOf } from "./tokens.ts";

withTables();

const PASSWORD = "seven herons over slate";
const address = () => `${randomUUID()}@meridian.example`;
const accountOf = (email: string) => Account.findOne({ where: { email }, rejectOnEmpty: true });
const mailsTo = async (accountId: string) =>
  (await OutboxRow.findAll({ where: { accountId, kind: "mail" } })).map(({ what }) => what.account);
/** The token in the link of a mail, as whoever receives it has it. */
async function linkIn(mail: "confirm" | "invite" | "reset", accountId: string): Promise<string> {
  const { text } = await accountLetter(mail, accountId);
  return /\/(?:confirm|invite|reset)\/(\S+)/.exec(text)?.[1] ?? "";
}
async function aReader(password = PASSWORD) {
  const email = address();
  const { id } = await createAccount({ email, name: "Rea Hill", password }, "subscriber");
  return { id, email };
}

describe("joining", () => {
  it("is by an address whose owner chooses the password, behind the link that is sent to it", async () => {
    const email = address();
    await join({ email, name: "Rea Hill", plan: "free" });
    const { id, plan, role } = await accountOf(email);
    expect([plan, role]).toEqual(["free", "subscriber"]);
    for (const password of ["", "none", PASSWORD])
      expect(await failureOf(signIn({ email, password }))).toMatchObject({ code: "sign-in" });
    const token = await linkIn("confirm", id);
    expect(await failureOf(choosePassword("confirm", token, "password1234"))).toMatchObject({ code: "password" });
    await choosePassword("confirm", token, PASSWORD);
    expect((await signIn({ email, password: PASSWORD })).token).toHaveLength(43);
    expect(await failureOf(choosePassword("confirm", token, PASSWORD))).toMatchObject({ status: 410 });
    expect(await failureOf(choosePassword("confirm", "x".repeat(43), PASSWORD))).toMatchObject({ status: 410 });
  });

  it("first with somebody else's address keeps nothing of it: neither a name nor a way in", async () => {
    const email = address();
    await join({ email, name: "Eve", plan: "free" });
    const { id } = await accountOf(email);
    // Whatever somebody had left at the account before its owner came.
    const early = await linkIn("confirm", id);
    await issueToken({ purpose: "feed", accountId: id });
    await join({ email, name: "Rea Hill", plan: "free" });
    await choosePassword("confirm", await linkIn("confirm", id), PASSWORD, "Rea Hill");
    expect((await accountOf(email)).name).toBe("Rea Hill");
    expect(await failureOf(choosePassword("confirm", early, "another five crows"))).toMatchObject({ status: 410 });
    expect(await tokensOf(id, "feed")).toEqual([]);
  });

  it("tells nobody whose address has an account: its owner gets a mail, and nothing is changed", async () => {
    const { id, email } = await aReader();
    const before = (await accountOf(email)).passwordHash;
    await join({ email: email.toUpperCase(), name: "Eve", plan: "free" });
    expect((await accountOf(email)).passwordHash).toBe(before);
    expect(await mailsTo(id)).toEqual(["known"]);
    expect(await failureOf(join({ email, name: "Eve", plan: "member" }))).toMatchObject({ code: "plan" });
  });

  it("by invitation is a role the owner gives; whoever is invited chooses the password", async () => {
    const email = address();
    await invite({ email, name: "Ada Reed", role: "analyst", plan: "member" });
    const { id } = await accountOf(email);
    expect(await mailsTo(id)).toEqual(["invite"]);
    const token = await linkIn("invite", id);
    expect(await failureOf(choosePassword("reset", token, PASSWORD))).toMatchObject({ status: 410 });
    expect(await failureOf(choosePassword("invite", token, "short"))).toMatchObject({ code: "password" });
    await choosePassword("invite", token, PASSWORD);
    expect((await signIn({ email, password: PASSWORD })).token).toHaveLength(43);
    expect(await failureOf(invite({ email, name: "Ada", role: "owner", plan: "member" }))).toMatchObject({
      code: "taken",
    });
  });
});

describe("a forgotten password", () => {
  it("is chosen anew by a link that is used once, and every session of before ends", async () => {
    const { id, email } = await aReader();
    await beginSession(id, "");
    await askReset(email);
    await askReset(email);
    // One mail a minute, however often it is asked for.
    expect(await mailsTo(id)).toEqual(["reset"]);
    const token = await linkIn("reset", id);
    await choosePassword("reset", token, "twelve gulls on a pier");
    expect(await Session.count({ where: { accountId: id } })).toBe(0);
    expect(await failureOf(signIn({ email, password: PASSWORD }))).toMatchObject({ code: "sign-in" });
    expect((await signIn({ email, password: "twelve gulls on a pier" })).token).toHaveLength(43);
    expect(await failureOf(choosePassword("reset", token, PASSWORD))).toMatchObject({ status: 410 });
    // The table alone opens no door.
    expect(JSON.stringify(await TokenRow.findAll({ where: { accountId: id }, raw: true }))).not.toContain(token);
  });

  it("changed or chosen anew ends every way in, and every link of an earlier mail", async () => {
    const { id, email } = await aReader();
    const leave = async () => {
      for (const purpose of ["feed", "api", "bars", "share"] as const) await issueToken({ purpose, accountId: id });
      await HookRow.create({
        id: randomUUID(),
        accountId: id,
        address: "https://a.example/",
        secret: "s",
        createdAt: 1,
      });
      await PushRow.create({
        ...{ id: randomUUID(), accountId: id, endpoint: "e" },
        secrets: "s",
        name: "",
        createdAt: 1,
      });
      await beginSession(id, "");
    };
    const left = async () =>
      (
        await Promise.all(
          [TokenRow, HookRow, PushRow, Session].map((model) =>
            (model as typeof Session).count({
              where: { accountId: id, ...((model as unknown) === TokenRow ? { usedAt: null } : {}) } as never,
            }),
          ),
        )
      ).reduce((a, b) => a + b);
    await leave();
    const [older, newer] = [await linkIn("reset", id), await linkIn("reset", id)];
    await choosePassword("reset", newer, "twelve gulls on a pier");
    expect(await left()).toBe(0);
    expect(await failureOf(choosePassword("reset", older, PASSWORD))).toMatchObject({ status: 410 });
    await leave();
    const pending = await linkIn("reset", id);
    const { token } = await signIn({ email, password: "twelve gulls on a pier" });
    await changePassword(id, { current: "twelve gulls on a pier", next: PASSWORD }, token);
    expect(await left()).toBe(1);
    expect(await failureOf(choosePassword("reset", pending, PASSWORD))).toMatchObject({ status: 410 });
  });

  it("asked for an address that is nobody's is answered alike, and asked again and again it has to wait", async () => {
    const nobody = address();
    for (let n = 0; n < 5; n++) await askReset(nobody);
    expect(await failureOf(askReset(nobody))).toMatchObject({ code: "too-many", details: { status: 429 } });
  });
});

describe("a second factor", () => {
  // RFC 6238, appendix B, SHA-1: the secret is the ASCII text "12345678901234567890", the codes there have eight
  // digits, of which an authenticator of six shows the last.
  const RFC = Secret.fromUTF8("12345678901234567890").base32;
  it.each([
    [59, "94287082"],
    [1111111109, "07081804"],
    [1111111111, "14050471"],
    [1234567890, "89005924"],
    [2000000000, "69279037"],
    [20000000000, "65353130"],
  ])("takes the code of RFC 6238 at %i s", (seconds, code) => {
    expect(stepOf(RFC, code.slice(2), seconds * 1000)).toBe(Math.floor(seconds / 30));
    expect(stepOf(RFC, code.slice(2), (seconds + 90) * 1000)).toBeUndefined();
  });

  const codeAt = (secret: string, now: number) =>
    new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: now });

  it("is asked for after the password, and each code is taken once", async () => {
    const { id, email } = await aReader();
    const { secret, seal } = proposeFactor({ id, email });
    const now = Date.now();
    expect(await failureOf(beginFactor(id, seal, "000000x", now))).toMatchObject({ code: "code" });
    expect(await failureOf(beginFactor(randomUUID(), seal, codeAt(secret, now), now))).toMatchObject({ code: "code" });
    const recovery = await beginFactor(id, seal, codeAt(secret, now), now);
    expect(recovery).toHaveLength(10);
    const factor = async () => {
      try {
        await signIn({ email, password: PASSWORD });
      } catch (error) {
        if (error instanceof FactorNeeded) return error.factor;
      }
      throw new Error("A second factor was expected to be asked for.");
    };
    const token = await factor();
    // The code it was set up with was taken then.
    expect(await failureOf(proveFactor(token, codeAt(secret, now), now))).toMatchObject({ code: "code" });
    const later = now + 30_000;
    expect((await proveFactor(token, codeAt(secret, later), later)).id).toBe(id);
    expect(await failureOf(proveFactor(token, codeAt(secret, later + 30_000), later))).toMatchObject({ code: "late" });
    expect((await proveFactor(await factor(), recovery[3].toUpperCase(), later)).id).toBe(id);
    expect(await failureOf(proveFactor(await factor(), recovery[3], later))).toMatchObject({ code: "code" });
    // At rest it is not to be read.
    expect(JSON.stringify((await accountOf(email)).totp)).not.toContain(secret);
    expect(await failureOf(endFactor(id, "another one"))).toMatchObject({ code: "password" });
    await endFactor(id, PASSWORD);
    expect((await signIn({ email, password: PASSWORD })).token).toHaveLength(43);
  });

  it("cannot be guessed through: tries are counted for the account, whatever sign-in they are of", async () => {
    const { id, email } = await aReader();
    const { secret, seal } = proposeFactor({ id, email });
    await beginFactor(id, seal, codeAt(secret, Date.now()));
    const outcomes: string[] = [];
    for (let n = 0; n < 12; n++) {
      const error = await signIn({ email, password: PASSWORD }).catch((one: unknown) => one);
      const { factor } = error as FactorNeeded;
      outcomes.push((await failureOf(proveFactor(factor, String(100_000 + n)))).code);
    }
    expect(outcomes.filter((code) => code === "code").length).toBeLessThanOrEqual(6);
    expect(outcomes.at(-1)).toBe("too-many");
  });

  it("takes a code for no step before the last one", () => {
    const kept = { secret: encrypted(RFC), lastStep: 0, recovery: [] };
    const now = 1_111_111_111_000;
    const once = afterCode(kept, codeAt(RFC, now), now)!;
    expect(once.lastStep).toBe(Math.floor(now / 30_000));
    expect(afterCode(once, codeAt(RFC, now), now)).toBeUndefined();
    expect(afterCode(once, codeAt(RFC, now - 30_000), now)).toBeUndefined();
    expect(() => decrypted(`${encrypted("a").slice(0, -2)}AA`)).toThrow();
  });
});

describe("what is kept of somebody", () => {
  it("is theirs to take, without anything that opens a door", async () => {
    const { id, email } = await aReader();
    await saveChoices(id, { ...CHOICES, zone: "Atlantic/Reykjavik" });
    const data = JSON.stringify(await ownData(id));
    expect(data).toContain(email);
    expect(data).toContain("Atlantic/Reykjavik");
    expect(data).not.toContain((await accountOf(email)).passwordHash);
  });

  it("is removed by a reader who knows the password; what was done stays, without who it was", async () => {
    const { id, email } = await aReader();
    await signIn({ email, password: PASSWORD });
    expect(await failureOf(removeOwn(id, "another one"))).toMatchObject({ code: "password" });
    await removeOwn(id, PASSWORD);
    expect(await Account.findByPk(id)).toBeNull();
    for (const model of [Session, TokenRow, OutboxRow, ReaderChoicesRow])
      expect(await (model as typeof Session).count({ where: { accountId: id } })).toBe(0);
    const log = JSON.stringify(await AuditRow.findAll({ raw: true }));
    expect(log).not.toContain(email);
    expect(log).toContain("account removed");
    // Another's lines stay, however like a pattern an address may look.
    await audit({ what: "put on a plan", subject: "abc@meridian.example, Free" });
    const odd = await createAccount({ email: "a_c@meridian.example", name: "Odd", password: PASSWORD }, "subscriber");
    await removeOwn(odd.id, PASSWORD);
    expect(JSON.stringify(await AuditRow.findAll({ raw: true }))).toContain("abc@meridian.example, Free");
    const analyst = await anAnalyst();
    expect(await failureOf(removeOwn(analyst.id, "long enough"))).toMatchObject({ code: "role" });
  });
});
