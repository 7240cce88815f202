import type { Transaction } from "sequelize";
import { RecordEntry, RecordHead } from "../database/models.ts";
import { digestOf } from "./digest.ts";
import { entrySha, textOfPart, type EntryBody, type NewPart, type PartKey, type SealedEntry } from "./entry.ts";
import { keepHeads } from "./heads.ts";
import { signerOf } from "../signing.ts";

/** What is to be entered: an edition by its digest, for its text has a row of its own, or any other part. */
export type Part = NewPart | (PartKey & { kind: "edition"; digest: string });

/** The digest of a part that is entered, with its text where it has no other place. */
function sealedPart(part: Part): { digest: string; text?: string } {
  if ("digest" in part) return { digest: part.digest };
  const text = textOfPart(part);
  return { digest: digestOf(text), text };
}

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
    const { kind, edition, scenarioId, sequence } = part;
    const { digest, text } = sealedPart(part);
    const body: EntryBody = { format: "even-compass-entry-2", number: ++number, digest, at: Date.now(), previous };
    const sha256 = entrySha(body);
    const seal = { sha256, keyId: signer.keyId, signature: signer.sign(sha256) };
    entries.push({
      ...body,
      ...seal,
      kind,
      edition,
      scenarioId,
      sequence,
      ...(text === undefined ? {} : { part: text }),
    });
    previous = sha256;
  }
  await RecordEntry.bulkCreate(
    entries.map(({ format: _, previous: before, ...entry }) => ({ ...entry, format: 2, previousSha256: before })),
    { transaction },
  );
  await head.update({ number, sha256: previous }, { transaction });
  transaction.afterCommit(() => keepHeads(entries));
  return entries;
}
