import { barPageHeaders } from "#contracts/barPage";
import { readAsOf, readHours } from "#contracts/hours";
import { findMarket } from "../../../../server/bars/markets.ts";
import { encode } from "../../../../server/bars/chunks.ts";
import { pageOf, tailOf } from "../../../../server/bars/pages.ts";
import { seriesAsOf, seriesOf } from "../../../../server/bars/series.ts";
import { answer } from "../../../access.server.ts";
import type { Route } from "./+types/bars.ts";

/**
 * Bars of a rung as columns of doubles: the newest ones, or a page by its number. A closed page of the history the
 * address names is kept for ever; everything else is asked for anew and answered with 304 while it stands.
 */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const query = new URL(request.url).searchParams;
    const market = await findMarket(params.market);
    const hours = readHours(query.get("hours"));
    const asOf = readAsOf(query.get("asOf"));
    const whole =
      asOf === undefined
        ? await seriesOf(market, params.rung, hours)
        : await seriesAsOf(market, params.rung, hours, asOf);
    const asked = query.get("page");
    const { series, start, closed } = asked === null ? tailOf(whole) : pageOf(whole, Math.floor(Number(asked)) || 0);
    const forEver = asOf === undefined && closed && query.get("history") === String(market.history);
    const version = closed ? `h${market.history}` : `r${market.revision}`;
    const etag = `"${hours}-${asOf ?? ""}-${version}-${start}-${series.length}"`;
    const headers = {
      "Content-Type": "application/octet-stream",
      "Cache-Control": forEver
        ? "private, max-age=31536000, immutable, no-transform"
        : "private, no-cache, no-transform",
      ETag: etag,
      ...barPageHeaders({ start, revision: market.revision, history: market.history }),
    };
    if (request.headers.get("If-None-Match") === etag) return new Response(null, { status: 304, headers });
    return new Response(new Uint8Array(encode(series)), { headers });
  });
}
