import { PassThrough } from "node:stream";
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
import { nonceContext, requestIdContext } from "./context.ts";
import { Nonce } from "./nonce.ts";
import { withStyles } from "./pageStyles.ts";

const TIME_LIMIT = 10_000;

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  routerContext: EntryContext,
  context: RouterContextProvider,
): Promise<Response> {
  const nonce = context.get(nonceContext);
  const cache = createCache({ key: "css", nonce });
  cache.compat = true;
  return new Promise((resolve, reject) => {
    let failed = false;
    const whole = isbot(request.headers.get("user-agent") ?? "");
    const { pipe, abort } = renderToPipeableStream(
      <CacheProvider value={cache}>
        <Nonce value={nonce}>
          <ServerRouter context={routerContext} url={request.url} nonce={nonce} />
        </Nonce>
      </CacheProvider>,
      {
        nonce,
        [whole ? "onAllReady" : "onShellReady"]() {
          headers.set("Content-Type", "text/html; charset=utf-8");
          if (!headers.has("Cache-Control")) headers.set("Cache-Control", "no-store");
          const body = new PassThrough();
          pipe(withStyles(cache, nonce)).pipe(body);
          resolve(new Response(createReadableStreamFromReadable(body), { status: failed ? 500 : status, headers }));
        },
        onShellError: reject,
        onError(error: unknown) {
          failed = true;
          log.error({ id: context.get(requestIdContext), error: String(error) }, "a page could not be rendered");
        },
      },
    );
    setTimeout(abort, TIME_LIMIT).unref();
  });
}

/** Logged once with the request's id; an ending of the request or an expected answer is no error. */
export const handleError: HandleErrorFunction = (error, { request, context }) => {
  if (request.signal.aborted || isRouteErrorResponse(error)) return;
  const text = error instanceof Error ? error.stack : String(error);
  log.error({ id: context.get(requestIdContext), error: text }, "unexpected");
};
