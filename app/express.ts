import "reflect-metadata";
import { randomBytes } from "node:crypto";
import { createRequestHandler } from "@react-router/express";
import express, { type NextFunction, type Request, type Response } from "express";
import helmet from "helmet";
import { RouterContextProvider } from "react-router";
import { watchAlerts } from "../server/alerts/watch.ts";
import { closeDatabase, openDatabase } from "../server/database/connection.ts";
import { readSettings } from "../server/settings.ts";
import { closePool } from "../server/pool/pool.ts";
import { runFeed } from "../server/feed/feed.ts";
import { health, requestLog, sameOriginOnly } from "../server/http/guards.ts";
import { callerContext, nonceContext, requestIdContext } from "./context.ts";

const settings = readSettings();
openDatabase(settings.COMPASS_DATABASE);
const stopFeed = runFeed();
const stopAlerts = watchAlerts();

/** Ends what runs beside requests; called once the server has stopped listening. */
export async function stop(): Promise<void> {
  stopFeed();
  await stopAlerts();
  await closePool();
  await closeDatabase();
}

export const app = express();
app.disable("x-powered-by");
// Behind a proxy that ends TLS the caller's address is the one the proxy names; otherwise that header is not believed.
if (settings.COMPASS_TLS === "yes") app.set("trust proxy", 1);
app.use(requestLog);
app.get("/healthz", health);
app.use(sameOriginOnly);
app.use((_request: Request, response: Response, next: NextFunction) => {
  response.locals.nonce = randomBytes(16).toString("base64");
  next();
});
app.use(
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        "default-src": ["'self'"],
        "script-src": ["'self'", (_request, response) => `'nonce-${(response as Response).locals.nonce}'`],
        "style-src": ["'self'", (_request, response) => `'nonce-${(response as Response).locals.nonce}'`],
        "style-src-attr": ["'unsafe-inline'"],
        "img-src": ["'self'", "data:", "blob:"],
        "font-src": ["'self'"],
        "connect-src": ["'self'"],
        "worker-src": ["'self'", "blob:"],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
      },
    },
    strictTransportSecurity: settings.COMPASS_TLS === "yes",
    crossOriginEmbedderPolicy: false,
    referrerPolicy: { policy: "same-origin" },
  }),
);
app.use(
  createRequestHandler({
    build: () => import("virtual:react-router/server-build"),
    getLoadContext: (request, response) => {
      const context = new RouterContextProvider();
      context.set(nonceContext, response.locals.nonce as string);
      context.set(requestIdContext, response.locals.requestId as string);
      context.set(callerContext, request.ip ?? "");
      return context;
    },
  }),
);
