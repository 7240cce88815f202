import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { useRef, type KeyboardEvent } from "react";
import { Link } from "react-router";
import type { RungSummary } from "#core/finding/reading";
import { countText, priceText, rungText } from "#core/marks/wording";
import type { Board as BoardData, BoardRow } from "../../../server/desk/round.ts";
import { agreementText } from "../descent/BearingRow.tsx";
import { Needle } from "../descent/Needle.tsx";
import { useRows } from "./useRows.ts";

const STEPS: Record<string, [number, number]> = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };

/** One row a market, one column a rung; a cell is the way in. */
export function Board({ board }: { board: BoardData }) {
  const { rows, waiting } = useRows(board);
  const body = useRef<HTMLTableSectionElement>(null);
  const walk = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    const cell = (event.target as HTMLElement).closest<HTMLElement>("[data-cell]");
    if (!step || !cell) return;
    event.preventDefault();
    const [row, column] = (cell.dataset.cell ?? "").split(" ").map(Number);
    body.current?.querySelector<HTMLElement>(`[data-cell="${row + step[0]} ${column + step[1]}"]`)?.focus();
  };
  if (rows.length === 0) return <Typography>There is no market yet. Import bars in the library first.</Typography>;
  return (
    <>
      <Table size="small" stickyHeader aria-label="Board" sx={{ "& td, & th": { px: 1, py: 0.25, whiteSpace: "nowrap" }, width: "auto" }}>
        <TableHead>
          <TableRow>
            <TableCell>Market</TableCell>
            <TableCell align="right">Last close</TableCell>
            {board.rungs.map((rung) => (
              <TableCell key={rung} align="center">
                {rungText(rung)}
              </TableCell>
            ))}
            <TableCell>Agreement</TableCell>
          </TableRow>
        </TableHead>
        <TableBody ref={body} onKeyDown={walk}>
          {rows.map((row, i) => (
            <Row key={row.id} row={row} rungs={board.rungs} index={i} />
          ))}
        </TableBody>
      </Table>
      <Typography variant="body2" color="text.secondary" role="status" sx={{ mt: 1 }}>
        {waiting > 0 ? `${countText(waiting, "market is", "markets are")} still being read.` : ""}
      </Typography>
    </>
  );
}

function Row({ row, rungs, index }: { row: BoardRow; rungs: readonly string[]; index: number }) {
  const known = row.cells.filter((cell) => cell !== null && cell.close !== undefined) as RungSummary[];
  const finest = known.at(-1);
  return (
    <TableRow hover>
      <TableCell component="th" scope="row">
        <MuiLink component={Link} to={`/descent/${row.id}`} underline="hover">
          {row.name}
        </MuiLink>
      </TableCell>
      <TableCell align="right">{finest?.close === undefined ? "" : priceText(finest.close, row)}</TableCell>
      {rungs.map((rung, column) => (
        <TableCell key={rung} align="center">
          <Cell row={row} rung={rung} cell={row.cells.at(column)} at={`${index} ${column}`} first={index === 0 && column === 0} />
        </TableCell>
      ))}
      <TableCell>{known.length > 0 ? agreementText(known.map(({ rung, bearing }) => ({ rung, direction: bearing.direction }))) : row.cells.includes(null) ? "" : "no bars"}</TableCell>
    </TableRow>
  );
}

function Cell({ row, rung, cell, at, first }: { row: BoardRow; rung: string; cell: RungSummary | null | undefined; at: string; first: boolean }) {
  const says = cell?.close === undefined ? "no bars" : `${cell.bearing.direction}${cell.shifted ? ", new shift" : ""}${cell.shiftAt === undefined ? "" : `; shifts beyond ${priceText(cell.shiftAt, row)}`}`;
  return (
    <Box
      component={Link}
      to={`/descent/${row.id}?rung=${rung}`}
      data-cell={at}
      tabIndex={first ? 0 : -1}
      aria-label={`${row.name}, ${rungText(rung)}: ${cell ? says : "being read"}`}
      title={`${rungText(rung)}: ${cell ? says : "being read"}`}
      sx={{ display: "inline-flex", alignItems: "center", justifyContent: "center", width: 28, height: 26, color: "text.primary", border: "1.5px solid", borderColor: cell?.shifted ? "text.primary" : "transparent", borderRadius: "50%" }}
    >
      {cell && cell.close !== undefined ? <Needle direction={cell.bearing.direction} /> : <Box component="span" sx={{ color: "text.disabled" }}>·</Box>}
    </Box>
  );
}
