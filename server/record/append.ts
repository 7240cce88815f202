import type { Transaction } from "sequelize";
import { RecordEntry, RecordHead } from "../database/models.ts";
import { entrySha, type EntryBody, type SealedEntry } from "./entry.ts";
import { keepHeads } from "./heads.ts";
import { signerOf } from "./keys.ts";

/** What is to be entered: which part of the record, and its digest. */
export type Part = Pick<EntryBody, "kind" | "edition" | "scenarioId" | "sequence" | "digest">;

/**
 * Adds entries to the record, in the transaction that stores what they are of: both are there, or neither. Whoever adds
 * holds the head until the end, so that entries follow each other without a gap; once they stand, the head is kept
 * outside the database as well.
 */
export async function appendToRecord(parts: readonly Part[], transaction: Transaction): Promise<SealedEntry[]> {
  if (parts.length === 0) return [];
  const head = await RecordHead.findByPk(1, { transaction, lock: transaction.LOCK.UPDATE, rejectOnEmpty: true });
  const signer = signerOf();
  const entries: SealedEntry[] = [];
  let { number, sha256: previous } = head;
  for (const part of parts) {
    const body: EntryBody = { format: "even-compass-entry-1", ...part, number: ++number, at: Date.now(), previous };
    const sha256 = entrySha(body);
    entries.push({ ...body, sha256, keyId: signer.keyId, signature: signer.sign(sha256) });
    previous = sha256;
  }
  await RecordEntry.bulkCreate(
    entries.map(({ format: _, previous: before, ...entry }) => ({ ...entry, previousSha256: before })),
    { transaction },
  );
  await head.update({ number, sha256: previous }, { transaction });
  transaction.afterCommit(() => keepHeads(entries));
  return entries;
}
