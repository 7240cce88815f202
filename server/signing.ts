import {
  createHash,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  sign,
  verify,
  type KeyObject,
} from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { LRUCache } from "lru-cache";
import { readSettings } from "./settings.ts";

/**
 * Keys of the record. The one that signs lies in a file beside the database, never in it: who can change every row
 * still cannot make one row's signature. Public ones of former keys are kept, by the first 16 letters of their digest.
 */
export interface Signer {
  keyId: string;
  sign(text: string): string;
}

/** Public keys by their ids: the raw 32 bytes of each, base64 (RFC 8032). */
export type PublicKeys = Record<string, string>;

/** Where the record keeps what must not lie in the database. */
export function recordFolder(): string {
  const folder = resolve(readSettings().COMPASS_VAR, "record");
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  return folder;
}

/** An SPKI document of an Ed25519 key is these twelve bytes and the key (RFC 8410). */
const SPKI = Buffer.from("302a300506032b6570032100", "hex");

const rawOf = (key: KeyObject) => key.export({ format: "der", type: "spki" }).subarray(SPKI.length).toString("base64");

export function idOfKey(raw: string): string {
  return createHash("sha256").update(Buffer.from(raw, "base64")).digest("hex").slice(0, 16);
}

const signers = new Map<string, Signer>();

/** Signs in the name of a key file of the record's folder, which is made when there is none. */
export function signerOf(name = "key"): Signer {
  const file = join(recordFolder(), `${name}.pem`);
  const known = signers.get(file);
  if (known) return known;
  if (!existsSync(file)) {
    // Written beside and moved into place: two that begin at once must not each sign with a key the other threw away.
    const { privateKey } = generateKeyPairSync("ed25519");
    const part = `${file}.${process.pid}`;
    writeFileSync(part, privateKey.export({ format: "pem", type: "pkcs8" }), { mode: 0o600, flag: "wx" });
    if (existsSync(file)) throw new Error(`${file} was made by somebody else at the same moment: try again.`);
    renameSync(part, file);
  }
  const key = createPrivateKey(readFileSync(file));
  const raw = rawOf(createPublicKey(key));
  const signer = { keyId: idOfKey(raw), sign: (text: string) => sign(null, Buffer.from(text), key).toString("base64") };
  keepPublic({ [signer.keyId]: raw });
  signers.set(file, signer);
  return signer;
}

/** Keeps public keys beside the own one, so that what they signed can be checked later. */
export function keepPublic(keys: PublicKeys): void {
  for (const [id, raw] of Object.entries(keys)) {
    if (idOfKey(raw) !== id) continue;
    const file = join(recordFolder(), `${id}.pub`);
    if (!existsSync(file)) writeFileSync(file, `${raw}\n`, { mode: 0o644 });
  }
}

/** Every public key that lies beside the own one. */
export function publicKeys(): PublicKeys {
  const folder = recordFolder();
  return Object.fromEntries(
    readdirSync(folder)
      .filter((name) => /^[0-9a-f]{16}\.pub$/.test(name))
      .map((name) => [name.slice(0, 16), readFileSync(join(folder, name), "utf8").trim()]),
  );
}

const known = new Map<string, string>();

/** A public key of this record by its id; one that another process has made since is looked for. */
export function publicKeyOf(keyId: string): string | undefined {
  const key = `${recordFolder()} ${keyId}`;
  if (!known.has(key)) for (const [id, raw] of Object.entries(publicKeys())) known.set(`${recordFolder()} ${id}`, raw);
  return known.get(key);
}

/** What was found to be signed before: it stays so, and finding it out takes a tenth of a millisecond each. */
const found = new LRUCache<string, true>({ max: 100_000 });

/** Whether a key signed a text. What is no key, or no signature, did not. */
export function isSigned(text: string, signature: string, raw: string | undefined): boolean {
  if (raw === undefined) return false;
  const key = `${raw} ${signature} ${text}`;
  if (found.has(key)) return true;
  const holds = check(text, signature, raw);
  if (holds) found.set(key, true);
  return holds;
}

function check(text: string, signature: string, raw: string): boolean {
  try {
    const key = createPublicKey({
      key: Buffer.concat([SPKI, Buffer.from(raw, "base64")]),
      format: "der",
      type: "spki",
    });
    return verify(null, Buffer.from(text), key, Buffer.from(signature, "base64"));
  } catch {
    return false;
  }
}
