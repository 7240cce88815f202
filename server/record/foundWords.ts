import type { Leaf } from "./leaves.ts";

/** Names under which an edition holds what somebody may look for; ids, rungs and digests are not. */
const WORDS = new Set([
  ...["text", "title", "premise", "label", "says", "ends", "reasons", "name", "market", "since", "stands", "author"],
  ...["band", "levels", "calls", "asked", "answer"],
]);

/** Words of a leaf that may be looked for, in their order. */
function wordsIn(value: unknown, name: string): string[] {
  if (typeof value === "string") return WORDS.has(name) ? [value] : [];
  if (Array.isArray(value)) return value.flatMap((one) => wordsIn(one, name));
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([own, part]) => wordsIn(part, own));
}

/** What can be looked for in an edition, by which parts of a plan show it. */
export function wordsBySight(leaves: readonly Leaf[]): Map<string, string> {
  const words = new Map<string, string[]>();
  for (const { path, see, content } of leaves) {
    // A leaf is known by the name it stands under; a place in a list by that of the list.
    const name = path.split("/").findLast((step) => !/^\d+$/.test(step)) ?? "";
    words.set(see, [...(words.get(see) ?? []), ...wordsIn(content, name)]);
  }
  return new Map([...words].map(([see, all]) => [see, all.join("\n")]).filter(([, text]) => text !== "") as never);
}
