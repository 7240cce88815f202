import { closeSync, existsSync, fsyncSync, openSync, readFileSync, writeFileSync, writeSync } from "node:fs";
import { join } from "node:path";
import type { SealedEntry } from "./entry.ts";
import { canonicalText, sha256 } from "../canonical.ts";
import { isSigned, recordFolder, signerOf, type PublicKeys } from "../signing.ts";

/** What a witness of time says: that it was shown a digest at a moment. */
export interface TimeStamp {
  /** SHA-256 of the head's signature: what was shown. */
  imprint: string;
  serial: number;
  at: number;
  keyId: string;
  signature: string;
}

/** The record's end at a moment, signed, and when a witness saw it. Anybody can keep a file of them. */
export interface Head extends Pick<SealedEntry, "number" | "sha256" | "keyId" | "signature"> {
  at: number;
  stamp: TimeStamp;
}

const FILE = "heads.jsonl";

/** The heads that are kept outside the database, oldest first; a line that was cut short by a crash is left out. */
export function keptHeads(): Head[] {
  const file = join(recordFolder(), FILE);
  if (!existsSync(file)) return [];
  return readFileSync(file, "utf8")
    .split("\n")
    .flatMap((line) => {
      try {
        return line === "" ? [] : [JSON.parse(line) as Head];
      } catch {
        return [];
      }
    });
}

let lastKept: { number: number } | undefined;

/**
 * Keeps heads outside the database, once each: they are what a record that was cut short is found out by. `anew` looks
 * again which are kept, as at a start.
 */
export function keepHeads(entries: readonly SealedEntry[], anew = false): void {
  if (anew || !lastKept) lastKept = { number: Math.max(0, ...keptHeads().map(({ number }) => number)) };
  const fresh = entries.filter(({ number }) => number > (lastKept?.number ?? 0)).sort((a, b) => a.number - b.number);
  if (fresh.length === 0) return;
  const lines = fresh.map(({ number, sha256: head, keyId, signature, at }): Head => ({
    number,
    sha256: head,
    keyId,
    signature,
    at,
    stamp: stampOf(signature),
  }));
  const file = openSync(join(recordFolder(), FILE), "a", 0o600);
  try {
    // A line that a crash cut short stays one by itself.
    writeSync(file, (anew ? "\n" : "") + lines.map((line) => `${JSON.stringify(line)}\n`).join(""));
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
  lastKept.number = fresh[fresh.length - 1].number;
}

/** Heads that came with a backup: written down where none were kept. */
export function putBackHeads(heads: readonly Head[]): void {
  if (keptHeads().length > 0 || heads.length === 0) return;
  writeFileSync(join(recordFolder(), FILE), heads.map((head) => `${JSON.stringify(head)}\n`).join(""), { mode: 0o600 });
  lastKept = undefined;
}

/**
 * A stand-in for an authority that stamps time (as RFC 3161 has it: it is shown a digest, never the text, and answers
 * with a serial number, its clock and its signature). It has a key of its own; a desk in earnest would ask one
 * elsewhere.
 */
export function stampOf(signature: string, at = Date.now()): TimeStamp {
  const witness = signerOf("witness");
  const said = {
    imprint: sha256(signature),
    serial: at * 1000 + Math.floor(Math.random() * 1000),
    at,
    keyId: witness.keyId,
  };
  return { ...said, signature: witness.sign(canonicalText(said)) };
}

/** What is wrong with a head by itself; nothing when both signatures hold. */
export function headFault(
  { number, sha256: head, keyId, signature, stamp }: Head,
  keys: PublicKeys,
): string | undefined {
  if (!isSigned(head, signature, keys[keyId])) return `Head ${number} is not signed by a key of this record.`;
  const { signature: stamped, ...said } = stamp;
  if (said.imprint !== sha256(signature) || !isSigned(canonicalText(said), stamped, keys[said.keyId]))
    return `The time stamp of head ${number} does not hold.`;
  return undefined;
}
