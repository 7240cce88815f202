import { randomUUID } from "node:crypto";
import type { InviteDto, JoinDto } from "#contracts/account";
import { audit } from "../audit/audit.ts";
import { isDuplicate } from "../database/connection.ts";
import { Account, PlanRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { normalAddress } from "./accounts.ts";
import { countBefore, subjectOf } from "./delays.ts";
import { sendConfirmation, sendInvitation, sendKnown, sendReset } from "./mails.ts";
import { hashPassword, passwordFault } from "./passwords.ts";
import { findPlan } from "./plans.ts";
import { endSessions } from "./sessions.ts";
import { spendToken } from "./tokens.ts";

/** Plans anybody may join on. */
export async function openPlans(): Promise<{ id: string; name: string }[]> {
  return PlanRow.findAll({ where: { open: true }, attributes: ["id", "name"], order: [["name", "ASC"]], raw: true });
}

/**
 * Somebody joins on an open plan. What is answered is the same whether the address has an account or not, and takes as
 * long: whoever it belongs to is told by mail.
 */
export async function join({ email, name, password, plan }: JoinDto): Promise<void> {
  const address = normalAddress(email);
  const fault = await passwordFault(password, { email, name });
  if (fault) throw new Failure("password", fault, { kept: "No account was made.", fields: { password: fault } });
  if (!(await openPlans()).some(({ id }) => id === plan))
    throw new Failure("plan", "Nobody joins on this plan by themselves.", { kept: "No account was made." });
  const passwordHash = await hashPassword(password);
  const id = randomUUID();
  try {
    const role = "subscriber" as const;
    const row = { id, email: address, name, role, passwordHash, plan, createdAt: Date.now(), confirmedAt: null };
    await Account.create(row);
  } catch (error) {
    if (!isDuplicate(error)) throw error;
    const known = await Account.findOne({ where: { email: address } });
    if (known && known.closedAt === null)
      await (known.confirmedAt === null ? sendConfirmation(known.id) : sendKnown(known.id));
    return;
  }
  await sendConfirmation(id);
  await audit({ what: "joined", subject: `${address}, ${plan}`, by: { id, name } });
}

/** The owner invites somebody: an account without a password of theirs, until they choose one. */
export async function invite({ email, name, role, plan }: InviteDto): Promise<void> {
  const { id: planId } = await findPlan(plan);
  const passwordHash = await hashPassword(randomUUID());
  const row = { id: randomUUID(), email: normalAddress(email), name, role, passwordHash, plan: planId };
  try {
    await Account.create({ ...row, createdAt: Date.now(), confirmedAt: null });
  } catch (error) {
    if (!isDuplicate(error)) throw error;
    throw new Failure("taken", "There is already an account with this mail address.", { kept: "Nobody was invited." });
  }
  await sendInvitation(row.id);
  await audit({ what: "invited", subject: `${row.email}, ${role}` });
}

/** A mail address is its account's, for whoever has the link from the mail. */
export function confirmAddress(token: string): Promise<void> {
  return spendToken("confirm", token, async ({ accountId }, transaction) => {
    const account = await Account.findByPk(accountId ?? "", { transaction, rejectOnEmpty: true });
    if (account.confirmedAt !== null) return;
    await account.update({ confirmedAt: Date.now() }, { transaction });
    await audit({ what: "confirmed", subject: account.email, by: account });
  });
}

/** Somebody has forgotten a password: answered alike for every address. */
export async function askReset(email: string): Promise<void> {
  const address = normalAddress(email);
  // Counted as tries are, so that nobody asks for ten thousand addresses.
  await countBefore(subjectOf(`reset ${address}`, undefined));
  const account = await Account.findOne({ where: { email: address, closedAt: null } });
  if (!account || !(await sendReset(account.id))) return;
  await audit({ what: "reset asked", subject: account.email, by: { id: account.id, name: "somebody" } });
}

/** A new password by the link of a mail, which proves the address as well; every session ends. */
export async function choosePassword(purpose: "reset" | "invite", token: string, password: string): Promise<void> {
  const id = await spendToken(purpose, token, async ({ accountId }, transaction) => {
    const account = await Account.findByPk(accountId ?? "", { transaction, rejectOnEmpty: true });
    const fault = await passwordFault(password, account);
    if (fault) throw new Failure("password", fault, { kept: "Nothing was changed.", fields: { password: fault } });
    const passwordHash = await hashPassword(password);
    const confirmedAt = account.confirmedAt ?? Date.now();
    await account.update({ passwordHash, passwordAt: Date.now(), confirmedAt }, { transaction });
    await audit({ what: "password changed", subject: account.email, by: account, detail: { by: purpose } });
    return account.id;
  });
  await endSessions(id, { except: undefined });
}
