import { PassThrough, Transform } from "node:stream";
import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { isRouteErrorResponse, ServerRouter, type EntryContext, type HandleErrorFunction, type RouterContextProvider } from "react-router";
import { log } from "../server/log.ts";
import { nonceContext, requestIdContext } from "./context.ts";

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
        <ServerRouter context={routerContext} url={request.url} nonce={nonce} />
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

/** Puts the styles a piece of the page needs before that piece, under the page's nonce. */
function withStyles(cache: ReturnType<typeof createCache>, nonce: string): Transform {
  const sent = new Set<string>();
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      const names = Object.keys(cache.inserted).filter((name) => !sent.has(name) && typeof cache.inserted[name] === "string");
      names.forEach((name) => sent.add(name));
      if (names.length === 0) return done(null, chunk);
      const css = names.map((name) => cache.inserted[name]).join("");
      const style = `<style nonce="${nonce}" data-emotion="${cache.key} ${names.join(" ")}">${css}</style>`;
      const text = chunk.toString("utf8");
      const head = text.indexOf("</head>");
      done(null, head >= 0 ? text.slice(0, head) + style + text.slice(head) : style + text);
    },
  });
}

/** Logged once with the request's id; an ending of the request or an expected answer is no error. */
export const handleError: HandleErrorFunction = (error, { request, context }) => {
  if (request.signal.aborted || isRouteErrorResponse(error)) return;
  const text = error instanceof Error ? error.stack : String(error);
  log.error({ id: context.get(requestIdContext), error: text }, "unexpected");
};
