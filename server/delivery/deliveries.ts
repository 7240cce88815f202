import { Account, MESSAGE_KINDS, OutboxRow } from "../database/models.ts";

/** A message that nobody took after several tries, or that will never be taken. */
export interface DeadLetter {
  number: number;
  to: string;
  what: string;
  fault: string;
  createdAt: number;
}

const MOST = 100;

/** How much is on its way, and the dead letters, the newest first. */
export async function deliveries() {
  const count = (state: OutboxRow["state"]) => OutboxRow.count({ where: { kind: [...MESSAGE_KINDS], state } });
  const [waiting, sent, dropped] = await Promise.all((["waiting", "sent", "dropped"] as const).map(count));
  const rows = await OutboxRow.findAll({
    where: { kind: [...MESSAGE_KINDS], state: "dead" },
    order: [["number", "DESC"]],
    limit: MOST,
  });
  const ids = rows.flatMap(({ accountId }) => accountId ?? []);
  const accounts = await Account.findAll({ where: { id: ids }, attributes: ["id", "email"], raw: true });
  const addresses = new Map(accounts.map(({ id, email }) => [id, email]));
  const dead = rows.map(({ number, accountId, what, fault, createdAt }): DeadLetter => ({
    ...{ number: Number(number), fault, createdAt, what: named(what) },
    to: `${addresses.get(accountId ?? "") ?? "somebody who left"}${byWay(what)}`,
  }));
  return { counts: { waiting, sent, dropped }, dead };
}

const byWay = (what: object) => ("hook" in what ? ", a program" : "push" in what ? ", a browser" : "");

function named(what: Record<string, unknown>): string {
  if (typeof what.account === "string") return `a mail about the account (${what.account})`;
  if ("held" in what) return "a draft that did not go out";
  if ("until" in what) return "the week";
  if ("alert" in what) return "a price somebody waits for";
  const edition = `edition ${String(what.edition)}`;
  return "scenarioId" in what ? `what became of a call of ${edition}` : edition;
}
