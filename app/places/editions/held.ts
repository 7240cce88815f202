import { heldDrafts } from "../../../server/publishing/held.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/held.ts";

/** Outlooks that were to go out and did not. */
export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => Response.json(await heldDrafts(), { headers: { "Cache-Control": "no-store" } }));
}
