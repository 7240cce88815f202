import { Op, QueryTypes, type InferAttributes } from "sequelize";
import type { StoredFollowUpEvent } from "#core/scenarios/events";
import type { WholeState } from "#core/scenarios/legs";
import type { OutcomeNote } from "#core/scenarios/note";
import { snapshot } from "../database/connection.ts";
import {
  Edition,
  EditionMarket,
  EditionPicture,
  EditionWords,
  FollowUpRow,
  OutcomeNoteRow,
  RecordEntry,
  Restatement,
  WatcherRow,
} from "../database/models.ts";
import { unsealedRows } from "../database/sealing.ts";
import type { OpenEntry, SealedEntry } from "./entry.ts";
import { keptHeads, type Head } from "./heads.ts";
import { publicKeys, type PublicKeys } from "../signing.ts";
import type { Restated } from "./parts.ts";
import { partsOf } from "./subject.ts";

export const RECORD_FORMAT = "even-compass-record-2";

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
  /** What the desk alone knows: left out of what readers are given. */
  desk?: DeskRecord;
}

/** What of a record is the desk's own. */
export interface DeskRecord {
  /** By what editions are found, beside what they say. */
  found: {
    number: number;
    kind: string;
    corrects: number | null;
    marketTime: number | null;
    closesAt: number | null;
    markets: string[];
    words: Record<string, string>;
  }[];
  restated: Restated[];
  /** Where each call stands, as readers are told. */
  followed: {
    edition: number;
    scenarioId: string;
    marketId: string;
    state: WholeState;
    since: number;
    done: boolean;
    through: number | null;
  }[];
  /** Rows that say what the desk did not write. */
  unsealed: string[];
}

/** A link of the chain as anybody is given it: early ones are closed, for their digests had no salt. */
export type ChainLink = OpenEntry | ClosedEntry;
export type ClosedEntry = Pick<OpenEntry, "number" | "sha256" | "keyId" | "signature"> & { format: "closed" };

/** A part of the chain, without what it is of: nothing in it tells anything of that. */
export interface ChainFile extends Pick<RecordFile, "keys" | "heads"> {
  format: "even-compass-chain-2";
  entries: ChainLink[];
  /** The number after which the next part begins; none in the last one. */
  next?: number;
}

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
export function entryOf(row: InferAttributes<RecordEntry>): SealedEntry {
  const { number, kind, edition, scenarioId, sequence, digest, at, previousSha256: previous } = row;
  const { sha256, keyId, signature, part } = row;
  const own = { number, kind, edition, scenarioId, sequence, digest, at, previous, sha256, keyId, signature };
  if (row.format === 1) return { format: "even-compass-entry-1", ...own };
  return { format: "even-compass-entry-2", ...own, ...(part === null ? {} : { part }) };
}

export async function readEntries(after = 0, limit?: number): Promise<SealedEntry[]> {
  const where = { number: { [Op.gt]: after } };
  return (await RecordEntry.findAll({ where, ...BY_NUMBER, ...(limit === undefined ? {} : { limit }) })).map(entryOf);
}

/** An entry as anybody is given it: nothing of what it is of. */
export function linkOf(entry: SealedEntry): ChainLink {
  const { number, digest, at, previous, sha256, keyId, signature } = entry;
  if (entry.format === "even-compass-entry-1") return { format: "closed", number, sha256, keyId, signature };
  return { format: entry.format, number, digest, at, previous, sha256, keyId, signature };
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

async function deskRecord(): Promise<DeskRecord> {
  const [markets, words] = [await EditionMarket.findAll({ raw: true }), await EditionWords.findAll({ raw: true })];
  const editions = await Edition.findAll({
    attributes: ["number", "kind", "corrects", "marketTime", "closesAt"],
    ...BY_NUMBER,
  });
  const restated = await Restatement.findAll({ order: [["id", "ASC"]], raw: true });
  const watched = await WatcherRow.findAll({ where: { kind: "scenario" }, order: [["subject", "ASC"]] });
  return {
    found: editions.map(({ number, kind, corrects, marketTime, closesAt }) => ({
      ...{ number, kind, corrects, marketTime: marketTime ?? null, closesAt: closesAt ?? null },
      markets: markets.filter(({ edition }) => edition === number).map(({ marketId }) => marketId),
      words: Object.fromEntries(
        words.filter(({ edition }) => edition === number).map(({ see, words: own }) => [see, own]),
      ),
    })),
    restated: restated.map(({ marketId: market, fromTime: from, toTime: to, ...row }) => ({
      ...row,
      market,
      from,
      to,
    })),
    followed: watched.map(({ subject, marketId, state, since, done, through }) => ({
      ...{ ...partsOf(subject), marketId, state: state as WholeState, since, done, through },
    })),
    unsealed: await unsealedRows(),
  };
}

/** Everything as it stands at one moment; what is the desk's own is left out for readers. */
export function recordFile({ desk = false }: { desk?: boolean } = {}): Promise<RecordFile> {
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
      ...(desk ? { desk: await deskRecord() } : {}),
    };
  });
}
