import { Op, QueryTypes } from "sequelize";
import type { StoredFollowUpEvent } from "#core/scenarios/events";
import type { WholeState } from "#core/scenarios/legs";
import type { OutcomeNote } from "#core/scenarios/note";
import { snapshot } from "../database/connection.ts";
import { Edition, EditionPicture, FollowUpRow, OutcomeNoteRow, RecordEntry, WatcherRow } from "../database/models.ts";
import type { SealedEntry } from "./entry.ts";
import { keptHeads, type Head } from "./heads.ts";
import { publicKeys, type PublicKeys } from "./keys.ts";
import { partsOf } from "./subject.ts";

export const RECORD_FORMAT = "even-compass-record-1";

/** The whole record as data: what `verifyRecord` is given, wherever it came from. */
export interface RecordFile {
  format: typeof RECORD_FORMAT;
  keys: PublicKeys;
  heads: Head[];
  entries: SealedEntry[];
  editions: {
    number: number;
    title: string;
    publishedAt: number;
    sha256: string;
    previousSha256: string;
    canonical: string;
  }[];
  /** Digests of the stored pictures; `view` says which of a chart's it is. */
  pictures: { edition: number; section: number; view?: string; svg: string; png: string | null }[];
  /** Digests of what is stored of steps said aloud. */
  voices?: { edition: number; sha256: string }[];
  followUps: { edition: number; scenarioId: string; sequence: number; createdAt: number; event: StoredFollowUpEvent }[];
  notes: { edition: number; scenarioId: string; sequence: number; createdAt: number; note: OutcomeNote }[];
  /** What is being followed; part of the desk, not of what readers are given. */
  followed?: {
    edition: number;
    scenarioId: string;
    marketId: string;
    state: WholeState;
    since: number;
    done: boolean;
  }[];
}

/** The chain alone, without what it is of: nothing in it is anybody's to keep from anybody. */
export type ChainFile = Pick<RecordFile, "keys" | "heads" | "entries"> & { format: "even-compass-chain-1" };

const BY_NUMBER = { order: [["number", "ASC"]] as [string, string][], raw: true as const };
const BY_PART = {
  order: [
    ["edition", "ASC"],
    ["scenarioId", "ASC"],
    ["sequence", "ASC"],
  ] as [string, string][],
};

/** Where the record ends. */
export async function recordHead(): Promise<{ number: number; sha256: string; keyId: string }> {
  const last = await RecordEntry.findOne({ order: [["number", "DESC"]], raw: true });
  return { number: last?.number ?? 0, sha256: last?.sha256 ?? "", keyId: last?.keyId ?? "" };
}

/** An entry as its row holds it. */
export function entryOf({
  number,
  kind,
  edition,
  scenarioId,
  sequence,
  digest,
  at,
  previousSha256: previous,
  sha256,
  keyId,
  signature,
}: RecordEntry): SealedEntry {
  return {
    format: "even-compass-entry-1",
    number,
    kind,
    edition,
    scenarioId,
    sequence,
    digest,
    at,
    previous,
    sha256,
    keyId,
    signature,
  };
}

export async function readEntries(after = 0): Promise<SealedEntry[]> {
  return (await RecordEntry.findAll({ where: { number: { [Op.gt]: after } }, ...BY_NUMBER })).map(entryOf);
}

export async function chainFile(): Promise<ChainFile> {
  return { format: "even-compass-chain-1", keys: publicKeys(), heads: keptHeads(), entries: await readEntries() };
}

function ask<Found extends object>(statement: string): Promise<Found[]> {
  const { sequelize } = EditionPicture;
  if (!sequelize) throw new Error("There is no database.");
  return sequelize.query<Found>(statement, { type: QueryTypes.SELECT });
}

const storedVoices = () =>
  ask<{ edition: number; sha256: string }>(
    `SELECT editions.number AS edition, SHA2(voices.bytes, 256) AS sha256
     FROM editions JOIN voices ON voices.draftId = editions.draftId ORDER BY edition, sha256`,
  );

/** Digests of the bytes as they are now, worked out where they lie. */
function storedPictures(): Promise<RecordFile["pictures"]> {
  return ask(
    `SELECT edition, section, view, SHA2(drawing.bytes, 256) AS svg, SHA2(image.bytes, 256) AS png
     FROM edition_pictures LEFT JOIN artefacts drawing ON drawing.sha256 = svgSha256
     LEFT JOIN artefacts image ON image.sha256 = pngSha256 ORDER BY edition, section, view`,
  );
}

/** Everything as it stands at one moment: `followed` is the desk's own and left out for readers. */
export function recordFile({ followed = false }: { followed?: boolean } = {}): Promise<RecordFile> {
  // Heads are read first: what is entered meanwhile must not look as if it had been cut off.
  const [keys, heads] = [publicKeys(), keptHeads()];
  return snapshot(async () => {
    const entries = await readEntries();
    const editions = await Edition.findAll({
      attributes: ["number", "title", "publishedAt", "sha256", "previousSha256", "canonical"],
      ...BY_NUMBER,
    });
    const pictures = await storedPictures();
    const voices = await storedVoices();
    const followUps = await FollowUpRow.findAll(BY_PART);
    const notes = await OutcomeNoteRow.findAll(BY_PART);
    const watched = followed
      ? await WatcherRow.findAll({ where: { kind: "scenario" }, order: [["subject", "ASC"]] })
      : [];
    return {
      format: RECORD_FORMAT,
      keys,
      heads,
      entries,
      editions: editions.map(({ number, title, publishedAt, sha256, previousSha256, canonical }) => ({
        number,
        title,
        publishedAt,
        sha256,
        previousSha256,
        canonical,
      })),
      pictures,
      voices,
      followUps: followUps.map(({ edition, scenarioId, sequence, createdAt, event }) => ({
        edition,
        scenarioId,
        sequence,
        createdAt,
        event,
      })),
      notes: notes.map(({ edition, scenarioId, sequence, createdAt, note }) => ({
        edition,
        scenarioId,
        sequence,
        createdAt,
        note,
      })),
      ...(followed
        ? {
            followed: watched.map(({ subject, marketId, state, since, done }) => {
              return { ...partsOf(subject), marketId, state: state as WholeState, since, done };
            }),
          }
        : {}),
    };
  });
}
