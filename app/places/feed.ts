import { createHash } from "node:crypto";
import { feedOf } from "../../server/delivery/feeds.ts";
import { answer } from "../access.server.ts";
import type { Route } from "./+types/feed.ts";

/** A reader's private feed: the token in its address is what lets it be read. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { body, type } = await feedOf(params.token, params.file);
    const headers = {
      ETag: `"${createHash("sha256").update(body).digest("base64url")}"`,
      "Content-Type": type,
      "Cache-Control": "private, no-cache",
      // An address that is a secret is not told on.
      "Referrer-Policy": "no-referrer",
      "X-Robots-Tag": "noindex",
    };
    if (request.headers.get("If-None-Match") === headers.ETag) return new Response(null, { status: 304, headers });
    return new Response(body, { headers });
  });
}
