import { randomBytes } from "node:crypto";
import { Secret, TOTP } from "otpauth";
import { audit } from "../audit/audit.ts";
import { transact } from "../database/connection.ts";
import { Account, type SecondFactor } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { countBefore, forget, subjectOf } from "./delays.ts";
import { verifyPassword } from "./passwords.ts";
import { decrypted, encrypted, sealed, unsealed } from "../secret.ts";
import { digest } from "./sessions.ts";
import { findToken, issueToken } from "./tokens.ts";

/** Seconds a code is of, and how many of them before and after are taken: clocks differ (RFC 6238, section 5.2). */
const STEP = 30;
const WINDOW = 1;
/** How long a code may be given after the password (ms). */
const PATIENCE = 5 * 60_000;
const RECOVERY_CODES = 10;

const totpOf = (secret: string, label = "") =>
  new TOTP({ issuer: "Even Compass", label, secret: Secret.fromBase32(secret), period: STEP, digits: 6 });

/** The time step a code is of; `undefined` of one that is none now. */
export function stepOf(secret: string, code: string, now: number): number | undefined {
  const plain = code.replace(/\s/g, "");
  if (!/^\d{6}$/.test(plain)) return undefined;
  const delta = totpOf(secret).validate({ token: plain, timestamp: now, window: WINDOW });
  return delta === null ? undefined : Math.floor(now / 1000 / STEP) + delta;
}

/** A secret for a new second factor, sealed for one account: it is nobody's until a code of it was given. */
export function proposeFactor({ id, email }: Pick<Account, "id" | "email">) {
  const secret = new Secret({ size: 20 }).base32;
  return { secret, address: totpOf(secret, email).toString(), seal: sealed(`factor ${id}`, encrypted(secret)) };
}

/** Sets up a proposed second factor with the first code of it; returns the recovery codes, which are told this once. */
export async function beginFactor(id: string, seal: string, code: string, now = Date.now()): Promise<string[]> {
  const kept = unsealed(`factor ${id}`, seal);
  const step = kept === undefined ? undefined : stepOf(decrypted(kept), code, now);
  if (kept === undefined || step === undefined)
    throw new Failure("code", "That is no code of it just now.", {
      kept: "Nothing was changed.",
      remedy: "Give the six digits it shows now; its clock must be right.",
    });
  const codes = Array.from({ length: RECOVERY_CODES }, () =>
    randomBytes(10)
      .toString("hex")
      .replace(/(.{5})(?=.)/g, "$1-"),
  );
  const account = await Account.findByPk(id, { rejectOnEmpty: true });
  await account.update({ totp: { secret: kept, lastStep: step, recovery: codes.map(digest) } });
  await audit({ what: "factor on", subject: account.email, by: account });
  return codes;
}

/** Gives the second factor up; the password must be known. */
export async function endFactor(id: string, password: string): Promise<void> {
  const account = await Account.findByPk(id, { rejectOnEmpty: true });
  await countBefore(subjectOf(id, "password"));
  if (!(await verifyPassword(account.passwordHash, password)))
    throw new Failure("password", "This is not the password.", { kept: "Nothing was changed." });
  await forget(subjectOf(id, "password"));
  await account.update({ totp: null });
  await audit({ what: "factor off", subject: account.email, by: account });
}

/** The password was right, and the account has a second factor: `factor` stands for this sign-in until then. */
export class FactorNeeded extends Failure {
  constructor(readonly factor: string) {
    super("factor", "Give the code of your second factor.", { status: 401 });
  }
}

/** What stands for somebody whose password was right until the code is given. */
export const askFactor = (accountId: string) => issueToken({ purpose: "factor", accountId, lasts: PATIENCE });

/**
 * Checks the code of a second factor, or a recovery code in its place; each is taken once. Failures are counted for the
 * account before they are known to be one: six digits cannot be guessed through.
 */
export async function proveFactor(token: string, code: string, now = Date.now()): Promise<Account> {
  const row = await findToken("factor", token);
  if (!row?.accountId) throw new Failure("late", "That took too long.", { status: 401, remedy: "Sign in once more." });
  const subject = subjectOf(row.accountId, "factor");
  await countBefore(subject, now);
  const account = await takeCode(row.accountId, code, now);
  if (!account)
    throw new Failure("code", "That is no code of it just now.", {
      status: 401,
      remedy: "Give the next one it shows.",
    });
  await forget(subject);
  await row.update({ usedAt: now });
  return account;
}

/** Under a lock, so that one code given twice at once is taken once. */
function takeCode(id: string, code: string, now: number): Promise<Account | undefined> {
  return transact(async (transaction) => {
    const account = await Account.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
    if (!account?.totp || account.closedAt !== null) return undefined;
    const next = afterCode(account.totp, code, now);
    return next && account.update({ totp: next }, { transaction });
  });
}

/** The factor once a code of it was taken; `undefined` of one that is none, or was taken before. */
export function afterCode(factor: SecondFactor, code: string, now: number): SecondFactor | undefined {
  const step = stepOf(decrypted(factor.secret), code, now);
  if (step !== undefined) return step > factor.lastStep ? { ...factor, lastStep: step } : undefined;
  const used = digest(code.trim().toLowerCase());
  if (!factor.recovery.includes(used)) return undefined;
  return { ...factor, recovery: factor.recovery.filter((one) => one !== used) };
}
