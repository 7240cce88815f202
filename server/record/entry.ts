import type { EntryKind } from "../database/models.ts";
import { canonicalText, sha256 } from "./canonical.ts";

/** What the first entry follows. */
export const GENESIS = "0".repeat(64);

/** What an entry says: which part of the record it is of, and the digest of that part. */
export interface EntryBody {
  format: "even-compass-entry-1";
  number: number;
  kind: EntryKind;
  edition: number;
  /** Empty and 0 for an edition. */
  scenarioId: string;
  sequence: number;
  /**
   * SHA-256 of the part in canonical JSON. An edition's may become the root of a tree of leaves: only the digest is
   * chained.
   */
  digest: string;
  /** When it was entered, by the wall clock (ms UTC). */
  at: number;
  /** SHA-256 of the entry before. */
  previous: string;
}

/** The same with what seals it. Its `sha256` is the head of the record up to it. */
export interface SealedEntry extends EntryBody {
  sha256: string;
  keyId: string;
  /** Ed25519 (RFC 8032) over the ASCII letters of `sha256`, base64. */
  signature: string;
}

export function entrySha({
  format,
  number,
  kind,
  edition,
  scenarioId,
  sequence,
  digest,
  at,
  previous,
}: EntryBody): string {
  return sha256(canonicalText({ format, number, kind, edition, scenarioId, sequence, digest, at, previous }));
}

/** A follow-up or a note as it stands in the record. */
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
export function partName({
  kind,
  edition,
  scenarioId,
  sequence,
}: Pick<EntryBody, "kind" | "edition" | "scenarioId" | "sequence">): string {
  if (kind === "edition") return `edition ${edition}`;
  return (
    `${kind === "note" ? "note" : "follow-up"} ${sequence} of scenario ${scenarioId.slice(0, 8)} in edition ` +
    `${edition}`
  );
}
