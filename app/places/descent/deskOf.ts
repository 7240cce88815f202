import { findMarket, factsOf } from "../../../server/bars/markets.ts";
import { markedMarket } from "../../../server/desk/marks.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/deskOf.ts";

/** What a page needs to know of a market besides its bars: its facts, its hours and its marks as they stand. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const body = { market: factsOf(market), calendar: market.calendar, ...(await markedMarket(market.id)) };
    return Response.json(body, { headers: { "Cache-Control": "no-store" } });
  });
}
