import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { bandText, percentText } from "#core/marks/wording";
import type { LevelLine } from "#core/marks/levels";
import { levelText } from "#core/marks/levelText";

/** The prices of a picture as figures, highest first. */
export function LevelTable({ lines, decimals }: { lines: readonly LevelLine[]; decimals: number }) {
  if (lines.length === 0) return <Typography variant="body2">No level is alive on this market.</Typography>;
  return (
    <Table aria-label="Levels that matter">
      <TableHead>
        <TableRow>
          <TableCell>Price</TableCell>
          <TableCell>What it is</TableCell>
          <TableCell align="right">Away</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {lines.map((line, i) => (
          <TableRow key={i}>
            <TableCell sx={{ whiteSpace: "nowrap" }}>{bandText(line, { decimals })}</TableCell>
            <TableCell>{levelText(line)}</TableCell>
            <TableCell align="right" sx={{ whiteSpace: "nowrap" }}>
              {percentText(line.distance, 1)}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
