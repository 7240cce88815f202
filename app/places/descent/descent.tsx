import Box from "@mui/material/Box";
import { readAsOf, readHours } from "#contracts/hours";
import { hasOvernight } from "#core/series/hours";
import { nextInWalk, type RungSet } from "#core/time/rungs";
import { factsOf, findMarket, listMarkets } from "../../../server/bars/markets.ts";
import { readTimeframe } from "../../../server/bars/timeframes.ts";
import { rungSetsOf } from "../../../server/desk/rungSets.ts";
import { readClock } from "../../../server/feed/clock.ts";
import { marksOf } from "../../../server/desk/marks.ts";
import { scenariosOf } from "../../../server/desk/scenarios.ts";
import { answer, personIn } from "../../access.server.ts";
import { barsAddress } from "../../parts/barPages.ts";
import { Workspace } from "./Workspace.tsx";
import type { Route } from "./+types/descent.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${(loaderData as { market?: { name: string } } | undefined)?.market?.name ?? "Descent"} - Even Compass` },
];

export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const query = new URL(request.url).searchParams;
    const { chosen, sets } = await rungSetsOf(personIn(context).id);
    const rung = query.get("rung") ?? startOf(chosen);
    readTimeframe(rung);
    const hours = hasOvernight(market.calendar) ? readHours(query.get("hours")) : "all";
    const clock = await readClock();
    const asked = readAsOf(query.get("asOf"));
    return {
      market: factsOf(market),
      calendar: market.calendar,
      rung,
      hours,
      asOf: asked !== undefined && asked < clock.now ? asked : undefined,
      rungSet: chosen,
      rungSets: sets.map(({ id, name }) => ({ id, name })),
      markets: (await listMarkets()).map(({ id, name }) => ({ id, name })),
      marks: await marksOf(market.id),
      scenarios: (await scenariosOf(market.id)).map(({ plan, version }) => ({ plan, version })),
      clock,
    };
  });
}

/** Where a market is opened: on the day, or where the walk begins. */
function startOf(set: RungSet): string {
  return set.rungs.find(({ rung }) => rung === "P1D")?.rung ?? nextInWalk(set) ?? "P1D";
}

/** Saving is the page's own business: what it sent it already shows. Another set of rungs is another page. */
export function shouldRevalidate({ currentUrl, nextUrl, formAction }: { currentUrl: URL; nextUrl: URL; formAction?: string }) {
  return formAction === "/rungs/chosen" || currentUrl.pathname !== nextUrl.pathname || currentUrl.search !== nextUrl.search;
}

export default function Descent({ loaderData }: Route.ComponentProps) {
  return (
    <Box component="main" id="content" sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
      {/* The chart's bars are on their way while the page's script still is. */}
      <link rel="preload" as="fetch" crossOrigin="anonymous" href={barsAddress({ market: loaderData.market.id, rung: loaderData.rung, hours: loaderData.hours, asOf: loaderData.asOf })} />
      <Workspace key={loaderData.market.id} {...loaderData} />
    </Box>
  );
}
