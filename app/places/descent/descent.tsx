import Box from "@mui/material/Box";
import { data } from "react-router";
import { calendarOf, factsOf, findMarket, listMarkets } from "../../../server/bars/markets.ts";
import { overviewOfRungs } from "../../../server/bars/rungs.ts";
import { readClock } from "../../../server/feed/clock.ts";
import { marksOf } from "../../../server/desk/marks.ts";
import { scenariosOf } from "../../../server/desk/scenarios.ts";
import { answer } from "../../access.server.ts";
import { Workspace } from "./Workspace.tsx";
import { RUNGS } from "./rungs.ts";
import type { Route } from "./+types/descent.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${(loaderData as { market?: { name: string } } | undefined)?.market?.name ?? "Descent"} - Even Compass` },
];

export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const rung = new URL(request.url).searchParams.get("rung") ?? "P1D";
    if (!RUNGS.some((one) => one === rung)) throw data({ failure: { sentence: "There is no such rung." } }, { status: 404 });
    return {
      market: factsOf(market),
      calendar: calendarOf(market).spec,
      revision: market.revision,
      rung,
      rungs: await overviewOfRungs(market, RUNGS),
      markets: (await listMarkets()).map(({ id, name }) => ({ id, name })),
      marks: await marksOf(market.id),
      scenarios: (await scenariosOf(market.id)).map(({ plan, version }) => ({ plan, version })),
      clock: await readClock(),
    };
  });
}

/** Saving is the page's own business: what it sent it already shows. */
export function shouldRevalidate({ currentUrl, nextUrl }: { currentUrl: URL; nextUrl: URL }) {
  return currentUrl.pathname !== nextUrl.pathname || currentUrl.search !== nextUrl.search;
}

export default function Descent({ loaderData }: Route.ComponentProps) {
  return (
    <Box component="main" id="content" sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
      <Workspace key={loaderData.market.id} {...loaderData} />
    </Box>
  );
}
