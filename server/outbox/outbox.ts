import { Op, type Transaction } from "sequelize";
import { isDuplicate, transact } from "../database/connection.ts";
import { OutboxRow, type MessageKind, type NewsKind } from "../database/models.ts";

/** Something to be told, of an edition or of a call: a message for each reader is made of it later. */
export interface News {
  kind: NewsKind;
  /** What it is of: the same is told once. */
  name: string;
  what: Record<string, unknown>;
}

const RESTING = { accountId: null, attempts: 0, leasedUntil: 0, leasedBy: "", fault: "" } as const;

/** Leaves news in the outbox, in the transaction that made them: both are stored, or neither is. */
export async function announce(news: readonly News[], transaction?: Transaction): Promise<void> {
  const now = Date.now();
  const rows = news.map((one) => ({ ...RESTING, ...one, state: "waiting" as const, dueAt: now, createdAt: now }));
  await OutboxRow.bulkCreate(rows, { ...(transaction ? { transaction } : {}), ignoreDuplicates: true });
}

/** A message to one reader. */
export interface Message {
  kind: MessageKind;
  name: string;
  accountId: string;
  what: Record<string, unknown>;
  /** Not before this instant. */
  dueAt: number;
}

/** Leaves one message in the outbox; the same is left once. Returns whether it was. */
export async function post(message: Omit<Message, "dueAt" | "kind">): Promise<boolean> {
  const now = Date.now();
  const row = { ...RESTING, ...message, kind: "mail" as const, state: "waiting" as const, dueAt: now, createdAt: now };
  try {
    await OutboxRow.create(row);
    return true;
  } catch (error) {
    if (isDuplicate(error)) return false;
    throw error;
  }
}

/** Rows of one statement: more would be more than a packet holds. */
const AT_ONCE = 2_000;

/** Makes messages of news, and the news done, in one transaction. */
export function spread(news: OutboxRow, messages: readonly Message[]): Promise<void> {
  return transact(async (transaction) => {
    const now = Date.now();
    for (let from = 0; from < messages.length; from += AT_ONCE) {
      const rows = messages.slice(from, from + AT_ONCE).map((message) => ({
        ...{ ...RESTING, ...message, state: "waiting" as const, createdAt: now },
      }));
      await OutboxRow.bulkCreate(rows, { transaction, ignoreDuplicates: true });
    }
    await OutboxRow.update({ state: "sent", sentAt: now }, { where: { number: news.number }, transaction });
  });
}

/** How long somebody has who took a row (ms): one that did not say that it is done is taken by another then. */
const LEASE = 60_000;

/**
 * Takes rows that are due, so that nobody else takes them: any number of processes may ask at once. The lease is stored
 * before anything is sent.
 */
export function claim(by: string, kinds: readonly OutboxRow["kind"][], most: number): Promise<OutboxRow[]> {
  return transact(async (transaction) => {
    const now = Date.now();
    const rows = await OutboxRow.findAll({
      where: { state: "waiting", kind: [...kinds], dueAt: { [Op.lte]: now }, leasedUntil: { [Op.lte]: now } },
      order: [
        ["dueAt", "ASC"],
        ["number", "ASC"],
      ],
      limit: most,
      transaction,
      lock: transaction.LOCK.UPDATE,
      skipLocked: true,
    });
    const lease = { leasedUntil: now + LEASE, leasedBy: by };
    if (rows.length > 0)
      await OutboxRow.update(lease, { where: { number: rows.map(({ number }) => number) }, transaction });
    return rows;
  });
}

/** What was sent, or need not be sent any more. */
export async function finish(rows: readonly OutboxRow[], state: "sent" | "dropped", fault = ""): Promise<void> {
  if (rows.length === 0) return;
  const where = { number: rows.map(({ number }) => number) };
  await OutboxRow.update({ state, sentAt: Date.now(), leasedUntil: 0, fault }, { where });
}

/** A message that may be sent later waits until then. */
export async function putOff({ number }: OutboxRow, dueAt: number): Promise<void> {
  await OutboxRow.update({ dueAt, leasedUntil: 0 }, { where: { number } });
}

/** Waits before a message is tried again (ms): a little longer each time, up to an hour. */
const FIRST_WAIT = 5_000;
const LONGEST_WAIT = 3_600_000;
/** Tries after which a message is a dead letter. */
export const MOST_TRIES = 8;

/** When a message that failed so many times is tried again; `undefined` for never. */
export function triedAgain(attempts: number, now: number): number | undefined {
  return attempts >= MOST_TRIES ? undefined : now + Math.min(LONGEST_WAIT, FIRST_WAIT * 4 ** (attempts - 1));
}

/** A message could not be sent: it is tried again later, or lies among the dead letters. `final` of what never will. */
export async function failed(row: OutboxRow, fault: string, final = false): Promise<void> {
  const attempts = row.attempts + 1;
  const next = final ? undefined : triedAgain(attempts, Date.now());
  await OutboxRow.update(
    {
      ...{ attempts, leasedUntil: 0, fault: fault.slice(0, 500) },
      ...(next === undefined ? { state: "dead" as const } : { dueAt: next }),
    },
    { where: { number: row.number } },
  );
}

/** A dead letter is sent once more, by hand. */
export async function sendAgain(number: number): Promise<boolean> {
  const [changed] = await OutboxRow.update(
    { state: "waiting", attempts: 0, dueAt: Date.now(), leasedUntil: 0 },
    { where: { number, state: "dead" } },
  );
  return changed > 0;
}
