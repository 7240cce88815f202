import { readAsOf } from "#contracts/hours";
import { findMarket } from "../../../../server/bars/markets.ts";
import { findingParamsOf } from "../../../../server/desk/findingParams.ts";
import { readingsOf } from "../../../../server/desk/readings.ts";
import { rungSetsOf } from "../../../../server/desk/rungSets.ts";
import { answer, personIn } from "../../../access.server.ts";
import type { Route } from "./+types/found.ts";

/** What the machine reads on each rung of the analyst's set, and what it offers. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const person = personIn(context).id;
    const { chosen } = await rungSetsOf(person);
    const asOf = readAsOf(new URL(request.url).searchParams.get("asOf"));
    const sought = await findingParamsOf(person, chosen.id);
    const readings = await readingsOf(
      market,
      chosen.rungs.map(({ rung }) => rung),
      sought,
      asOf,
    );
    return Response.json({ ...readings, params: sought }, { headers: { "Cache-Control": "no-store" } });
  });
}
