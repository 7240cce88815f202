import { readAsOf } from "#contracts/hours";
import { relationAt } from "../../../../server/desk/relation.ts";
import { Failure } from "../../../../server/failure.ts";
import { answerInTurn } from "../../../access.server.ts";
import type { Route } from "./+types/relation.ts";

/** What this market and another one cost at an instant, and now. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answerInTurn({ request, context }, async () => {
    const query = new URL(request.url).searchParams;
    const at = readAsOf(query.get("at"));
    if (at === undefined) throw new Failure("at", "The time to compare at is missing.", { status: 400 });
    return Response.json(await relationAt(params.market, query.get("to") ?? "", at, readAsOf(query.get("asOf"))), {
      headers: { "Cache-Control": "no-store" },
    });
  });
}
