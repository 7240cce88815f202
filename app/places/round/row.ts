import { boardRow } from "../../../server/desk/round.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/row.ts";

/** One market of the board, worked out where it has to be. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => Response.json(await boardRow(params.market, personIn(context).id), { headers: { "Cache-Control": "no-store" } }));
}
