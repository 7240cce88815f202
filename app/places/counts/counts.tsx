import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import MuiLink from "@mui/material/Link";
import { Link } from "react-router";
import type { MarketFacts } from "#core/marks/kind";
import { countText, percentText, pipsText, priceText, rungText } from "#core/marks/wording";
import { liveCounts, type CountLine, type StatementLine } from "../../../server/publishing/counts.ts";
import { readClock } from "../../../server/clock.ts";
import { answer } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/counts.ts";

export const meta: Route.MetaFunction = () => [{ title: "Counts - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({ ...(await liveCounts()), now: (await readClock()).now }));
}

/**
 * Every live count across the markets, nearest to its end first, with its nested kill prices and what changed since the
 * last edition.
 */
export default function Counts({ loaderData: { markets, since, now } }: Route.ComponentProps) {
  const all = markets.flatMap(({ counts }) => counts);
  const died = all.filter(({ dead }) => dead).length;
  return (
    <Page>
      <PageTitle
        aside={
          <Typography variant="body2" color="text.secondary">
            {momentText(now, "utc")} UTC. {countText(all.length - died, "count")} alive, {died} dead.{" "}
            {since === undefined
              ? "Nothing was published yet."
              : `Changes since the edition of ${momentText(since, "utc")} UTC.`}
          </Typography>
        }
      >
        Counts
      </PageTitle>
      {markets.length === 0 && (
        <Typography color="text.secondary">
          No wave is counted yet. Open a market, press W and click the pivots, or have the waves in view counted with 0.
        </Typography>
      )}
      {markets.map(({ market, price, counts }) => (
        <Box
          key={market.id}
          component="section"
          aria-label={market.name}
          sx={{ borderTop: 1, borderColor: "divider", py: 1.5 }}
        >
          <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "baseline" }}>
            <Typography variant="h2">{market.name}</Typography>
            <Typography variant="body2">{Number.isNaN(price) ? "no bars" : priceText(price, market)}</Typography>
          </Box>
          {counts.map((count) => (
            <CountEntry key={count.id} count={count} market={market} price={price} />
          ))}
        </Box>
      ))}
    </Page>
  );
}

function CountEntry({ count, market, price }: { count: CountLine; market: MarketFacts; price: number }) {
  const { rung, role, weight, says, dead, statements, changes, scenarios } = count;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", md: "minmax(0, 5fr) minmax(0, 6fr)" },
        columnGap: 3,
        py: 1,
      }}
    >
      <Box>
        <MuiLink
          component={Link}
          to={`/descent/${market.id}?rung=${rung}`}
          sx={{ fontWeight: 600, textDecorationLine: dead ? "line-through" : undefined }}
        >
          {rungText(rung)}: {says}
        </MuiLink>
        <Typography variant="body2" color="text.secondary">
          {role}
          {weight > 0 ? `, ${weight} %` : ""}
          {scenarios.length > 0 ? `; scenarios that rest on it: ${scenarios.join(", ")}${dead ? " \u00d7" : ""}` : ""}
        </Typography>
        {changes.slice(-4).map(({ time, sentence }) => (
          <Typography key={`${time} ${sentence}`} variant="body2">
            {momentText(time, "utc")}: {sentence}
          </Typography>
        ))}
      </Box>
      <Box component="ul" aria-label="Statements" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {statements.map((statement) => (
          <Statement key={`${statement.says} ${statement.price}`} statement={statement} market={market} price={price} />
        ))}
      </Box>
    </Box>
  );
}

function Statement({
  statement: { says, rule, price: kill, side, distance, depth },
  market,
  price,
}: {
  statement: StatementLine;
  market: MarketFacts;
  price: number;
}) {
  return (
    <Box
      component="li"
      title={rule}
      sx={{ display: "flex", justifyContent: "space-between", gap: 2, pl: depth * 1.5, py: 0.15 }}
    >
      <Typography variant="body2">{says}</Typography>
      <Typography variant="body2" sx={{ whiteSpace: "nowrap", textAlign: "right" }}>
        {"\u00d7"} {side} {priceText(kill, market)}
        <Box component="span" sx={{ color: "text.secondary" }}>
          {" "}
          {pipsText(distance, market)}, {percentText(Math.abs(distance / price), 2)}
        </Box>
      </Typography>
    </Box>
  );
}
