import { findEdition } from "../../../server/publishing/editions.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/content.ts";

/** The frozen text itself, byte for byte what was hashed, so that anybody can check it. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { edition } = await findEdition(params.number);
    return new Response(edition.canonical, {
      headers: {
        "Content-Type": "application/json; charset=utf-8",
        "X-Sha-256": edition.sha256,
        "Cache-Control": "private, no-cache",
      },
    });
  });
}
