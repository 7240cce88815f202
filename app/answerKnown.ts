import type { NextFunction, Request, Response } from "express";
import { personOf } from "../server/accounts/sessions.ts";
import { writesSoFar } from "../server/database/connection.ts";
import { countRequest } from "../server/http/rates.ts";
import { tokenOf } from "./cookies.server.ts";
import { isKnownAddress, knownPage } from "./knownPages.ts";
import { hasPage, headersOf, keptPage, tagOf } from "./pagesForMany.ts";

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
    const page = digest && keptPage(digest, response.locals.nonce as string);
    if (!page) return next();
    await countRequest(person.id, ip);
    response.set(headersOf(digest));
    if (hasPage(request.get("If-None-Match") ?? "", tagOf(digest))) response.status(304).end();
    else response.send(page);
  } catch {
    // The usual way says what is wrong.
    next();
  }
}
