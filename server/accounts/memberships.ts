import { Op } from "sequelize";
import { Webhook } from "standardwebhooks";
import { PaymentDto } from "#contracts/payment";
import { readDto } from "#contracts/read";
import { afterPayment, GRACE, isRunning, type Payment } from "#core/readers/membership";
import { audit } from "../audit/audit.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { Account, MembershipRow, PaymentRow, PlanRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { readSettings } from "../settings.ts";

/** Headers that name a message, say when it was sent, and sign it (Standard Webhooks 1.0). */
const SIGNED = ["webhook-id", "webhook-timestamp", "webhook-signature"] as const;

/**
 * Takes a message of the payment house. What nobody signed who has the secret, or signed over five minutes ago, is
 * refused; one that was taken before changes nothing.
 */
export async function takePayment(headers: Headers, body: string): Promise<"taken" | "known"> {
  const secret = readSettings().COMPASS_TILL_SECRET;
  if (!secret) throw new Failure("till", "This desk has no payment house.", { status: 404 });
  const signed = Object.fromEntries(SIGNED.map((name) => [name, headers.get(name) ?? ""]));
  const read = readDto(PaymentDto, verified(secret, body, signed));
  if (!read.ok)
    throw new Failure("fields", Object.values(read.fields)[0], { status: 400, kept: "Nothing was changed." });
  const { account, plan, at, until } = read.value.data;
  const kind = read.value.type.slice("membership.".length) as Payment;
  try {
    await note(signed["webhook-id"], account, { kind, plan, at, until });
    return "taken";
  } catch (error) {
    if (isDuplicate(error)) return "known";
    throw error;
  }
}

function verified(secret: string, body: string, signed: Record<string, string>): Record<string, unknown> {
  try {
    return new Webhook(secret).verify(body, signed) as Record<string, unknown>;
  } catch {
    throw new Failure("signature", "This message is not signed by the payment house, or is too old.", { status: 401 });
  }
}

function note(id: string, accountId: string, event: Parameters<typeof afterPayment>[1]): Promise<void> {
  return transact(async (transaction) => {
    const account = await Account.findOne({
      where: { id: accountId, role: "subscriber" },
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    const plan = await PlanRow.findByPk(event.plan, { transaction });
    // Of readers and plans that are gone nothing is kept, and the house need not say it again.
    if (!account || !plan) return;
    await PaymentRow.create({ id: id.slice(0, 100), accountId, kind: event.kind, at: event.at }, { transaction });
    const held = await MembershipRow.findByPk(accountId, { transaction, lock: transaction.LOCK.UPDATE });
    const { plan: own, before, state, until, at } = afterPayment(held ?? undefined, event, account.plan);
    if (held && held.at === at) return;
    await MembershipRow.upsert({ accountId, plan: own, before, state, until, at }, { transaction });
    await account.update({ plan: isRunning({ state, until }, Date.now()) ? own : before }, { transaction });
    await audit({ what: "membership changed", subject: account.email, detail: { state, plan: plan.name, until } });
  });
}

export type MembershipLine = Pick<MembershipRow, "state" | "until">;

/** Where everybody's membership stands, by the id of the account. */
export async function memberships(): Promise<Record<string, MembershipLine>> {
  const rows = await MembershipRow.findAll({ raw: true });
  return Object.fromEntries(rows.map(({ accountId, state, until }) => [accountId, { state, until }]));
}

export async function membershipOf(accountId: string): Promise<MembershipRow | null> {
  return MembershipRow.findByPk(accountId);
}

/** Puts readers back whose membership ran out while nothing was heard of it. Returns how many. */
export async function endLapsed(now: number): Promise<number> {
  const over = await MembershipRow.findAll({
    where: {
      [Op.or]: [
        { state: ["trial", "failed"], until: { [Op.lte]: now } },
        { state: "paid", until: { [Op.lte]: now - GRACE } },
      ],
    },
    limit: 100,
  });
  for (const { accountId } of over)
    await transact(async (transaction) => {
      const held = await MembershipRow.findByPk(accountId, { transaction, lock: transaction.LOCK.UPDATE });
      // Something was heard meanwhile.
      if (!held || isRunning(held, now) || held.state === "lapsed") return;
      await held.update({ state: "lapsed" }, { transaction });
      await Account.update({ plan: held.before }, { where: { id: accountId, plan: held.plan }, transaction });
    });
  return over.length;
}
