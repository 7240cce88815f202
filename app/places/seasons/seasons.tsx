import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import {
  keyText,
  risesText,
  SEASON_NAMES,
  SEASON_VERDICTS,
  seasonMeanText,
  seasonVerdict,
  type SeasonName,
} from "#core/context/seasons";
import { signedText } from "#core/marks/wording";
import { findMarket } from "../../../server/bars/markets.ts";
import { seasonsOf } from "../../../server/desk/seasons.ts";
import { answer } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { dateText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/seasons.ts";

export const meta: Route.MetaFunction = () => [{ title: "Seasons - Even Compass" }];

export function loader({ request, params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const asked = new URL(request.url).searchParams.get("by");
    const by = SEASON_NAMES.find((one) => one === asked) ?? "month";
    return { market: { id: market.id, name: market.name }, ...(await seasonsOf(market, by)) };
  });
}

const NAMES: Record<SeasonName, { name: string; returns: string }> = {
  month: { name: "Month", returns: "months" },
  week: { name: "Week of the year", returns: "weeks" },
  dayOfMonth: { name: "Day of the month", returns: "days" },
  weekday: { name: "Weekday", returns: "days" },
  hour: { name: "Hour", returns: "hours" },
};

/** What a market did by the calendar, and whether that is more than chance. */
export default function SeasonsPage({ loaderData }: Route.ComponentProps) {
  const { market, by, seasons, n, mean, from, to } = loaderData;
  const { name, returns } = NAMES[by];
  const verdicts = seasons.map((season) => seasonVerdict(season, mean));
  const told = verdicts.filter((one) => one !== "few").length;
  const differ = verdicts.filter((one) => one === "higher" || one === "lower").length;
  return (
    <Page>
      <PageTitle
        aside={
          <MuiLink component={Link} to={`/descent/${market.id}`}>
            Descend
          </MuiLink>
        }
      >
        Seasons, {market.name}
      </PageTitle>
      <Box component="nav" aria-label="By" sx={{ display: "flex", flexWrap: "wrap", columnGap: 1.5, mb: 1 }}>
        {SEASON_NAMES.map((one) => (
          <MuiLink
            key={one}
            component={Link}
            to={`?by=${one}`}
            replace
            preventScrollReset
            aria-current={one === by ? "page" : undefined}
            underline={one === by ? "none" : "hover"}
            sx={{ fontWeight: one === by ? 600 : 400, minHeight: 24 }}
          >
            {NAMES[one].name}
          </MuiLink>
        ))}
      </Box>
      {from === undefined || to === undefined ? (
        <Typography role="status">There are no closed {returns} of this market to compare.</Typography>
      ) : (
        <>
          <Typography sx={{ mb: 0.5 }} role="status">
            <strong>
              {told === 0
                ? "None has enough cases to tell it from chance."
                : `Of ${told} with enough cases, ${differ} differ${differ === 1 ? "s" : ""} from chance.`}
            </strong>
          </Typography>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1, maxWidth: "78ch" }}>
            {n.toLocaleString("en")} returns of {returns}, {dateText(from)} to {dateText(to)}; all of them{" "}
            {signedText(100 * mean, 2)} % on average. Chance is a mean as far from that were the same returns dealt out
            at random, allowing for how many were asked at once.
          </Typography>
          <Table size="small" aria-label={`Returns by ${name.toLowerCase()}`} sx={{ maxWidth: 820 }}>
            <TableHead>
              <TableRow>
                <TableCell>{name}</TableCell>
                <TableCell align="right">Cases</TableCell>
                <TableCell align="right">Mean, 95 %</TableCell>
                <TableCell align="right">Rose</TableCell>
                <TableCell>Against chance</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {seasons.map((season, i) => (
                <TableRow key={season.key}>
                  <TableCell component="th" scope="row">
                    {keyText(by, season.key)}
                  </TableCell>
                  <TableCell align="right">{season.n}</TableCell>
                  <TableCell align="right">{seasonMeanText(season)}</TableCell>
                  <TableCell align="right">{risesText(season)}</TableCell>
                  <TableCell sx={{ fontWeight: verdicts[i] === "higher" || verdicts[i] === "lower" ? 600 : 400 }}>
                    {SEASON_VERDICTS[verdicts[i]]}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </>
      )}
    </Page>
  );
}
