import { createHash } from "node:crypto";
import canonicalize from "canonicalize";

/** What the first edition of a chain follows. */
export const GENESIS = "0".repeat(64);

/** Canonical JSON (RFC 8785): one text for one content, whatever the order of its keys. */
export function canonicalText(content: object): string {
  const text = canonicalize(JSON.parse(JSON.stringify(content)));
  if (text === undefined) throw new TypeError("The content has no canonical form.");
  return text;
}

export function sha256(text: string): string {
  return createHash("sha256").update(text, "utf8").digest("hex");
}
