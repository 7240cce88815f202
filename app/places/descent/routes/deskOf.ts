import { readAsOf } from "#contracts/hours";
import { findMarket, factsOf } from "../../../../server/bars/markets.ts";
import { marksAt, markedMarket } from "../../../../server/desk/marks.ts";
import { answer } from "../../../access.server.ts";
import type { Route } from "./+types/deskOf.ts";

/**
 * What a page needs to know of a market besides its bars: its facts, its hours and its marks as they stand and, with
 * `asOf`, as they stood then.
 */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const asOf = readAsOf(new URL(request.url).searchParams.get("asOf"));
    const past = asOf === undefined ? {} : { past: { asOf, marks: await marksAt(market, asOf) } };
    const body = { market: factsOf(market), calendar: market.calendar, ...(await markedMarket(market.id)), ...past };
    return Response.json(body, { headers: { "Cache-Control": "no-store" } });
  });
}
