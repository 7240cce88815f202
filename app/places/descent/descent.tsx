import Box from "@mui/material/Box";
import { useSearchParams } from "react-router";
import { readAsOf, readHours } from "#contracts/hours";
import { hasOvernight } from "#core/series/hours";
import { nextInWalk, type RungSet } from "#core/time/rungs";
import { parseTimeframe } from "#core/time/timeframe";
import { factsOf, findMarket, listMarkets } from "../../../server/bars/markets.ts";
import { readTimeframe } from "../../../server/bars/timeframes.ts";
import { rungSetsOf } from "../../../server/desk/rungSets.ts";
import { readClock } from "../../../server/clock.ts";
import { horizonsOf } from "../../../server/desk/horizons.ts";
import { layoutOf } from "../../../server/desk/layout.ts";
import { marksAt, markedMarket } from "../../../server/desk/marks.ts";
import { scenariosAt, scenariosOf } from "../../../server/desk/scenarios.ts";
import { studiesOf } from "../../../server/desk/studies.ts";
import { openStandings } from "../../../server/watch/standing.ts";
import { answer, personIn } from "../../access.server.ts";
import { barsAddress } from "../../parts/barPages.ts";
import { Workspace } from "./Workspace.tsx";
import type { Route } from "./+types/descent.ts";

type Titled = { desk?: { market: { name: string } } } | undefined;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  {
    title: `${(loaderData as Titled)?.desk?.market.name ?? "Descent"} - Even Compass`,
  },
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
    const account = personIn(context).id;
    const asOf = asked !== undefined && asked < clock.now ? asked : undefined;
    const past = asOf === undefined ? {} : { past: { asOf, marks: await marksAt(market, asOf) } };
    const scenarios = asOf === undefined ? scenariosOf(market.id) : scenariosAt(market.id, asOf);
    return {
      account,
      desk: { market: factsOf(market), calendar: market.calendar, ...(await markedMarket(market.id)), ...past },
      rung,
      hours,
      asOf,
      layout: await layoutOf(account),
      rungSet: chosen,
      studies: await studiesOf(account, chosen.id),
      horizons: await horizonsOf(account),
      rungSets: sets.map(({ id, name }) => ({ id, name })),
      markets: (await listMarkets()).map(({ id, name }) => ({ id, name })),
      standings: await openStandings([market.id]),
      scenarios: (await scenarios).map(({ scenario, version, writtenAt }) => ({ scenario, version, writtenAt })),
      clock,
    };
  });
}

/** Where a market is opened: on the day, or where the walk begins. */
function startOf(set: RungSet): string {
  return set.rungs.find(({ rung }) => rung === "P1D")?.rung ?? nextInWalk(set) ?? "P1D";
}

/**
 * Saving is the page's own business: what it sent it already shows; another rung is a matter of the page alone, too.
 * Another set of rungs is another page, and so is another moment.
 */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  formAction,
}: {
  currentUrl: URL;
  nextUrl: URL;
  formAction?: string;
}) {
  const moved = (name: string) => currentUrl.searchParams.get(name) !== nextUrl.searchParams.get(name);
  return formAction === "/rungs/chosen" || currentUrl.pathname !== nextUrl.pathname || moved("hours") || moved("asOf");
}

export default function Descent({ loaderData }: Route.ComponentProps) {
  const [query] = useSearchParams();
  const { desk, hours, asOf } = loaderData;
  const asked = query.get("rung");
  const rung = asked && parseTimeframe(asked) ? asked : loaderData.rung;
  return (
    <Box component="main" id="content" sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
      {/* The chart's bars are on their way while the page's script still is. */}
      <link
        rel="preload"
        as="fetch"
        crossOrigin="anonymous"
        href={barsAddress({ market: desk.market.id, rung: loaderData.rung, hours, asOf })}
      />
      <Workspace key={desk.market.id} {...loaderData} rung={rung} />
    </Box>
  );
}
