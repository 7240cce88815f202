import { col, fn, where } from "sequelize";
import { audit } from "../audit/audit.ts";
import { transact } from "../database/connection.ts";
import {
  Account,
  AlertRow,
  AuditRow,
  HookRow,
  KnownDevice,
  OutboxRow,
  PasskeyRow,
  PaymentRow,
  PushRow,
  QuestionRow,
  ReaderChoicesRow,
  Session,
  TokenRow,
  WatcherRow,
} from "../database/models.ts";
import { Failure } from "../failure.ts";
import { countBefore, forget, subjectOf } from "./delays.ts";
import { verifyPassword } from "./passwords.ts";

/** Everything that is kept of somebody, as data: secrets and digests of them are not told, for they open doors. */
export async function ownData(id: string): Promise<Record<string, unknown>> {
  const own = { where: { accountId: id } };
  const pushes = await PushRow.findAll({ ...own, attributes: ["name", "createdAt"], raw: true });
  const [account, choices, sessions, tokens, devices, messages, acts, hooks, questions, passkeys, payments, alerts] =
    await Promise.all([
      Account.findByPk(id, { rejectOnEmpty: true }),
      ReaderChoicesRow.findByPk(id),
      Session.findAll({ ...own, attributes: ["device", "createdAt", "seenAt", "expiresAt"], raw: true }),
      TokenRow.findAll({ ...own, attributes: ["purpose", "createdAt", "expiresAt", "usedAt"], raw: true }),
      KnownDevice.findAll({ ...own, attributes: ["createdAt", "seenAt"], raw: true }),
      OutboxRow.findAll({ ...own, attributes: ["what", "state", "createdAt", "sentAt"], raw: true }),
      AuditRow.findAll({ ...own, attributes: ["at", "what", "subject", "detail"], raw: true }),
      HookRow.findAll({ ...own, attributes: ["address", "createdAt"], raw: true }),
      QuestionRow.findAll({
        ...own,
        attributes: ["edition", "about", "stance", "words", "state", "createdAt"],
        raw: true,
      }),
      PasskeyRow.findAll({ ...own, attributes: ["name", "createdAt", "usedAt"], raw: true }),
      PaymentRow.findAll({ ...own, attributes: ["kind", "at"], raw: true }),
      AlertRow.findAll({ ...own, attributes: ["marketId", "terms", "createdAt"] }),
    ]);
  const { email, name, role, plan, createdAt, confirmedAt, passwordAt, totp } = account;
  await audit({ what: "data taken", subject: email, by: account });
  return {
    account: { email, name, role, plan, createdAt, confirmedAt, passwordAt, secondFactor: totp !== null },
    choices: choices?.choices ?? null,
    ...{ sessions, tokens, devices, messages, acts, hooks, pushes, questions, passkeys, payments },
    alerts: alerts.map(({ marketId, terms, createdAt: since }) => ({ marketId, terms, since })),
  };
}

/** Lines of the log that are about an address: that very one, letter by letter, whatever signs stand in it. */
async function linesOf(email: string): Promise<number[]> {
  const begins = where(fn("LEFT", col("subject"), email.length), email);
  const rows = await AuditRow.findAll({ where: begins, attributes: ["number", "subject"], raw: true });
  return rows.flatMap(({ number, subject }) => (subject === email || subject.startsWith(`${email}, `) ? [number] : []));
}

const GONE = "somebody who left";

/**
 * Removes a reader's account and everything that is kept of them; what they did stays written down, without who they
 * were. The record holds nothing of readers. Those who work at the desk are closed by its owner: what they wrote stays.
 */
export async function removeOwn(id: string, password: string): Promise<void> {
  const account = await Account.findByPk(id, { rejectOnEmpty: true });
  if (account.role !== "subscriber")
    throw new Failure("role", "An account of the desk is closed by its owner.", { kept: "Nothing was removed." });
  await countBefore(subjectOf(id, "password"));
  if (!(await verifyPassword(account.passwordHash, password)))
    throw new Failure("password", "This is not the password.", { kept: "Nothing was removed." });
  await forget(subjectOf(id, "password"));
  await transact(async (transaction) => {
    await AuditRow.update({ who: GONE, subject: GONE, detail: null }, { where: { accountId: id }, transaction });
    await AuditRow.update(
      { subject: GONE, detail: null },
      { where: { number: await linesOf(account.email) }, transaction },
    );
    const alerts = await AlertRow.findAll({ where: { accountId: id }, attributes: ["id"], transaction });
    const watched = { kind: "alert", subject: alerts.map((alert) => alert.id) };
    await WatcherRow.destroy({ where: watched, transaction });
    for (const model of [AlertRow, Session, KnownDevice, TokenRow, OutboxRow, ReaderChoicesRow])
      await (model as typeof Session).destroy({ where: { accountId: id }, transaction });
    await account.destroy({ transaction });
    await audit({ what: "account removed", subject: GONE, by: { id: "", name: GONE } });
  });
}
