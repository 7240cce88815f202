import { findMarket } from "../../../../server/bars/markets.ts";
import { rungSetsOf } from "../../../../server/desk/rungSets.ts";
import { worthOfMarket } from "../../../../server/desk/worth.ts";
import { answer, personIn } from "../../../access.server.ts";
import type { Route } from "./+types/worth.ts";

/** What findings of the analyst's rungs were worth on a market, as far as it is measured. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const { chosen } = await rungSetsOf(personIn(context).id);
    const rungs = chosen.rungs.map(({ rung }) => rung);
    return Response.json(await worthOfMarket(market, rungs), { headers: { "Cache-Control": "no-store" } });
  });
}
