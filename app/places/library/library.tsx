import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { Suspense } from "react";
import { Await, Link } from "react-router";
import { percentText, priceText } from "#core/marks/wording";
import { hoursAt } from "#core/time/hoursNow";
import { listImports } from "../../../server/intake/import.ts";
import { calendarOf, listMarkets } from "../../../server/bars/markets.ts";
import { marketDays, marketLines, type MarketDays } from "../../../server/bars/overview.ts";
import { readClock } from "../../../server/clock.ts";
import { answer } from "../../access.server.ts";
import { later } from "../../later.server.ts";
import { Coverage } from "../../parts/Coverage.tsx";
import { Page } from "../../parts/Page.tsx";
import { Sketch } from "../../parts/Sketch.tsx";
import { PageTitle } from "../../parts/TopBar.tsx";
import { FirstSteps } from "../../parts/FirstSteps.tsx";
import { FilePicker } from "../../parts/FilePicker.tsx";
import { hoursText } from "./hoursText.ts";
import { importLine, ImportList } from "./ImportList.tsx";
import type { Route } from "./+types/library.ts";

export const meta: Route.MetaFunction = () => [{ title: "Library - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const [lines, markets, imports, { now }] = await Promise.all([
      marketLines(),
      listMarkets(),
      listImports(),
      readClock(),
    ]);
    const hours = new Map(
      markets.map((market) => [market.id, hoursText(hoursAt(now, calendarOf(market)), market.calendar.zone, now)]),
    );
    return {
      groups: groupsOf(lines).map(({ title, lines: members }) => ({
        title,
        markets: members.map((line) => ({ ...line, hours: hours.get(line.id) ?? "" })),
      })),
      // The page need not wait until the days of every market have been read.
      days: later("days of markets", marketDays),
      imports: imports.map((one) =>
        importLine(one, markets.find(({ id }) => id === one.marketId)?.name ?? one.marketId),
      ),
      now,
    };
  });
}

const TITLES: Record<string, string> = {
  currency: "Currencies",
  commodity: "Commodities",
  index: "Indices",
  share: "Shares",
};
const ORDER = ["Currencies", "Commodities", "Indices", "Shares", "Others", "Made of others"];

function groupsOf<T extends { kind: string; derived: boolean }>(lines: readonly T[]): { title: string; lines: T[] }[] {
  const titleOf = ({ kind, derived }: T) => (derived ? "Made of others" : (TITLES[kind] ?? "Others"));
  return ORDER.map((title) => ({ title, lines: lines.filter((line) => titleOf(line) === title) })).filter(
    ({ lines: members }) => members.length > 0,
  );
}

export default function Library({ loaderData: { groups, days, imports, now } }: Route.ComponentProps) {
  return (
    <Page aside={<ImportList imports={imports} />}>
      <PageTitle
        aside={
          <>
            <Button component={Link} to="/library/derive" sx={{ order: 2 }}>
              Make a market of others
            </Button>
            {groups.length > 0 && <FilePicker />}
          </>
        }
      >
        Library
      </PageTitle>
      {groups.length === 0 ? (
        <FirstSteps />
      ) : (
        <Table size="small" aria-label="Markets" sx={{ "& td": { py: 0.35 } }}>
          <TableHead>
            <TableRow>
              <TableCell>Market</TableCell>
              <TableCell>Last 80 days</TableCell>
              <TableCell align="right">Last</TableCell>
              <TableCell align="right">On the day</TableCell>
              <TableCell title="Marks at ten years, a year, a month and a week back. Thin: days; heavier: finer bars.">
                Held, ten years to now
              </TableCell>
              <TableCell>Hours</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          {groups.map(({ title, markets }) => (
            <TableBody key={title}>
              <TableRow>
                <TableCell component="th" scope="rowgroup" colSpan={7} sx={{ pt: 1.75, pb: 0.25, borderBottom: 0 }}>
                  <Typography variant="h3" component="span">
                    {title}
                  </Typography>
                </TableCell>
              </TableRow>
              {markets.map(({ id, name, decimals, holdings, derived, hours }) => (
                <TableRow key={id} hover>
                  <TableCell>
                    <MuiLink component={Link} to={`/library/${id}`} sx={{ fontWeight: 600 }}>
                      {name}
                    </MuiLink>
                  </TableCell>
                  <Suspense
                    fallback={
                      <>
                        <TableCell>
                          <Sketch values={[]} height={22} />
                        </TableCell>
                        <TableCell />
                        <TableCell />
                      </>
                    }
                  >
                    <Await resolve={days}>
                      {(all) =>
                        "found" in all ? (
                          <DaysCells days={all.found.find((one) => one.id === id)} decimals={decimals} />
                        ) : (
                          <TableCell colSpan={3}>
                            <Typography variant="caption">
                              Not worked out in time. Number of the request: {all.request}
                            </Typography>
                          </TableCell>
                        )
                      }
                    </Await>
                  </Suspense>
                  <TableCell>
                    {derived ? (
                      <Typography variant="caption">as its legs</Typography>
                    ) : (
                      <Coverage holdings={holdings} now={now} />
                    )}
                  </TableCell>
                  <TableCell>{hours}</TableCell>
                  <TableCell align="right">
                    <Button component={Link} to={`/descent/${id}`} variant="text" aria-label={`Descend ${name}`}>
                      Descend
                    </Button>
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          ))}
        </Table>
      )}
    </Page>
  );
}

function DaysCells({ days, decimals }: { days: MarketDays | undefined; decimals: number }) {
  return (
    <>
      <TableCell>
        <Sketch values={days?.sketch ?? []} height={22} />
      </TableCell>
      <TableCell align="right">{days?.close === undefined ? "no bars" : priceText(days.close, { decimals })}</TableCell>
      <TableCell align="right">{days?.change === undefined ? "" : percentText(days.change, 2)}</TableCell>
    </>
  );
}
