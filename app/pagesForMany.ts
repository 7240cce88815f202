import { createHash, randomBytes } from "node:crypto";
import { serialize } from "node:v8";
import { LRUCache } from "lru-cache";
import type { EntryContext } from "react-router";

/** Characters of pages that are kept, about 32 MB of them. */
const ROOM = 16_000_000;

/** Stands for the secret word of an answer in a page that is kept; it never leaves this process. */
export const NO_NONCE = randomBytes(16).toString("hex");

/** Pages by what they were rendered from, each in the pieces between its secret words. */
const kept = new LRUCache<string, string[]>({
  maxSize: ROOM,
  sizeCalculation: (pieces) => pieces.reduce((sum, piece) => sum + piece.length, 1),
});

/**
 * What a page is rendered from, as a digest: its address, what its loaders found, and the build. Two answers with the
 * same digest differ in nothing but their secret words. `undefined` of a page that is made for one person, of an answer
 * to a form, and of one that tells of a failure.
 */
export function digestOfPage(request: Request, status: number, entry: EntryContext): string | undefined {
  const { loaderData, actionData, errors, matches } = entry.staticHandlerContext;
  const handles = matches.map(
    ({ route }) => entry.routeModules[route.id]?.handle as { isForMany?: boolean } | undefined,
  );
  if (status !== 200 || actionData || errors || !handles.some((handle) => handle?.isForMany)) return undefined;
  const { pathname, search } = new URL(request.url);
  try {
    const from = serialize([entry.manifest.version, pathname, search, loaderData]);
    return createHash("sha256").update(from).digest("base64url");
  } catch {
    // Something in it is still being worked out: such a page is sent as it comes.
    return undefined;
  }
}

/** A page that is kept, with an answer's secret word. */
export const keptPage = (digest: string, nonce: string): string | undefined => kept.get(digest)?.join(nonce);

/** A page of which everything is there, with an answer's secret word; it is rendered where it is not kept. */
export async function pageForMany(digest: string, nonce: string, render: () => Promise<string>): Promise<string> {
  let pieces = kept.get(digest);
  if (!pieces) {
    pieces = (await render()).split(NO_NONCE);
    kept.set(digest, pieces);
  }
  return pieces.join(nonce);
}

export const tagOf = (digest: string) => `W/"${digest}"`;

/** What is said of such a page. It is asked about each time: what somebody may see may have changed. */
export const headersOf = (digest: string) => ({
  ...{ ETag: tagOf(digest), Vary: "Cookie", "Cache-Control": "private, no-cache" },
  "Content-Type": "text/html; charset=utf-8",
});

/** Whether a browser has a page already, by what it asks with (If-None-Match). */
export function hasPage(asked: string, tag: string): boolean {
  return asked.split(",").some((one) => one.trim().replace(/^W\//, "") === tag.replace(/^W\//, ""));
}
