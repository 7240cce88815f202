import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes, timingSafeEqual } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { readSettings } from "./settings.ts";

const secrets = new Map<string, Buffer>();

/** The desk's own secret, in a file beside the database: made when there is none. */
function secret(): Buffer {
  const folder = resolve(readSettings().COMPASS_VAR);
  const file = join(folder, "secret");
  const known = secrets.get(file);
  if (known) return known;
  if (!existsSync(file)) {
    mkdirSync(folder, { recursive: true });
    const part = `${file}.${process.pid}`;
    writeFileSync(part, randomBytes(32), { mode: 0o600 });
    // Of two that begin at once the later one's stays, and both read that.
    renameSync(part, file);
  }
  const bytes = readFileSync(file);
  secrets.set(file, bytes);
  return bytes;
}

const macOf = (purpose: string, id: string) =>
  createHmac("sha256", secret()).update(`${purpose}\n${id}`).digest("base64url");

/** Bytes of the desk's own for one purpose, the same each time (HKDF, RFC 5869). */
export const derivedBytes = (purpose: string, length: number): Buffer =>
  Buffer.from(hkdfSync("sha256", secret(), "", purpose, length));

const CIPHER = "aes-256-gcm";

/** A text nobody reads who has the database alone. */
export function encrypted(text: string): string {
  const iv = randomBytes(12);
  const cipher = createCipheriv(CIPHER, secret(), iv);
  const body = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
  return Buffer.concat([iv, cipher.getAuthTag(), body]).toString("base64url");
}

/** The text again. Throws where it is not one that was encrypted here. */
export function decrypted(text: string): string {
  const bytes = Buffer.from(text, "base64url");
  const decipher = createDecipheriv(CIPHER, secret(), bytes.subarray(0, 12));
  decipher.setAuthTag(bytes.subarray(12, 28));
  return decipher.update(bytes.subarray(28), undefined, "utf8") + decipher.final("utf8");
}

/** The same in letters and digits alone, whichever case they come back in, and short: 80 bits. */
export const shortSeal = (purpose: string, id: string): string =>
  createHmac("sha256", secret()).update(`${purpose}\n${id}`).digest("hex").slice(0, 20);

/** A name that stands for an account for one purpose, which nobody else can make. */
export const sealed = (purpose: string, id: string): string => `${id}.${macOf(purpose, id)}`;

/** The account a sealed name stands for; `undefined` where nobody here sealed it. */
export function unsealed(purpose: string, text: string): string | undefined {
  const at = text.lastIndexOf(".");
  const [id, mac] = [text.slice(0, at), text.slice(at + 1)];
  const [own, given] = [Buffer.from(macOf(purpose, id)), Buffer.from(mac)];
  return at > 0 && own.length === given.length && timingSafeEqual(own, given) ? id : undefined;
}
