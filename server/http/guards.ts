import { randomUUID } from "node:crypto";
import type { NextFunction, Request, Response } from "express";
import { databaseAnswers } from "../database/health.ts";
import { log } from "../log.ts";
import { underRequest } from "../requestId.ts";
import { bodyLimit } from "./bodies.ts";
import { refuse } from "./refuse.ts";

/** Places whose next step is a token that opens something: it must not be read in the log. */
const WITH_TOKEN = /^(\/(?:confirm|feeds|invite|reset|shared|unsubscribe)\/)[^/]+/;

/** A path as it is written down. */
export const loggedPath = (path: string): string => path.replace(WITH_TOKEN, "$1***");

/** Gives each request an id, and one line in the log once it is answered. */
export function requestLog(request: Request, response: Response, next: NextFunction): void {
  const id = randomUUID();
  const began = performance.now();
  response.locals.requestId = id;
  response.setHeader("X-Request-Id", id);
  response.on("finish", () => {
    const { method, path: asked } = request;
    const path = loggedPath(asked);
    log.info({ id, method, path, status: response.statusCode, ms: Math.round(performance.now() - began) }, "answered");
  });
  underRequest(id, next);
}

const METHODS = new Set(["GET", "HEAD", "POST"]);

/** Only what pages and their forms ask, of an address that is one. */
export function properRequests(request: Request, response: Response, next: NextFunction): void {
  if (!METHODS.has(request.method)) {
    response.setHeader("Allow", "GET, HEAD, POST");
    return refuse(request, response, 405, "This is done with GET or POST.");
  }
  if (!isAddress(request)) return refuse(request, response, 400, "The request's address cannot be read.");
  next();
}

/** Whether host and path make an address: everything behind reads them as one. */
function isAddress({ headers: { host }, url }: Request): boolean {
  try {
    if (!host || /[\s/\\@?#]/.test(host)) return false;
    const { pathname } = new URL(`http://${host}${url}`);
    decodeURIComponent(pathname);
    // What is before a question mark is read by some as it stands and by others without steps up: nobody asks so.
    const steps = decodeURIComponent(url.split("?", 1)[0]).split(/[/\\]/);
    const isPlain = !steps.includes("..") && !steps.includes(".") && !url.split("?", 1)[0].includes("\\");
    return url.startsWith("/") && isPlain && !url.includes("%00");
  } catch {
    return false;
  }
}

const SAFE = new Set(["GET", "HEAD"]);

/** Addresses that know who asks by a token in them or beside them, never by a cookie: others may ask them. */
const BY_TOKEN = /^\/(unsubscribe|api)\//;

/** Anything that changes something must come from a page of this site, by the same scheme. */
export function sameOriginOnly(request: Request, response: Response, next: NextFunction): void {
  if (SAFE.has(request.method) || BY_TOKEN.test(request.path)) return next();
  const { origin, host } = request.headers;
  if (origin !== undefined && origin === `${request.protocol}://${host}`) return next();
  refuse(request, response, 403, "This can only be done from a page of this site.");
}

/** Whether the desk can do its work: 200, or 503 while its database is away. */
export function health(database: string) {
  return async (_request: Request, response: Response): Promise<void> => {
    if (await databaseAnswers(database)) response.json({ ok: true });
    else response.status(503).json({ ok: false, why: "The database does not answer." });
  };
}

/** Bodies that may be larger than this (bytes) are files. */
const LARGE = 1024 * 1024;

/** Where a file that was sent in is read before it is shown: its reading has a limit of its own. */
const READS_A_FILE = /^\/library\/import(\.data)?$/;

/** Whether a request sends a file, or waits until one is read. */
const isSlow = ({ method, path }: Request) => READS_A_FILE.test(path) || (method === "POST" && bodyLimit(path) > LARGE);

/**
 * Ends a request that is not answered in time; what streams has been answered. `slow` is for files that are sent in.
 */
export function deadline(usual: number, slow: number) {
  return (request: Request, response: Response, next: NextFunction): void => {
    const timer = setTimeout(
      () => {
        if (response.headersSent) return;
        log.warn(
          { id: response.locals.requestId as string, method: request.method, path: loggedPath(request.path) },
          "not answered in time",
        );
        response.setHeader("Connection", "close");
        response.status(503).type("text").send("This took too long and was given up. Try it with less at once.");
      },
      // A file may take as long to come in as a slow line needs; it is answered soon after.
      isSlow(request) ? slow : usual,
    );
    response.on("close", () => clearTimeout(timer));
    next();
  };
}
