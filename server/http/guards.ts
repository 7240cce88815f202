import { randomUUID } from "node:crypto";
import type { NextFunction, Request, Response } from "express";
import { databaseAnswers } from "../database/health.ts";
import { log } from "../log.ts";

/** Gives each request an id, and one line in the log once it is answered. */
export function requestLog(request: Request, response: Response, next: NextFunction): void {
  const id = randomUUID();
  const began = performance.now();
  response.locals.requestId = id;
  response.setHeader("X-Request-Id", id);
  response.on("finish", () => {
    const { method, path } = request;
    log.info({ id, method, path, status: response.statusCode, ms: Math.round(performance.now() - began) }, "answered");
  });
  next();
}

const SAFE = new Set(["GET", "HEAD", "OPTIONS"]);

/** Anything that changes something must come from a page of this site. */
export function sameOriginOnly(request: Request, response: Response, next: NextFunction): void {
  if (SAFE.has(request.method)) return next();
  const { origin, host } = request.headers;
  let from: string | undefined;
  try {
    from = origin ? new URL(origin).host : undefined;
  } catch {
    from = undefined;
  }
  if (from === host) return next();
  response.status(403).type("text").send("This can only be done from a page of this site.");
}

/** Whether the desk can do its work: 200, or 503 while its database is away. */
export function health(database: string) {
  return async (_request: Request, response: Response): Promise<void> => {
    if (await databaseAnswers(database)) response.json({ ok: true });
    else response.status(503).json({ ok: false, why: "The database does not answer." });
  };
}
