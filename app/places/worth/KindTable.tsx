import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { percentText, signedText } from "#core/marks/wording";
import { LEAST } from "#core/measure/grade";
import { FEW } from "#core/measure/verdict";
import type { KindWorth } from "#core/measure/worth";
import { FEATURE_NAMES, KIND_NAMES } from "#core/measure/worthText";
import { DifferenceCell, VerdictCell } from "./chanceCells.tsx";

/** Each kind of finding with how often it held, what chance gives, and what of it told its cases apart. */
export function KindTable({ kinds }: { kinds: readonly KindWorth[] }) {
  return (
    <>
      <Table size="small" aria-label="Findings by kind" sx={{ maxWidth: 980 }}>
        <TableHead>
          <TableRow>
            <TableCell>Kind</TableCell>
            <TableCell align="right">Decided</TableCell>
            <TableCell align="right">Respected</TableCell>
            <TableCell align="right">Random bands</TableCell>
            <TableCell align="right">Difference, 95 %, in points</TableCell>
            <TableCell>Against chance</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {kinds.map(({ kind, n, open, untouched, share, chance, lift, liftInterval, verdict }) => (
            <TableRow key={kind}>
              <TableCell>
                {KIND_NAMES[kind]}
                <Typography variant="caption" color="text.secondary" component="span" sx={{ display: "block" }}>
                  {untouched} not met yet, {open} undecided
                </Typography>
              </TableCell>
              <TableCell align="right">{n}</TableCell>
              <TableCell align="right">{share === undefined || n < FEW ? "" : percentText(share)}</TableCell>
              <TableCell align="right">{chance.share === undefined ? "" : percentText(chance.share)}</TableCell>
              <DifferenceCell n={n} {...(lift === undefined || !liftInterval ? {} : { lift, within: liftInterval })} />
              <VerdictCell verdict={verdict} />
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography variant="body2" component="div" sx={{ my: 1.5, maxWidth: "78ch" }}>
        {whatTold(kinds)}
        {kinds.flatMap(({ kind, weights }) =>
          weights.length === 0 ? (
            []
          ) : (
            <Box key={kind}>
              <strong>{KIND_NAMES[kind]}</strong>:{" "}
              {[...weights]
                .sort((a, b) => Math.abs(b.weight) - Math.abs(a.weight))
                .map(({ feature, weight }) => `${FEATURE_NAMES[feature] ?? feature} ${signedText(weight, 2)}`)
                .join(", ")}
            </Box>
          ),
        )}
      </Typography>
    </>
  );
}

/** Whether anything of a finding told those that held from those that did not. */
function whatTold(kinds: readonly KindWorth[]): string {
  if (kinds.some(({ weights }) => weights.length > 0))
    return (
      "What told those that held from those that did not, on cases it had not seen: log odds beyond those of a " +
      "random band, for one standard deviation more."
    );
  if (kinds.every(({ n }) => n < LEAST))
    return `There are too few cases to say what tells those that hold: ${LEAST} of a kind are needed.`;
  return (
    "Nothing told those that held from those that did not: width, distance, speed of leaving, the move away, place, " +
    "trend, a break left behind, volatility and volume were tried on cases they had not seen, and none of them helped."
  );
}
