import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link, useSearchParams } from "react-router";
import { rungText } from "#core/marks/wording";
import { OUTCOME_RULES } from "#core/measure/measured";
import { findMarket } from "../../../server/bars/markets.ts";
import { rungSetsOf } from "../../../server/desk/rungSets.ts";
import { worthOfMarket } from "../../../server/desk/worth.ts";
import { answer, personIn } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { useWorth } from "../../parts/worth/useWorth.ts";
import { KindTable } from "./KindTable.tsx";
import { PatternTable } from "./PatternTable.tsx";
import { RateTable } from "./RateTable.tsx";
import { byChance } from "./byChance.ts";
import type { Route } from "./+types/worth.ts";

export const meta: Route.MetaFunction = () => [{ title: "What findings were worth - Even Compass" }];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const { chosen } = await rungSetsOf(personIn(context).id);
    const rungs = chosen.rungs.map(({ rung }) => rung);
    const { id, name } = market;
    return { market: { id, name }, rungs, ...(await worthKnown(market, rungs)) };
  });
}

async function worthKnown(...ask: Parameters<typeof worthOfMarket>) {
  const { rungs: known, measuring } = await worthOfMarket(...ask);
  return { known, measuring };
}

/**
 * What findings of each kind were worth on a market, rung by rung, against random bands; and how often what followed.
 */
export default function WorthPage({ loaderData }: Route.ComponentProps) {
  const { market, rungs, known } = loaderData;
  const [search] = useSearchParams();
  const { rungs: measured, measuring } = useWorth(market.id, loaderData.measuring.length > 0, known);
  const rung = rungs.find((one) => one === search.get("rung")) ?? rungs.find((one) => one === "P1D") ?? rungs[0];
  const worth = measured.find((one) => one.rung === rung);
  const { told, differ, expected } = byChance(measured);
  return (
    <Page>
      <PageTitle
        aside={
          <>
            <MuiLink component={Link} to={`/descent/${market.id}`}>
              Descend
            </MuiLink>{" "}
            <MuiLink component={Link} to={`/seasons/${market.id}`}>
              Seasons
            </MuiLink>
          </>
        }
      >
        What findings were worth, {market.name}
      </PageTitle>
      <Typography sx={{ maxWidth: "78ch", mb: 1 }}>
        When price first came back to a finding, which came first: a close one ATR away from it (respected), or a close
        through it (broken)? The same was asked of random bands of the same width, as far from price, at other times:
        that is chance. Both within {OUTCOME_RULES.horizon} bars.
      </Typography>
      {told > 0 && (
        <Typography sx={{ maxWidth: "78ch", mb: 1.5 }} role="status">
          <strong>
            Of {told} figures with enough cases on all rungs, {differ} differ{differ === 1 ? "s" : ""} from chance;
            about {expected} would by chance alone.
          </strong>
        </Typography>
      )}
      <Box component="nav" aria-label="Rungs" sx={{ display: "flex", flexWrap: "wrap", columnGap: 1.5, mb: 1 }}>
        {rungs.map((one) => (
          <MuiLink
            key={one}
            component={Link}
            to={`?rung=${one}`}
            replace
            preventScrollReset
            aria-current={one === rung ? "page" : undefined}
            underline={one === rung ? "none" : "hover"}
            sx={{ fontWeight: one === rung ? 600 : 400, minHeight: 24 }}
          >
            {rungText(one)}
          </MuiLink>
        ))}
      </Box>
      {worth ? (
        <>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
            {worth.bars.toLocaleString("en")} bars, {momentText(worth.from, "utc")} to {momentText(worth.to, "utc")} UTC
            {measuring.includes(worth.rung) ? "; it is being measured anew" : ""}.
          </Typography>
          <KindTable kinds={worth.kinds} />
          <RateTable rates={worth.rates} />
          {worth.patterns.length > 0 && <PatternTable patterns={worth.patterns} />}
        </>
      ) : (
        <Typography color="text.secondary" role="status">
          {rung && measuring.includes(rung)
            ? "It is being measured. This takes some seconds for each rung."
            : "There are no closed bars to measure on this rung."}
        </Typography>
      )}
    </Page>
  );
}
