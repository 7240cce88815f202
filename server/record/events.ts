import { asFollowUp, type FollowUp } from "#core/scenarios/events";
import { FollowUpRow, RecordEntry } from "../database/models.ts";
import { readPart } from "./entry.ts";

/** What happened to a call, as it was entered in the record; none where it never was. */
export async function enteredEvent(
  edition: number,
  scenarioId: string,
  sequence: number,
): Promise<FollowUp | undefined> {
  const where = { edition, scenarioId, sequence };
  const entry = await RecordEntry.findOne({ where: { kind: "followUp", ...where }, raw: true });
  if (!entry) return undefined;
  if (entry.part !== null) return readPart(entry.part)?.content as FollowUp | undefined;
  // Entries of the first format hold the digest alone.
  const row = await FollowUpRow.findOne({ where });
  return row ? asFollowUp(row.event) : undefined;
}
