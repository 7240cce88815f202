import { findEdition } from "../../../server/publishing/editions.ts";
import { leavesOf } from "../../../server/record/leaves.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/content.ts";

/** The frozen text itself, byte for byte as it is stored, so that anybody can check it. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { edition } = await findEdition(params.number);
    return new Response(edition.canonical, {
      headers: {
        "Content-Type": "application/json; charset=utf-8",
        // An edition in leaves is known by the root of their tree, one of before by its text.
        [leavesOf(edition.canonical) ? "X-Root" : "X-Sha-256"]: edition.sha256,
        "Cache-Control": "private, no-cache",
      },
    });
  });
}
