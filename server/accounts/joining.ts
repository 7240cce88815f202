import { randomUUID } from "node:crypto";
import type { InviteDto, JoinDto } from "#contracts/account";
import { audit } from "../audit/audit.ts";
import { isDuplicate } from "../database/connection.ts";
import { Account, PlanRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { normalAddress } from "./accounts.ts";
import { countBefore, subjectOf } from "./delays.ts";
import { sendConfirmation, sendInvitation, sendKnown, sendReset } from "./mails.ts";
import { hashPassword, NO_PASSWORD, passwordFault } from "./passwords.ts";
import { findPlan } from "./plans.ts";
import { endAccess } from "./endAccess.ts";
import { spendToken } from "./tokens.ts";

/** Plans anybody may join on. */
export async function openPlans(): Promise<{ id: string; name: string }[]> {
  return PlanRow.findAll({ where: { open: true }, attributes: ["id", "name"], order: [["name", "ASC"]], raw: true });
}

/**
 * Somebody joins on an open plan. What is answered is the same whether the address has an account or not, and takes as
 * long: whoever it belongs to is told by mail, and chooses name and password behind its link. Nothing that is said here
 * opens anything.
 */
export async function join({ email, name, plan }: JoinDto): Promise<void> {
  const address = normalAddress(email);
  if (!(await openPlans()).some(({ id }) => id === plan))
    throw new Failure("plan", "Nobody joins on this plan by themselves.", { kept: "No account was made." });
  const id = randomUUID();
  try {
    // No password at all fits this until one is chosen.
    const passwordHash = NO_PASSWORD;
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
  const passwordHash = NO_PASSWORD;
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

/** Somebody has forgotten a password: answered alike for every address. */
export async function askReset(email: string): Promise<void> {
  const address = normalAddress(email);
  // Counted as tries are, so that nobody asks for ten thousand addresses.
  await countBefore(subjectOf(`reset ${address}`, undefined));
  const account = await Account.findOne({ where: { email: address, closedAt: null } });
  if (!account || !(await sendReset(account.id))) return;
  await audit({ what: "reset asked", subject: account.email, by: { id: account.id, name: "somebody" } });
}

/** Mails by whose link a password is chosen: of somebody who joins, was invited, or has forgotten theirs. */
export type Chosen = "confirm" | "reset" | "invite";

/**
 * A new password by the link of a mail, which proves the address as well. Every way in of before ends, and no other
 * link works any more: who joined first with somebody else's address keeps nothing of it.
 */
export async function choosePassword(purpose: Chosen, token: string, password: string, name = ""): Promise<void> {
  const id = await spendToken(purpose, token, async ({ accountId }, transaction) => {
    const account = await Account.findByPk(accountId ?? "", { transaction, rejectOnEmpty: true });
    const fault = await passwordFault(password, account);
    if (fault) throw new Failure("password", fault, { kept: "Nothing was changed.", fields: { password: fault } });
    const passwordHash = await hashPassword(password);
    const confirmedAt = account.confirmedAt ?? Date.now();
    // Whoever joined may have been somebody else: the name is the owner's of the address.
    const called = purpose === "confirm" && name.trim() !== "" ? { name: name.trim().slice(0, 100) } : {};
    await account.update({ passwordHash, passwordAt: Date.now(), confirmedAt, ...called }, { transaction });
    const what = purpose === "confirm" ? "confirmed" : "password changed";
    await audit({ what, subject: account.email, by: account, detail: { by: purpose } });
    return account.id;
  });
  await endAccess(id, undefined);
}
