import { createHash, randomBytes } from "node:crypto";
import { promisify } from "node:util";
import { serialize } from "node:v8";
import { brotliCompress, constants, gzip } from "node:zlib";
import { LRUCache } from "lru-cache";
import type { EntryContext } from "react-router";

/** Bytes of pages that are kept. */
const ROOM = 32_000_000;

/** Marks what is ours in a page while it is rendered; it never leaves this process. */
export const OURS = randomBytes(16).toString("hex");

/** A page that is the same for everybody who is sent it. */
interface Page {
  text: string;
  /** Its own scripts and styles, as a policy names them (CSP level 3, 2.3.1). */
  scripts: string[];
  styles: string[];
  /** It in each coding, worked out when it is first asked for. */
  coded: Map<Coding, Promise<Buffer>>;
}

export type Coding = "br" | "gzip" | "identity";

const CODED: Record<Coding, (text: string) => Promise<Buffer>> = {
  // Worth more than the usual effort: it is done once, and sent to many.
  br: (text) => promisify(brotliCompress)(text, { params: { [constants.BROTLI_PARAM_QUALITY]: 6 } }),
  gzip: (text) => promisify(gzip)(text),
  identity: (text) => Promise.resolve(Buffer.from(text)),
};

/** Pages by what they were rendered from; with what they come to in any coding, twice their text at most. */
const kept = new LRUCache<string, Page>({ maxSize: ROOM, sizeCalculation: ({ text }) => 2 * text.length + 1 });

/**
 * What a page is rendered from, as a digest: its address, what its loaders found, and the build. Two answers with the
 * same digest differ in nothing. `undefined` of a page that is made for one person, of an answer to a form, and of one
 * that tells of a failure.
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

/** A page that is kept. */
export const keptPage = (digest: string): Page | undefined => kept.get(digest);

/** Pages that are being rendered: of those who come for one at the same moment the first has it rendered. */
const coming = new Map<string, Promise<Page>>();

/** A page of which everything is there; `render`, under `OURS` as its secret word, where it is not kept. */
export function pageForMany(digest: string, render: () => Promise<string>): Promise<Page> {
  const known = kept.get(digest);
  if (known) return Promise.resolve(known);
  let page = coming.get(digest);
  if (!page) {
    page = keep(digest, render).finally(() => coming.delete(digest));
    coming.set(digest, page);
  }
  return page;
}

async function keep(digest: string, render: () => Promise<string>): Promise<Page> {
  const page = named(await render());
  kept.set(digest, page);
  return page;
}

const OWN = new RegExp(`<(script|style)\\b([^>]*) nonce="${OURS}"([^>]*)>([^]*?)</\\1>`, "g");

/**
 * Names each script and style that was rendered under our word by its digest instead, so that the page needs no word of
 * its own. What somebody else may have brought in bears no such word, and is named by nobody.
 */
function named(rendered: string): Page {
  const [scripts, styles]: [string[], string[]] = [[], []];
  for (const [, element, before, after, inner] of rendered.matchAll(OWN))
    if (!/ src="/.test(before + after)) (element === "script" ? scripts : styles).push(sourceOf(inner));
  // A style that is filled by scripts is empty when it comes.
  styles.push(sourceOf(""));
  const text = rendered.replaceAll(` nonce="${OURS}"`, "");
  if (text.includes(OURS)) throw new Error("A page says the word it was rendered under.");
  return { text, scripts: [...new Set(scripts)], styles: [...new Set(styles)], coded: new Map() };
}

const sourceOf = (text: string) => `'sha256-${createHash("sha256").update(text).digest("base64")}'`;

/** A page's bytes in a coding. */
export function bytesOf({ text, coded }: Page, coding: Coding): Promise<Buffer> {
  const bytes = coded.get(coding) ?? CODED[coding](text);
  coded.set(coding, bytes);
  return bytes;
}

export const tagOf = (digest: string) => `W/"${digest}"`;

/** What is said of such a page. It is asked about each time: what somebody may see may have changed. */
export const headersOf = (digest: string, coding: Coding): Record<string, string> => ({
  ...{ ETag: tagOf(digest), Vary: "Cookie, Accept-Encoding", "Cache-Control": "private, no-cache" },
  ...{ "Content-Type": "text/html; charset=utf-8", ...(coding === "identity" ? {} : { "Content-Encoding": coding }) },
});

/** Whether a browser has a page already, by what it asks with (If-None-Match). */
export function hasPage(asked: string, tag: string): boolean {
  return asked.split(",").some((one) => one.trim().replace(/^W\//, "") === tag.replace(/^W\//, ""));
}
