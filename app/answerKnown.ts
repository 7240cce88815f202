import type { NextFunction, Request, Response } from "express";
import { personOf } from "../server/accounts/sessions.ts";
import { writesSoFar } from "../server/database/connection.ts";
import { nameSources } from "../server/http/headers.ts";
import { countRequest } from "../server/http/rates.ts";
import { tokenOf } from "./cookies.server.ts";
import { isKnownAddress, knownPage } from "./knownPages.ts";
import { bytesOf, type Coding, hasPage, headersOf, keptPage, tagOf } from "./pagesForMany.ts";

/**
 * Answers with the page others were just shown, where whoever asks is shown the same; everything else goes on. After a
 * publication everybody comes for one page within a minute: nothing of it but who asks is asked again.
 */
export async function answerKnown(request: Request, response: Response, next: NextFunction): Promise<void> {
  const { originalUrl: address, ip = "", method } = request;
  if (method !== "GET" || !isKnownAddress(address)) return next();
  try {
    const person = await personOf(await tokenOf({ headers: new Headers({ Cookie: request.headers.cookie ?? "" }) }));
    const digest = person && knownPage(address, person, writesSoFar());
    const page = digest && keptPage(digest);
    if (!page) return next();
    await countRequest(person.id, ip);
    const coding = codingFor(request);
    const bytes = await bytesOf(page, coding);
    response.set(headersOf(digest, coding));
    nameSources(response, page);
    if (hasPage(request.get("If-None-Match") ?? "", tagOf(digest))) response.status(304).end();
    else response.send(bytes);
  } catch {
    // The usual way says what is wrong.
    next();
  }
}

/** How a page is coded for whoever asks: as few bytes as they can read. */
export function codingFor(request: Request): Coding {
  if (request.acceptsEncodings("br")) return "br";
  return request.acceptsEncodings("gzip") ? "gzip" : "identity";
}
