import { slice, firstAtOrAfter } from "#core/series/series";
import { findMarket } from "../../../server/bars/markets.ts";
import { encode } from "../../../server/bars/chunks.ts";
import { seriesOf } from "../../../server/bars/series.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/bars.ts";

/** Most bars in one answer: 983 kB. */
const MOST = 20_480;

/**
 * Bars of a rung as columns of doubles: the last `count` before `before` (all there are up to a limit when left
 * out). The address carries the revision, so an answer may be kept for ever.
 */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const query = new URL(request.url).searchParams;
    const market = await findMarket(params.market);
    const series = await seriesOf(market, params.rung);
    const before = Number(query.get("before") ?? Infinity);
    const asked = Number(query.get("count") ?? MOST);
    const count = Number.isFinite(asked) ? Math.max(0, Math.min(MOST, Math.floor(asked))) : MOST;
    const end = Number.isFinite(before) ? firstAtOrAfter(series, before) : series.length;
    const part = slice(series, Math.max(0, end - count), end);
    const asRevision = query.get("revision") === String(market.revision);
    return new Response(new Uint8Array(encode(part)), {
      headers: {
        "Content-Type": "application/octet-stream",
        "Cache-Control": asRevision ? "private, max-age=31536000, immutable, no-transform" : "no-store",
        "X-Revision": String(market.revision),
        "X-Earlier": String(Math.max(0, end - count)),
      },
    });
  });
}
