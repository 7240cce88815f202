import type { NextFunction, Request, Response } from "express";
import { LARGEST_FILE } from "#contracts/market";
import { LARGEST_MARKS_FILE } from "#contracts/mark";
import { LARGEST_CALENDAR } from "#contracts/event";
import { LARGEST_VOICE } from "#contracts/draft";
import { refuse } from "./refuse.ts";

const KB = 1024;
/** What any request may bring along that is not named below: a form. */
const FORM = 64 * KB;
/** A file in a form comes with its other fields and their borders around it. */
const AROUND = 16 * KB;

/** Most bytes of a request's body, by address; the first that fits. */
const LIMITS: [RegExp, number][] = [
  [/^\/(uploads|api\/bars\/[^/]+)$/, LARGEST_FILE],
  [/^\/(sign-in|sign-out|account)$/, 8 * KB],
  [/^\/library\/[^/]+$/, LARGEST_MARKS_FILE + AROUND],
  [/^\/events$/, LARGEST_CALENDAR + AROUND],
  [/^\/descent\/[^/]+\/steps$/, 1024 * KB],
  [/^\/round\/say$/, 256 * KB],
  [/^\/(round\/evening|round\/lists)$/, 512 * KB],
  [/^\/editions\/[^/]+\/save$/, 256 * KB],
  [/^\/editions\/[^/]+\/voice$/, LARGEST_VOICE],
];

/** Most bytes that a request to an address may bring along. */
export function bodyLimit(path: string): number {
  const plain = path.replace(/\.data$/, "").replace(/\/+$/, "");
  return LIMITS.find(([address]) => address.test(plain))?.[1] ?? FORM;
}

/**
 * Refuses a body that is too large by what its head says, before anything of it is read. A body of unknown length is
 * refused as well (RFC 9110, section 15.5.12): every browser says how long the forms and files are that it sends.
 */
export function limitBodies(request: Request, response: Response, next: NextFunction): void {
  const refused = (status: number, sentence: string, remedy: string) =>
    refuse(request, response, status, { failure: { code: "body", sentence, kept: "Nothing was stored.", remedy } });
  if (request.headers["transfer-encoding"] !== undefined)
    return refused(411, "The request does not say how long it is.", "Send it with its Content-Length.");
  const length = Number(request.headers["content-length"] ?? 0);
  const most = bodyLimit(request.path);
  if (!Number.isSafeInteger(length) || length < 0)
    return refused(400, "The request's length is no number.", "Send it once more.");
  if (length > most)
    return refused(
      413,
      `The request is larger than ${most >= KB * KB ? `${Math.floor(most / KB / KB)} MB` : `${most / KB} kB`}.`,
      "Send it in parts.",
    );
  next();
}
