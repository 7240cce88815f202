import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { percentText } from "#core/marks/wording";
import { RATE_KINDS } from "#core/measure/occurrences";
import type { BaseRate } from "#core/measure/rates";
import { FEW } from "#core/measure/verdict";
import { VerdictCell } from "./chanceCells.tsx";

/** How often price went on after what the trade goes by. */
export function RateTable({ rates }: { rates: readonly BaseRate[] }) {
  return (
    <>
      <Typography variant="h2" sx={{ mt: 2 }}>
        What followed
      </Typography>
      <Typography variant="body2" sx={{ mb: 1, maxWidth: "78ch" }}>
        After each, in the way it is said to point: did price close one ATR on first, or one ATR back? Chance is the
        same question asked after every bar.
      </Typography>
      <Table size="small" aria-label="What followed on what" sx={{ maxWidth: 980 }}>
        <TableHead>
          <TableRow>
            <TableCell>After</TableCell>
            <TableCell align="right">Decided</TableCell>
            <TableCell align="right">Went on first, 95 %</TableCell>
            <TableCell align="right">After any bar</TableCell>
            <TableCell>Against chance</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rates.map(({ kind, n, share, interval, chance, verdict }) => (
            <TableRow key={kind}>
              <TableCell>{RATE_KINDS[kind]}</TableCell>
              <TableCell align="right">{n}</TableCell>
              <TableCell align="right">
                {share === undefined || !interval || n < FEW
                  ? ""
                  : `${percentText(share)} (${percentText(interval[0], 0)} to ${percentText(interval[1], 0)})`}
              </TableCell>
              <TableCell align="right">{chance === undefined ? "" : percentText(chance)}</TableCell>
              <VerdictCell verdict={verdict} />
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}
