import { readAsOf, readHours } from "#contracts/hours";
import { findMarket } from "../../../../server/bars/markets.ts";
import { sketchesOf } from "../../../../server/bars/sketches.ts";
import { rungSetsOf } from "../../../../server/desk/rungSets.ts";
import { answer, personIn } from "../../../access.server.ts";
import type { Route } from "./+types/sketches.ts";

/** How each rung of the analyst's set came to where it is. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const { chosen } = await rungSetsOf(personIn(context).id);
    const query = new URL(request.url).searchParams;
    const sketches = await sketchesOf(
      market,
      chosen.rungs.map(({ rung }) => rung),
      readHours(query.get("hours")),
      readAsOf(query.get("asOf")),
    );
    return Response.json(sketches, { headers: { "Cache-Control": "no-store" } });
  });
}
