import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { auditLines } from "../audit/audit.ts";
import { actingAs } from "../audit/actor.ts";
import { Account, KnownDevice, Session, SignInCount } from "../database/models.ts";
import { failureOf, withTables } from "../testing.ts";
import { changePassword, closeAccount, createAccount, listAccounts, openAccount, signIn } from "./accounts.ts";
import { countBefore, delayAfter, subjectOf } from "./delays.ts";
import { passwordFault } from "./passwords.ts";
import { endSessions, personOf, sessionsOf, signOut } from "./sessions.ts";
import { writeUses } from "./uses.ts";

withTables();

const PASSWORD = "correct horse";

async function anAccount(role: "owner" | "analyst" | "subscriber" = "subscriber") {
  const email = `${randomUUID()}@meridian.example`;
  const { id } = await createAccount({ email, name: "Bo Lark", password: PASSWORD }, role);
  return { id, email };
}

const wrong = (email: string, device?: string) => failureOf(signIn({ email, password: "nope" }, { device }));

describe("accounts", () => {
  it("passwords are kept as argon2id only", async () => {
    const { email } = await anAccount();
    // RFC 9106 names the variant; the string form is that of its reference implementation.
    expect((await Account.findOne({ where: { email } }))?.passwordHash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });
  it("a session is found by its token, of which only a digest is stored, until it is ended", async () => {
    const { token } = await signIn({ email: (await anAccount()).email.toUpperCase(), password: PASSWORD });
    expect(await personOf(token)).toMatchObject({ name: "Bo Lark", role: "subscriber" });
    expect(await Session.findByPk(token)).toBeNull();
    await signOut(token);
    expect(await personOf(token)).toBeUndefined();
  });
  it("a session that has run out, or was not used for twelve hours, opens nothing", async () => {
    const { id, email } = await anAccount();
    const { token } = await signIn({ email, password: PASSWORD });
    await Session.update({ seenAt: Date.now() - 12 * 3_600_000 - 1 }, { where: { accountId: id } });
    expect(await personOf(token)).toBeUndefined();
    const second = await signIn({ email, password: PASSWORD });
    await Session.update({ expiresAt: Date.now() - 1 }, { where: { accountId: id } });
    expect(await personOf(second.token)).toBeUndefined();
  });
  it("using a session keeps it; a page that only listens does not", async () => {
    const { id, email } = await anAccount();
    const { token } = await signIn({ email, password: PASSWORD });
    const hourAgo = Date.now() - 3_600_000;
    const seen = async () => (await Session.findOne({ where: { accountId: id } }))?.seenAt ?? 0;
    await Session.update({ seenAt: hourAgo }, { where: { accountId: id } });
    await personOf(token, true);
    await writeUses();
    expect(await seen()).toBe(hourAgo);
    // Of two who come at once both are written down, by one question.
    const other = await signIn({ email, password: PASSWORD });
    await Session.update({ seenAt: hourAgo }, { where: { accountId: id } });
    await Promise.all([personOf(token), personOf(other.token)]);
    await expect.poll(async () => Session.count({ where: { accountId: id, seenAt: hourAgo } })).toBe(0);
  });
  it.each([undefined, "", "x", "x".repeat(5000), "'; DROP TABLE sessions; --"])(
    "the token %j opens nothing",
    async (token) => {
      expect(await personOf(token)).toBeUndefined();
    },
  );
  it("an unknown address and a wrong password are told alike", async () => {
    const [known, unknown] = [await wrong((await anAccount()).email), await wrong("nobody@meridian.example")];
    expect(known.sentence).toBe(unknown.sentence);
  });
  it("one address has one account, and two that differ by an accent are two", async () => {
    const { email } = await anAccount();
    expect(
      await failureOf(createAccount({ email: email.toUpperCase(), name: "Two", password: "long enough" }, "analyst")),
    ).toMatchObject({ code: "taken" });
    const local = randomUUID();
    await createAccount({ email: `anyone-${local}@meridian.example`, name: "One", password: "long enough" }, "analyst");
    await createAccount(
      { email: `\u00e1nyone-${local}@meridian.example`, name: "Other", password: "long enough too" },
      "analyst",
    );
    expect(
      (await failureOf(signIn({ email: `\u00e1nyone-${local}@meridian.example`, password: "long enough" }))).code,
    ).toBe("sign-in");
    // The same letter written in two ways (Unicode NFC and NFD) is the same address.
    expect(
      (await signIn({ email: `a\u0301nyone-${local}@meridian.example`, password: "long enough too" })).token,
    ).toHaveLength(43);
  });
});

describe("guessing", () => {
  it("two hundred wrong passwords at once are five that are tried", { timeout: 60_000 }, async () => {
    const { email } = await anAccount();
    const outcomes = await Promise.all(Array.from({ length: 200 }, () => wrong(email)));
    expect(outcomes.filter(({ code }) => code === "sign-in")).toHaveLength(5);
    expect(outcomes.filter(({ code }) => code === "too-many")).toHaveLength(195);
  });
  it("each failure after the fifth doubles the wait, up to a quarter of an hour", () => {
    expect([1, 4, 5, 6, 7, 8].map(delayAfter)).toEqual([0, 0, 2000, 4000, 8000, 16_000]);
    expect(delayAfter(1000)).toBe(15 * 60_000);
  });
  it("waits that were sat out let one more try through; a day without any forgets them", async () => {
    const subject = subjectOf(randomUUID(), undefined);
    let now = 1e12;
    for (let i = 0; i < 5; i++) await countBefore(subject, now);
    expect((await failureOf(countBefore(subject, now + 1999))).code).toBe("too-many");
    now += 2000;
    expect(await countBefore(subject, now)).toBe(6);
    expect(await countBefore(subject, now + 24 * 3_600_000 + 1)).toBe(1);
  });
  it("whoever guesses at somebody locks strangers out, never the person on a device that is known", async () => {
    const { email } = await anAccount();
    const { device } = await signIn({ email, password: PASSWORD });
    for (let i = 0; i < 12; i++) await wrong(email);
    expect(await failureOf(signIn({ email, password: PASSWORD }))).toMatchObject({
      code: "too-many",
      details: {
        status: 429,
        remedy: expect.stringMatching(/Wait \d+ s and try again, or sign in on a device/) as string,
      },
    });
    expect((await signIn({ email, password: PASSWORD }, { device })).device).toBeUndefined();
    // A device of somebody else is a stranger here.
    const { device: other } = await signIn({ email: (await anAccount()).email, password: PASSWORD });
    expect((await failureOf(signIn({ email, password: PASSWORD }, { device: other }))).code).toBe("too-many");
  });
  it("fifty at invented addresses keep nobody else behind the same address from signing in", async () => {
    for (let i = 0; i < 50; i++) await wrong(`${randomUUID()}@nowhere.example`);
    expect((await signIn({ email: (await anAccount()).email, password: PASSWORD })).token).toBeDefined();
  });
  it("the right password clears what failed before", async () => {
    const { id, email } = await anAccount();
    for (let i = 0; i < 4; i++) await wrong(email);
    await signIn({ email, password: PASSWORD });
    expect(await SignInCount.findByPk(subjectOf(id, undefined))).toBeNull();
  });
  it("a device cookie is known by its digest, and the oldest of twenty makes room", async () => {
    const { id, email } = await anAccount();
    const { device } = await signIn({ email, password: PASSWORD });
    expect(await KnownDevice.findByPk(device)).toBeNull();
    await KnownDevice.bulkCreate(
      Array.from({ length: 24 }, (_, i) => ({
        id: `${i}`.padStart(8, "0") + id,
        accountId: id,
        createdAt: i,
        seenAt: i,
      })),
    );
    await signIn({ email, password: PASSWORD });
    expect(await KnownDevice.count({ where: { accountId: id } })).toBe(20);
  });
});

describe("what people do with their accounts", () => {
  it("a password is changed by who knows the present one, and every other session ends", async () => {
    const { id, email } = await anAccount();
    const [here, there] = [await signIn({ email, password: PASSWORD }), await signIn({ email, password: PASSWORD })];
    expect(
      await failureOf(changePassword(id, { current: "wrong", next: "a slate roof in rain" }, here.token)),
    ).toMatchObject({ code: "password", details: { fields: { current: expect.any(String) as string } } });
    await changePassword(id, { current: PASSWORD, next: "a slate roof in rain" }, here.token);
    expect([await personOf(here.token), await personOf(there.token)].map(Boolean)).toEqual([true, false]);
    expect((await wrong(email)).code).toBe("sign-in");
    expect((await signIn({ email, password: "a slate roof in rain" })).token).toBeDefined();
  });
  it.each([
    ["short", "harbour", /at least 12 characters/],
    ["common", "1qaz2wsx3edc4rfv", /tried first/],
    ["a common one with a year hung on", "sunshine2026!", /tried first/],
    ["one letter", "aaaaaaaaaaaaaa", /five different/],
    ["one's own name twice", "mirabelmirabel", /own name/],
    ["one's own address", "mirabel.quayle!1", /own name/],
  ])("%s: %s is refused", async (_what, password, why) =>
    expect(await passwordFault(password, { email: "mirabel.quayle@meridian.example", name: "Mirabel Quayle" })).toMatch(
      why,
    ),
  );
  it.each(["lantern-harbour", "four tin boats at dawn", "\u2603 \u2603 snow on the quay"])(
    "%s can be chosen",
    async (password) =>
      expect(await passwordFault(password, { email: "m@meridian.example", name: "Mirabel" })).toBeUndefined(),
  );
  it("sessions are listed with the one that asks, and ended one by one or all", async () => {
    const { id, email } = await anAccount();
    const tokens = [];
    for (const browser of ["first", "second", "third"])
      tokens.push((await signIn({ email, password: PASSWORD }, { browser })).token);
    const lines = await sessionsOf(id, tokens[1]);
    expect(lines.filter(({ own }) => own).map(({ device }) => device)).toEqual(["second"]);
    expect(await endSessions(id, { id: lines.find(({ device }) => device === "first")?.id ?? "" })).toBe(1);
    expect((await Promise.all(tokens.map((token) => personOf(token)))).map(Boolean)).toEqual([false, true, true]);
    // Nobody ends another's.
    expect(await endSessions((await anAccount()).id, { id: lines.find(({ own }) => own)?.id ?? "" })).toBe(0);
    expect(await endSessions(id, { except: undefined })).toBe(2);
  });
  it(
    "a closed account signs nobody in, its sessions end at once, and it can be opened again; the last " + "owner stays",
    async () => {
      const [owner, { id, email }] = [await anAccount("owner"), await anAccount("analyst")];
      const { token } = await signIn({ email, password: PASSWORD });
      await closeAccount(id);
      expect(await personOf(token)).toBeUndefined();
      expect((await failureOf(signIn({ email, password: PASSWORD }))).code).toBe("sign-in");
      expect((await listAccounts()).find((one) => one.id === id)?.closedAt).toEqual(expect.any(Number));
      await openAccount(id);
      expect((await signIn({ email, password: PASSWORD })).token).toBeDefined();
      expect((await failureOf(closeAccount(owner.id))).code).toBe("last-owner");
      await anAccount("owner");
      await closeAccount(owner.id);
    },
  );
  it("what was done is written down with who did it, and cannot be what was undone", async () => {
    const { id, email } = await anAccount("analyst");
    await wrong(email);
    await signIn({ email, password: PASSWORD }, { browser: "a browser" });
    await actingAs({ id, name: "Bo Lark" }, () => endSessions(id, { except: undefined }));
    const { lines } = await auditLines({});
    expect(lines.slice(0, 3).map(({ who, what }) => [who, what])).toEqual([
      ["Bo Lark", "ended sessions"],
      ["Bo Lark", "signed in"],
      ["somebody", "failed to sign in"],
    ]);
    const { lines: failed } = await auditLines({ what: "sign-in failed" });
    expect(failed.every(({ what }) => what === "failed to sign in")).toBe(true);
    expect((await auditLines({ before: lines[0].number })).lines[0].number).toBe(lines[1].number);
  });
});
