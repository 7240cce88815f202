import { createHash } from "node:crypto";
import { sightOf } from "../../../server/accounts/plans.ts";
import { outlookAddress } from "../../../server/delivery/links.ts";
import { archiveSeen, soughtIn } from "../../../server/readers/archive.ts";
import { answerProgram } from "./api.server.ts";
import type { Route } from "./+types/outlooks.ts";

/** Editions the token's account may open, the newest first; `words`, `kind`, `market` and `page` as on the page. */
export function loader({ request }: Route.LoaderArgs) {
  return answerProgram(request, "api", async (account) => {
    const sought = soughtIn(new URL(request.url).searchParams);
    const { editions, pages } = await archiveSeen(sought, await sightOf(account));
    const list = editions
      .filter(({ isOpen }) => isOpen)
      .map(({ number, kind, title, publishedAt, marketTime, corrects }) => ({
        ...{ number, kind, title, corrects, address: outlookAddress(number) },
        publishedAt: new Date(publishedAt).toISOString(),
        marketTime: new Date(marketTime).toISOString(),
      }));
    const body = JSON.stringify({ page: sought.page, pages, outlooks: list });
    const headers = {
      ETag: `"${createHash("sha256").update(body).digest("base64url")}"`,
      "Content-Type": "application/json; charset=utf-8",
      "Cache-Control": "private, no-cache",
    };
    const isSame = request.headers.get("If-None-Match") === headers.ETag;
    return new Response(isSame ? null : body, { status: isSame ? 304 : 200, headers });
  });
}
