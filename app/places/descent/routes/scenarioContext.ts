import { readAsOf } from "#contracts/hours";
import { scenarioContext } from "../../../../server/scenarios/context.ts";
import { Failure } from "../../../../server/failure.ts";
import { answerInTurn } from "../../../access.server.ts";
import type { Route } from "./+types/scenarioContext.ts";

/** What a scenario that lasts until an instant is held against. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answerInTurn({ request, context }, async () => {
    const until = readAsOf(new URL(request.url).searchParams.get("until"));
    if (until === undefined) throw new Failure("until", "When the scenario lapses is missing.", { status: 400 });
    return Response.json(await scenarioContext(params.market, until), { headers: { "Cache-Control": "no-store" } });
  });
}
