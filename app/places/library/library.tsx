import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { percentText, priceText, rungText } from "#core/marks/wording";
import { listImports, type ImportReport } from "../../../server/bars/import.ts";
import { overview } from "../../../server/bars/overview.ts";
import { answer } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { Sketch } from "../../parts/Sketch.tsx";
import { dateText, momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { FilePicker } from "./FilePicker.tsx";
import type { Route } from "./+types/library.ts";

export const meta: Route.MetaFunction = () => [{ title: "Library - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const imports = await listImports();
    return {
      markets: await overview(),
      imports: imports.map(({ id, marketId, base, fileName, createdAt, report }) => {
        const { added, leftOutCount } = report as unknown as ImportReport;
        return { id, marketId, base, fileName, createdAt, added, leftOutCount };
      }),
    };
  });
}

export default function Library({ loaderData: { markets, imports } }: Route.ComponentProps) {
  const imported = (
    <>
      <Typography variant="h2">Imports</Typography>
      {imports.length === 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          No file yet. Choose one and what was recognised in it is shown before anything is stored.
        </Typography>
      )}
      {imports.map(({ id, marketId, base, fileName, createdAt, added, leftOutCount }) => (
        <Typography key={id} variant="body2" sx={{ mt: 1, pt: 1, borderTop: 1, borderColor: "divider" }}>
          <strong>{fileName}</strong>, {rungText(base).toLowerCase()}
          <br />
          {added} bars added to {marketId}
          {leftOutCount > 0 && `, ${leftOutCount} rows left out`}
          <br />
          <span>{momentText(createdAt, "utc")} UTC</span>
        </Typography>
      ))}
    </>
  );
  return (
    <Page aside={imported}>
      <PageTitle aside={<FilePicker />}>Library</PageTitle>
      {markets.length === 0 ? (
        <Typography>There is no market yet. Import a CSV file of bars to begin.</Typography>
      ) : (
        <Table aria-label="Markets">
          <TableHead>
            <TableRow>
              <TableCell>Market</TableCell>
              <TableCell>Last 80 days</TableCell>
              <TableCell align="right">Last</TableCell>
              <TableCell align="right">Day</TableCell>
              <TableCell align="right">Days held</TableCell>
              <TableCell>Since</TableCell>
              <TableCell>Sessions in</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            {markets.map(({ id, name, kind, zone, decimals, days, since, close, change, sketch }) => (
              <TableRow key={id} hover>
                <TableCell>
                  <MuiLink component={Link} to={`/descent/${id}`} sx={{ fontWeight: 600 }}>
                    {name}
                  </MuiLink>
                  <Typography variant="caption" component="div" color="text.secondary">
                    {kind}
                  </Typography>
                </TableCell>
                <TableCell>
                  <Sketch values={sketch} />
                </TableCell>
                <TableCell align="right">{close === undefined ? "" : priceText(close, { decimals })}</TableCell>
                <TableCell align="right">{change === undefined ? "" : percentText(change, 2)}</TableCell>
                <TableCell align="right">{days}</TableCell>
                <TableCell>{since === undefined ? "" : dateText(since)}</TableCell>
                <TableCell>{zone}</TableCell>
                <TableCell align="right">
                  <Button component={Link} to={`/descent/${id}`} variant="text">
                    Descend
                  </Button>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Page>
  );
}
