import "reflect-metadata";
import type { BrotliOptions } from "node:zlib";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express, { type NextFunction, type Request, type Response } from "express";
import compressedStatic from "express-static-gzip";
import { RouterContextProvider } from "react-router";
import { closeDatabase, openDatabase, writesSoFar } from "../server/database/connection.ts";
import { closeHealth } from "../server/database/health.ts";
import { readSettings } from "../server/settings.ts";
import { closePool, warmUp } from "../server/pool/pool.ts";
import { runDelivery } from "../server/delivery/deliver.ts";
import { runReturns } from "../server/delivery/returned.ts";
import { closeMail } from "../server/delivery/send.ts";
import { runInbox } from "../server/intake/inbox.ts";
import { runFeed } from "../server/intake/feed.ts";
import { runSchedule } from "../server/publishing/schedule.ts";
import { checkRecord } from "../server/record/check.ts";
import { limitBodies } from "../server/http/bodies.ts";
import { deadline, health, properRequests, requestLog, sameOriginOnly } from "../server/http/guards.ts";
import { dropUnknown } from "../server/http/parameters.ts";
import { dropUnread } from "../server/http/refuse.ts";
import { keepNothing, makeNonce, nameSources, securityHeaders } from "../server/http/headers.ts";
import { log } from "../server/log.ts";
import { answerKnown, codingFor } from "./answerKnown.ts";
import { answerContext, callerContext, nonceContext } from "./context.ts";

const settings = readSettings();
openDatabase(settings.COMPASS_DATABASE);
warmUp();
/** What runs beside requests; any number of processes may. */
const beside =
  settings.COMPASS_ROLE === "web" ? [] : [runFeed(), runSchedule(), runDelivery(), runInbox(), runReturns()];

/** Ends what runs beside requests; called once the server has stopped listening. */
export async function stop(): Promise<void> {
  for (const end of beside) end();
  closeMail();
  await closePool();
  closeHealth();
  await closeDatabase();
}

// The first reader after a start would otherwise wait until every call has been worked out again.
if (settings.COMPASS_ROLE !== "worker")
  setTimeout(
    () => void checkRecord().catch((error: unknown) => log.warn({ error: String(error) }, "no check")),
    2_000,
  ).unref();

/** Until when an answer has to begin (ms), and a file to have come in. */
const ANSWERED = 30_000;
const SENT_IN = 600_000;
const ASSETS = "build/client";

export const app = express();
app.disable("x-powered-by");
// Behind a proxy that ends TLS the caller's address is the one the proxy names; otherwise that header is not believed.
if (settings.COMPASS_TLS === "yes") app.set("trust proxy", 1);
app.use(requestLog);
app.get("/healthz", health(settings.COMPASS_DATABASE));
// A process that only works beside requests answers how it is, and nothing else.
if (settings.COMPASS_ROLE === "worker")
  app.use((_: Request, response: Response) => void response.status(404).type("text").send("Nothing is served here."));
app.use(dropUnread, makeNonce, securityHeaders(settings.COMPASS_TLS === "yes"), keepNothing);
app.use(properRequests, sameOriginOnly, limitBodies, deadline(ANSWERED, SENT_IN));
app.use(dropUnknown, answerKnown);
app.use("/assets", compressedStatic(`${ASSETS}/assets`, { serveStatic: { immutable: true, maxAge: "1y" } }));
// A page is compressed as it comes: with room for it nothing waits to be drained.
app.use(compression({ brotli: { highWaterMark: 1 << 20 } as BrotliOptions }));
app.use(express.static(ASSETS, { maxAge: "1h", index: false }));
app.use(
  createRequestHandler({
    // The build itself: of a function the routes would be put in order anew at every request.
    build: await import("virtual:react-router/server-build"),
    getLoadContext: (request, response) => {
      const context = new RouterContextProvider();
      context.set(nonceContext, response.locals.nonce as string);
      context.set(callerContext, request.ip ?? "");
      context.set(answerContext, {
        ...{ writes: writesSoFar(), coding: codingFor(request) },
        allow: (sources) => nameSources(response, sources),
      });
      return context;
    },
  }),
);
// What none of the above answered: told calmly, never with a stack.
app.use((error: unknown, _request: Request, response: Response, next: NextFunction) => {
  log.error(
    { id: response.locals.requestId as string, error: error instanceof Error ? error.stack : String(error) },
    "unexpected",
  );
  if (response.headersSent) return next(error);
  const status = (error as { status?: unknown }).status;
  response
    .status(typeof status === "number" && status >= 400 && status < 500 ? status : 500)
    .type("text")
    .send("This could not be answered.");
});
