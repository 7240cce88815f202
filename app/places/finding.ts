import { listMarkets } from "../../server/bars/markets.ts";
import { answer } from "../access.server.ts";
import type { Route } from "./+types/finding.ts";

/** Names and ids of all markets, for the palette. */
export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => Response.json((await listMarkets()).map(({ id, name }) => ({ id, name }))));
}
