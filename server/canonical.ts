import { createHash } from "node:crypto";
import canonicalize from "canonicalize";

/** Canonical JSON (RFC 8785): one text for one content, whatever the order of its keys. */
export function canonicalText(content: object): string {
  const text = canonicalize(JSON.parse(JSON.stringify(content)));
  if (text === undefined) throw new TypeError("The content has no canonical form.");
  return text;
}

export function sha256(text: string): string {
  return createHash("sha256").update(text, "utf8").digest("hex");
}

export function sha256Bytes(bytes: Uint8Array): string {
  return createHash("sha256").update(bytes).digest("hex");
}
