import { existsSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { transact } from "../database/connection.ts";
import { Edition, FollowUpRow, OutcomeNoteRow, RecordHead } from "../database/models.ts";
import { sealFormer } from "../database/sealing.ts";
import { log } from "../log.ts";
import { recordFolder } from "../signing.ts";
import { appendToRecord, type Part } from "./append.ts";
import { catchUpHeads } from "./check.ts";
import { asFollowUp } from "#core/scenarios/events";
import { keptHeads } from "./heads.ts";
import { followUpPart, notePart } from "./parts.ts";

/**
 * Enters what was published before there was a record, in order of time; on a desk that has one, keeps the heads a
 * crash left out. A record that is empty although heads of it were kept was emptied by somebody: it is not begun anew.
 */
export async function openRecord(): Promise<void> {
  await sealOnce();
  const head = await RecordHead.findByPk(1, { raw: true });
  if ((head?.number ?? 0) > 0) return catchUpHeads();
  if (keptHeads().length > 0)
    return void log.error("the record is empty, and heads of it were kept: nothing is entered anew");
  const parts = await earlierParts();
  if (parts.length > 0) await transact((transaction) => appendToRecord(parts, transaction));
}

/** Rows are sealed since some version: those from before that are, once and never again. */
export async function sealOnce(): Promise<void> {
  const done = join(recordFolder(), "rows-sealed");
  if (existsSync(done)) return;
  await sealFormer();
  writeFileSync(done, "");
}

async function earlierParts(): Promise<Part[]> {
  const [editions, followUps, notes] = await Promise.all([
    Edition.findAll({ attributes: ["number", "sha256", "publishedAt"], raw: true }),
    FollowUpRow.findAll(),
    OutcomeNoteRow.findAll(),
  ]);
  const parts: [number, Part][] = [
    ...editions.map(({ number, sha256, publishedAt }): [number, Part] => [
      publishedAt,
      { kind: "edition", edition: number, scenarioId: "", sequence: 0, digest: sha256 },
    ]),
    ...followUps.map(({ edition, scenarioId, sequence, createdAt, event }): [number, Part] => [
      createdAt,
      followUpPart({ edition, scenarioId, sequence, createdAt, event: asFollowUp(event) }),
    ]),
    ...notes.map(({ edition, scenarioId, sequence, createdAt, note }): [number, Part] => [
      createdAt,
      notePart({ edition, scenarioId, sequence, createdAt, note }),
    ]),
  ];
  return parts.sort(([a], [b]) => a - b).map(([, part]) => part);
}
