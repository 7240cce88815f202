import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { rungText, sizeText } from "#core/marks/wording";
import { dateText } from "../../parts/times.ts";

export interface HeldBars {
  base: string;
  bars: number;
  from: number;
  to: number;
  bytes: number;
}

/** The resolutions a market holds, each with its exports; below, exports of the rungs that are made of them. */
export function BarsHeld({
  market,
  held,
  rungs,
  derived,
}: {
  market: string;
  held: readonly HeldBars[];
  rungs: readonly string[];
  derived: boolean;
}) {
  const address = (rung: string, format: string) => `/library/${market}/export?what=bars&rung=${rung}&format=${format}`;
  const others = rungs.filter((rung) => !held.some(({ base }) => base === rung));
  return (
    <>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {derived ? "Bars its legs have in common" : "Bars held"}
      </Typography>
      {held.length === 0 ? (
        <Typography>None yet. Import a file into this market from the Library.</Typography>
      ) : (
        <Table size="small" aria-label="Bars held">
          <TableHead>
            <TableRow>
              <TableCell>Each bar is</TableCell>
              <TableCell>From</TableCell>
              <TableCell>To</TableCell>
              <TableCell align="right">Bars</TableCell>
              {!derived && <TableCell align="right">Stored</TableCell>}
              <TableCell>Export</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {held.map(({ base, bars, from, to, bytes }) => (
              <TableRow key={base}>
                <TableCell>{rungText(base)}</TableCell>
                <TableCell>{dateText(from)}</TableCell>
                <TableCell>{dateText(to)}</TableCell>
                <TableCell align="right">{bars.toLocaleString("en")}</TableCell>
                {!derived && <TableCell align="right">{sizeText(bytes)}</TableCell>}
                <TableCell>
                  <MuiLink href={address(base, "csv")} aria-label={`${rungText(base)} as CSV`}>
                    CSV
                  </MuiLink>{" "}
                  <MuiLink href={address(base, "json")} aria-label={`${rungText(base)} as JSON`}>
                    JSON
                  </MuiLink>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      {held.length > 0 && others.length > 0 && (
        <Typography variant="body2" sx={{ mt: 1 }}>
          Made of these, as CSV:{" "}
          {others.map((rung, i) => (
            <span key={rung}>
              {i > 0 && " \u00b7 "}
              <MuiLink href={address(rung, "csv")}>{rungText(rung)}</MuiLink>
            </span>
          ))}
        </Typography>
      )}
    </>
  );
}
