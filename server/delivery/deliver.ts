import { randomUUID } from "node:crypto";
import { again } from "../again.ts";
import { endLapsed } from "../accounts/memberships.ts";
import { sightAmong, sightsByPlan, type Sight } from "../accounts/plans.ts";
import { Account, MESSAGE_KINDS, NEWS_KINDS, type MessageKind, type OutboxRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { log } from "../log.ts";
import { claim, failed, finish, putOff } from "../outbox/outbox.ts";
import type { AccountMail } from "../accounts/mails.ts";
import { mastheadOf } from "../publishing/deskSettings.ts";
import { accountLetter, heldLetter, letterOf } from "./compose.ts";
import { fanOut } from "./fanOut.ts";
import { sendHook } from "./hooks.ts";
import { OutsideFault } from "./outside.ts";
import { sendPush } from "./push.ts";
import { MailFault, sendLetter, takesMail } from "./send.ts";
import { announceWeek } from "./week.ts";

type Letter = Awaited<ReturnType<typeof letterOf>>;

/** How a message is handed on, by its kind. */
const WAYS: Readonly<
  Record<MessageKind, (row: OutboxRow, letter: Letter, to: { account: Account; house: string }) => Promise<unknown>>
> = {
  mail: (row, letter, { account, house }) => sendLetter(row.name, account, letter, house),
  hook: sendHook,
  push: sendPush,
};

/** Messages that are taken at once; they are sent beside each other. */
const AT_ONCE = 100;

/** Makes messages of news, and sends those that are due. Returns how many were sent. */
export async function deliver(by: string): Promise<number> {
  for (;;) {
    const news = await claim(by, NEWS_KINDS, 20);
    if (news.length === 0) break;
    for (const one of news) await fanOut(one).catch((error: unknown) => failed(one, String(error)));
  }
  let sent = 0;
  for (;;) {
    // Mail waits until there is somebody who takes it.
    const rows = await claim(
      by,
      takesMail() ? MESSAGE_KINDS : MESSAGE_KINDS.filter((kind) => kind !== "mail"),
      AT_ONCE,
    );
    if (rows.length === 0) break;
    const batch = await asked(rows);
    const outcomes = await Promise.all(rows.map((row) => sendRow(row, batch)));
    const done = rows.filter((_row, i) => outcomes[i] === "sent");
    await finish(done, "sent");
    sent += done.length;
  }
  return sent;
}

/** Whom messages are to, what they may see as their plans are now, and whose name stands on them. */
interface Batch {
  accounts: ReadonlyMap<string, Account>;
  sights: ReadonlyMap<string, Sight>;
  house: string;
}

/** Asked once for all messages that were taken: each by itself would ask more of the database than of the mail. */
async function asked(rows: readonly OutboxRow[]): Promise<Batch> {
  const where = { id: rows.flatMap(({ accountId }) => accountId ?? []) };
  const [accounts, sights, masthead] = await Promise.all([Account.findAll({ where }), sightsByPlan(), mastheadOf()]);
  return { accounts: new Map(accounts.map((account) => [account.id, account])), sights, house: masthead.name };
}

/** Sends one; what was not sent is stored with the reason. */
async function sendRow(row: OutboxRow, { accounts, sights, house }: Batch): Promise<"sent" | "not"> {
  try {
    const account = accounts.get(row.accountId ?? "");
    if (!account || account.closedAt !== null) {
      await finish([row], "dropped", "The account is closed.");
      return "not";
    }
    const { account: mail, held } = row.what as { account?: AccountMail; held?: string };
    const letter = mail
      ? await accountLetter(mail, account.id)
      : held
        ? await heldLetter(held)
        : await letterOf(row, sightAmong(sights, account), account.id);
    await WAYS[row.kind as MessageKind](row, letter, { account, house });
    return "sent";
  } catch (error) {
    // What may be seen later waits; what may not be seen any more is no fault: the plan has changed since.
    if (error instanceof Failure && error.details.until !== undefined) await putOff(row, error.details.until);
    else if (error instanceof Failure && error.status < 500) await finish([row], "dropped", error.sentence);
    else
      await failed(
        row,
        error instanceof Error ? error.message : String(error),
        (error instanceof MailFault || error instanceof OutsideFault) && error.final,
      );
    return "not";
  }
}

/** Delivers what there is, again and again. */
export function runDelivery(every = 1_000): () => void {
  const by = randomUUID();
  return again(
    async () => {
      await announceWeek(Date.now());
      await endLapsed(Date.now());
      const sent = await deliver(by);
      if (sent > 0) log.info({ sent }, "messages were handed over");
    },
    every,
    "what readers wait for could not be delivered",
  );
}
