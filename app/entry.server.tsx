import { PassThrough, type Readable } from "node:stream";
import { text } from "node:stream/consumers";
import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import {
  isRouteErrorResponse,
  ServerRouter,
  type EntryContext,
  type HandleErrorFunction,
  type RouterContextProvider,
} from "react-router";
import { log } from "../server/log.ts";
import { answerContext, nonceContext, personContext } from "./context.ts";
import { LATEST } from "./later.server.ts";
import { Nonce } from "./nonce.ts";
import { rememberPage } from "./knownPages.ts";
import { bytesOf, digestOfPage, hasPage, headersOf, OURS, pageForMany, tagOf } from "./pagesForMany.ts";
import { withStyles } from "./pageStyles.ts";

/** When an answer that is on its way is ended (ms): what a page waits for later has given up before. */
export const streamTimeout = LATEST + 3_000;
const RENDERED = LATEST + 4_000;

export default async function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  entry: EntryContext,
  context: RouterContextProvider,
): Promise<Response> {
  headers.set("Content-Type", "text/html; charset=utf-8");
  const rendering = { request, entry };
  const digest = digestOfPage(request, status, entry);
  if (digest === undefined) {
    if (!headers.has("Cache-Control")) headers.set("Cache-Control", "no-store");
    const { body, failed } = await render({ ...rendering, nonce: context.get(nonceContext) });
    return new Response(createReadableStreamFromReadable(body), { status: failed() ? 500 : status, headers });
  }
  const { writes, coding, allow } = context.get(answerContext);
  for (const [name, value] of Object.entries(headersOf(digest, coding))) headers.set(name, value);
  const page = await pageForMany(digest, async () => {
    const { body, failed } = await render({ ...rendering, nonce: OURS, whole: true });
    const whole = await text(body);
    if (failed()) throw new Error("A page could not be rendered whole.");
    return whole;
  });
  const { pathname, search } = new URL(request.url);
  const person = context.get(personContext);
  if (person) rememberPage(pathname + search, person, digest, writes);
  if (hasPage(request.headers.get("If-None-Match") ?? "", tagOf(digest)))
    return new Response(null, { status: 304, headers });
  allow(page);
  return new Response(new Uint8Array(await bytesOf(page, coding)), { status, headers });
}

interface Rendering {
  request: Request;
  entry: EntryContext;
  nonce: string;
  /** Whether it is sent once all of it is there. */
  whole?: boolean;
}

/** Renders a page under a secret word; whether something of it failed is known once it has ended. */
function render({ request, entry, nonce, whole = isbot(request.headers.get("user-agent") ?? "") }: Rendering) {
  const cache = createCache({ key: "css", nonce });
  cache.compat = true;
  return new Promise<{ body: Readable; failed: () => boolean }>((resolve, reject) => {
    let failed = false;
    const { pipe, abort } = renderToPipeableStream(
      <CacheProvider value={cache}>
        <Nonce value={nonce}>
          <ServerRouter context={entry} url={request.url} nonce={nonce} />
        </Nonce>
      </CacheProvider>,
      {
        nonce,
        [whole ? "onAllReady" : "onShellReady"]() {
          const body = new PassThrough();
          pipe(withStyles(cache, nonce)).pipe(body);
          resolve({ body, failed: () => failed });
        },
        onShellError: reject,
        onError(error: unknown) {
          failed = true;
          log.error({ error: String(error) }, "a page could not be rendered");
        },
      },
    );
    setTimeout(abort, RENDERED).unref();
  });
}

/** Logged once with the request's id; an ending of the request or an expected answer is no error. */
export const handleError: HandleErrorFunction = (error, { request }) => {
  if (request.signal.aborted || isRouteErrorResponse(error)) return;
  const text = error instanceof Error ? error.stack : String(error);
  log.error({ error: text }, "unexpected");
};
