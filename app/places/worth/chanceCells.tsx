import TableCell from "@mui/material/TableCell";
import { signedText } from "#core/marks/wording";
import { FEW, type Verdict } from "#core/measure/verdict";
import { VERDICTS } from "#core/measure/worthText";
import type { Interval } from "#core/statistics/intervals";

const points = (share: number) => signedText(100 * share);

/** A difference from chance with its interval, in points; nothing of few cases. */
export function DifferenceCell({ n, lift, within }: { n: number; lift?: number; within?: Interval }) {
  return (
    <TableCell align="right">
      {lift === undefined || !within || n < FEW ? "" : `${points(lift)} (${points(within[0])} to ${points(within[1])})`}
    </TableCell>
  );
}

/** Whether something fared better or worse than chance; bold where it did. */
export function VerdictCell({ verdict }: { verdict: Verdict }) {
  return (
    <TableCell sx={{ fontWeight: verdict === "better" || verdict === "worse" ? 600 : 400 }}>
      {VERDICTS[verdict]}
    </TableCell>
  );
}
