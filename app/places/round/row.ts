import { boardRow } from "../../../server/round/board.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/row.ts";

/** One market of the board, worked out where it has to be. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const list = new URL(request.url).searchParams.get("list") ?? "";
    return Response.json(await boardRow(params.market, personIn(context).id, list), {
      headers: { "Cache-Control": "no-store" },
    });
  });
}
