import type { See } from "#core/edition/parts";
import type { EntryKind } from "../database/models.ts";
import { canonicalText, sha256 } from "../canonical.ts";
import { digestOf } from "./digest.ts";
import { cutLeaves, leavesOf, assembled, textOfLeaves, type Cut } from "./leaves.ts";

/** What the first entry follows. */
export const GENESIS = "0".repeat(64);

/** The part of the record an entry is of, as it is found. */
export interface PartKey {
  kind: EntryKind;
  /** 0 where it is of no edition. */
  edition: number;
  /** The scenario of the edition, or the id of what else it is of; empty and 0 for an edition. */
  scenarioId: string;
  sequence: number;
}

/** What an entry says to anybody: that something with this digest was entered at a moment, after the one before. */
export interface EntryBody {
  format: "even-compass-entry-2";
  number: number;
  /** Root of the part's salted leaves (hex): who has not the part learns nothing of it. */
  digest: string;
  /** When it was entered, by the wall clock (ms UTC). */
  at: number;
  /** SHA-256 of the entry before. */
  previous: string;
}

/** The same with what seals it. Its `sha256` is the head of the record up to it. */
export interface OpenEntry extends EntryBody {
  sha256: string;
  keyId: string;
  /** Ed25519 (RFC 8032) over the 64 ASCII letters of `sha256`, base64. */
  signature: string;
}

/** Entries of before named their part, and hashed it without a salt. */
interface FormerEntry extends Omit<OpenEntry, "format">, PartKey {
  format: "even-compass-entry-1";
}

/** An entry with what it is of; `part` is its text, of an edition that of its row. */
export type SealedEntry = (OpenEntry & PartKey & { part?: string }) | (FormerEntry & { part?: undefined });

export function entrySha(entry: EntryBody | SealedEntry): string {
  const { number, digest, at, previous } = entry;
  if (entry.format === "even-compass-entry-2")
    return sha256(canonicalText({ format: entry.format, number, digest, at, previous }));
  const { format, kind, edition, scenarioId, sequence } = entry;
  return sha256(canonicalText({ format, number, kind, edition, scenarioId, sequence, digest, at, previous }));
}

/** A part of the record that is no edition, as it is to be entered. */
export interface NewPart extends PartKey {
  /** When it was stored, by the wall clock (ms UTC). */
  createdAt: number;
  content: object;
  /** Whose plan shows it. */
  see: See;
  /** Names within `content` that ask for another plan, where they stand. */
  cuts?: readonly Cut[];
}

/**
 * The text of a part in salted leaves: the root says what kind of part it is, the leaf "of" which one and what it says,
 * without what is cut out of it.
 */
export function textOfPart({
  kind,
  edition,
  scenarioId,
  sequence,
  createdAt,
  content,
  see,
  cuts = [],
}: NewPart): string {
  const of = { edition, scenarioId, sequence, createdAt, content };
  const within = cuts.map((cut) => ({ ...cut, path: `of/content/${cut.path}` }));
  return textOfLeaves(cutLeaves({ part: kind, of }, [{ path: "of", see }, ...within]));
}

/** What a part's text says, and its digest; nothing where it is none. */
export interface ReadPart extends PartKey {
  createdAt: number;
  content: object;
  digest: string;
}

export function readPart(text: string): ReadPart | undefined {
  const leaves = leavesOf(text);
  if (!leaves) return undefined;
  const { part, of } = assembled(leaves) as { part?: EntryKind; of?: Omit<ReadPart, "kind" | "digest"> };
  if (part === undefined || typeof of?.content !== "object") return undefined;
  return { ...of, kind: part, digest: digestOf(text) };
}

/** A follow-up or a note as it was hashed in the first format. */
export interface StoredOutcome {
  edition: number;
  scenarioId: string;
  sequence: number;
  createdAt: number;
  content: object;
}

export function outcomeDigest({ edition, scenarioId, sequence, createdAt, content }: StoredOutcome): string {
  return sha256(canonicalText({ edition, scenarioId, sequence, createdAt, content }));
}

/** Names a part of the record, as people speak of it. */
export function partName({ kind, edition, scenarioId, sequence }: PartKey): string {
  const ofCall = `${sequence} of scenario ${scenarioId.slice(0, 8)} in edition ${edition}`;
  const names: Record<EntryKind, string> = {
    edition: `edition ${edition}`,
    followUp: `follow-up ${ofCall}`,
    note: `note ${ofCall}`,
    bars: `page ${sequence} of the bars that calls were told`,
    restated: "a change of bars",
  };
  return names[kind];
}
