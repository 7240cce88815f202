import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { Account, Session } from "../database/models.ts";
import { failureOf, withTables } from "../testing.ts";
import { createAccount, personOf, signIn, signOut } from "./accounts.ts";

withTables();

async function anAccount() {
  const email = `${randomUUID()}@meridian.example`;
  await createAccount({ email, name: "Bo Lark", password: "correct horse" }, "subscriber");
  return email;
}

describe("accounts", () => {
  it("passwords are kept as argon2id only", async () => {
    const email = await anAccount();
    // RFC 9106 names the variant; the string form is that of its reference implementation.
    expect((await Account.findOne({ where: { email } }))?.passwordHash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });
  it("a session is found by its token, of which only a digest is stored, until it is ended", async () => {
    const token = await signIn({ email: (await anAccount()).toUpperCase(), password: "correct horse" }, randomUUID());
    expect(await personOf(token)).toMatchObject({ name: "Bo Lark", role: "subscriber" });
    expect(await Session.findByPk(token)).toBeNull();
    await signOut(token);
    expect(await personOf(token)).toBeUndefined();
  });
  it("a session that has run out opens nothing", async () => {
    const token = await signIn({ email: await anAccount(), password: "correct horse" }, randomUUID());
    await Session.update({ expiresAt: Date.now() - 1 }, { where: {} });
    expect(await personOf(token)).toBeUndefined();
  });
  it.each([undefined, "", "x", "x".repeat(5000), "'; DROP TABLE sessions; --"])("the token %j opens nothing", async (token) => {
    expect(await personOf(token)).toBeUndefined();
  });
  it("an unknown address and a wrong password are told alike", async () => {
    const wrong = await failureOf(signIn({ email: await anAccount(), password: "nope" }, randomUUID()));
    const unknown = await failureOf(signIn({ email: "nobody@meridian.example", password: "nope" }, randomUUID()));
    expect(wrong.sentence).toBe(unknown.sentence);
  });
  it("ten failures make an address wait, the right password included", async () => {
    const email = await anAccount();
    for (let i = 0; i < 10; i++) await failureOf(signIn({ email, password: "nope" }, randomUUID()));
    expect(await failureOf(signIn({ email, password: "correct horse" }, randomUUID()))).toMatchObject({ code: "too-many", details: { status: 429 } });
  });
  it("one address has one account", async () => {
    const email = await anAccount();
    expect(await failureOf(createAccount({ email, name: "Two", password: "long enough" }, "analyst"))).toMatchObject({ code: "taken" });
  });
});
