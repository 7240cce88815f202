import { randomBytes, randomUUID } from "node:crypto";
import { Op } from "sequelize";
import type { ChangePasswordDto, NewAccountDto, SignInDto } from "#contracts/account";
import { audit } from "../audit/audit.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { ROLE_NAMES, type Role } from "#core/readers/roles";
import { Account, KnownDevice, Session } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { browserName } from "./browserName.ts";
import { endAccess } from "./endAccess.ts";
import { askFactor, FactorNeeded } from "./factor.ts";
import { sendConfirmation } from "./mails.ts";
import { countBefore, forget, subjectOf } from "./delays.ts";
import { hashPassword, passwordFault, verifyPassword } from "./passwords.ts";
import { beginSession, digest, type Person } from "./sessions.ts";

/** Devices an account is known on; the one not used for longest makes room. */
const MOST_DEVICES = 20;

/** Mail addresses are compared letter by letter, in one form and without regard to capitals. */
export function normalAddress(email: string): string {
  return email.normalize("NFC").toLowerCase();
}

export async function createAccount({ email, name, password }: NewAccountDto, role: Role): Promise<Person> {
  const id = randomUUID();
  const passwordHash = await hashPassword(password);
  try {
    const now = Date.now();
    // Whoever makes accounts for others knows their addresses.
    await Account.create({
      id,
      email: normalAddress(email),
      name,
      role,
      passwordHash,
      createdAt: now,
      confirmedAt: now,
    });
  } catch (error) {
    if (isDuplicate(error)) throw new Failure("taken", "There is already an account with this mail address.");
    throw error;
  }
  await audit({ what: "account made", subject: `${email}, ${role}` });
  return { id, name, role };
}

/**
 * Where a sign-in comes from: the token of a device that is known, if it has one, and what its browser calls itself.
 */
export interface SignInFrom {
  device?: string;
  browser?: string;
}

/** The token of a new session and, on a device that was not known, that of the device. */
export interface SignedIn {
  token: string;
  device?: string;
}

async function deviceKnown(accountId: string, device: string | undefined): Promise<KnownDevice | null> {
  if (!device || device.length > 100) return null;
  return KnownDevice.findOne({ where: { id: digest(device), accountId } });
}

/**
 * Checks mail and password. Returns the token of the new session and, on a device that was not known, that of the
 * device; of an account with a second factor it throws what stands for this sign-in until its code is given.
 * Failures are counted before they are known to be one.
 */
export async function signIn(
  { email, password }: SignInDto,
  { device, browser = "" }: SignInFrom = {},
): Promise<SignedIn> {
  const address = normalAddress(email);
  const account = await Account.findOne({ where: { email: address } });
  const known = account ? await deviceKnown(account.id, device) : null;
  const subject = subjectOf(account?.id ?? `none ${address}`, known?.id);
  const failures = await countBefore(subject);
  if (!(await verifyPassword(account?.passwordHash, password)) || !account || account.closedAt !== null) {
    // Of addresses that are nobody's the first of a row is written down, not every guess.
    if (account || failures === 1)
      await audit({
        what: "sign-in failed",
        subject: account ? account.email : "an address without an account",
        by: { id: account?.id ?? "", name: "somebody" },
        detail: { inARow: failures },
      });
    throw new Failure("sign-in", "Mail address and password do not go together.", { status: 401 });
  }
  await forget(subject);
  // Said to those alone who know the password.
  if (account.confirmedAt === null) {
    await sendConfirmation(account.id);
    throw new Failure("unconfirmed", "Your mail address is not confirmed yet.", {
      status: 403,
      remedy: "A mail with the link is on its way once more.",
    });
  }
  if (account.totp) throw new FactorNeeded(await askFactor(account.id));
  return beginOn(account, { ...(device ? { device } : {}), browser });
}

/** Begins a session for somebody who has proven who they are. */
export async function beginOn(account: Account, { device, browser = "" }: SignInFrom): Promise<SignedIn> {
  const known = await deviceKnown(account.id, device);
  const token = await beginSession(account.id, browser);
  await audit({
    what: "sign-in",
    subject: browserName(browser),
    by: account,
    detail: { browser: browser.slice(0, 300) },
  });
  if (known) {
    await known.update({ seenAt: Date.now() });
    return { token };
  }
  return { token, device: await knowDevice(account.id) };
}

async function knowDevice(accountId: string): Promise<string> {
  const device = randomBytes(32).toString("base64url");
  const now = Date.now();
  await KnownDevice.create({ id: digest(device), accountId, createdAt: now, seenAt: now });
  const others = await KnownDevice.findAll({
    where: { accountId },
    attributes: ["id"],
    order: [["seenAt", "DESC"]],
    offset: MOST_DEVICES,
    limit: 100,
    raw: true,
  });
  if (others.length > 0) await KnownDevice.destroy({ where: { id: others.map(({ id }) => id) } });
  return device;
}

/** Changes somebody's password, who must know the present one; every other way in ends. */
export async function changePassword(
  accountId: string,
  { current, next }: ChangePasswordDto,
  token: string | undefined,
): Promise<void> {
  const account = await Account.findByPk(accountId, { rejectOnEmpty: true });
  const subject = subjectOf(account.id, "password");
  await countBefore(subject);
  if (!(await verifyPassword(account.passwordHash, current)))
    throw new Failure("password", "The present password is another one.", {
      kept: "Nothing was changed.",
      fields: { current: "This is not the present password." },
    });
  await forget(subject);
  const fault = await passwordFault(next, account);
  if (fault) throw new Failure("password", fault, { kept: "Nothing was changed.", fields: { next: fault } });
  await account.update({ passwordHash: await hashPassword(next), passwordAt: Date.now() });
  await audit({ what: "password changed", subject: account.email, by: account });
  await endAccess(account.id, token);
}

/** What somebody is called; also of an account that is no longer there. */
export async function nameOf(id: string): Promise<string> {
  return (await Account.findByPk(id, { attributes: ["name"], raw: true }))?.name ?? "a former colleague";
}

export interface AccountLine {
  id: string;
  email: string;
  name: string;
  role: Role;
  /** Id of the plan a reader is on. */
  plan: string;
  createdAt: number;
  closedAt: number | null;
  /** When it was last seen; none where it is not signed in. */
  seenAt: number | null;
}

/** Everybody who has an account: open ones first, by what they are for. */
export async function listAccounts(): Promise<AccountLine[]> {
  const [accounts, sessions] = await Promise.all([
    Account.findAll({ order: [["name", "ASC"]], raw: true }),
    Session.findAll({ attributes: ["accountId", "seenAt"], raw: true }),
  ]);
  const rank = ({ closedAt, role }: Account) => (closedAt === null ? 0 : 10) + ROLE_NAMES.indexOf(role);
  return accounts
    .sort((a, b) => rank(a) - rank(b))
    .map(({ id, email, name, role, plan, createdAt, closedAt }) => {
      const seen = sessions.filter(({ accountId }) => accountId === id).map(({ seenAt }) => seenAt);
      return { id, email, name, role, plan, createdAt, closedAt, seenAt: seen.length > 0 ? Math.max(...seen) : null };
    });
}

/**
 * Closes an account: nobody signs in to it any more, its sessions end at once, and what it made stays. The last owner
 * stays, too.
 */
export function closeAccount(id: string): Promise<void> {
  return transact(async (transaction) => {
    const owners = await Account.findAll({
      where: { role: "owner", closedAt: null },
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    const account = await Account.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
    if (!account) throw notFound("account");
    if (account.role === "owner" && owners.every((one) => one.id === id))
      throw new Failure("last-owner", "A desk has at least one owner.", {
        kept: "Nothing was changed.",
        remedy: "Make another owner first.",
      });
    if (account.closedAt !== null) return;
    await account.update({ closedAt: Date.now() }, { transaction });
    await Session.destroy({ where: { accountId: id }, transaction });
    await KnownDevice.destroy({ where: { accountId: id }, transaction });
    await audit({ what: "account closed", subject: `${account.email}, ${account.role}` });
  });
}

/** Opens a closed account again, with the password it had. */
export function openAccount(id: string): Promise<void> {
  return transact(async (transaction) => {
    const account = await Account.findOne({
      where: { id, closedAt: { [Op.ne]: null } },
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    if (!account) throw notFound("closed account");
    await account.update({ closedAt: null }, { transaction });
    await audit({ what: "account opened", subject: `${account.email}, ${account.role}` });
  });
}
