import { randomUUID } from "node:crypto";
import type { Transaction } from "sequelize";
import { Restatement, type Market } from "../database/models.ts";
import { withDependents } from "../bars/markets.ts";
import type { Stretch } from "../bars/changes.ts";
import { log } from "../log.ts";
import { appendToRecord } from "../record/append.ts";
import { restatedPart } from "../record/parts.ts";
import { noteOutcomes } from "./restated.ts";
import { tell } from "./tell.ts";

/**
 * Tells everything that depends on markets that bars of theirs are new, within the transaction that stored them: their
 * revisions and those of markets derived from them (once each), and whoever watches them, up to `now`. The markets must
 * be locked.
 */
export async function barsAppended(markets: readonly Market[], now: number, transaction: Transaction): Promise<void> {
  for (const market of await withDependents(markets, transaction)) {
    await market.increment("revision", { transaction });
    await market.reload({ transaction, lock: transaction.LOCK.UPDATE });
    const said = await tell(market, now, transaction);
    if (said > 0) log.info({ market: market.id, said }, "watchers had something to say");
  }
}

/**
 * The same where bars that had been closed say something else now, are gone, or came late: addresses under which bars
 * are kept for ever are given up, the restatement is recorded, and noted at the outcomes that had used that time.
 */
export async function barsRestated(
  market: Market,
  stretch: Stretch & { finer: boolean },
  cause: Pick<Restatement, "cause" | "importId" | "bars" | "accountId">,
  transaction: Transaction,
): Promise<void> {
  const { base, from, to } = stretch;
  const at = { fromTime: from, toTime: to, createdAt: Date.now() };
  const id = randomUUID();
  await Restatement.create({ id, marketId: market.id, base, ...cause, ...at }, { transaction });
  await appendToRecord(
    [restatedPart({ id, market: market.id, base, ...cause, from, to, createdAt: at.createdAt })],
    transaction,
  );
  for (const one of await withDependents([market], transaction)) {
    await one.increment("history", { transaction });
    await one.reload({ transaction, lock: transaction.LOCK.UPDATE });
    await noteOutcomes(one, { ...stretch, cause: cause.cause }, transaction);
  }
}
