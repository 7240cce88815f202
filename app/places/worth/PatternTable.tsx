import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { percentText } from "#core/marks/wording";
import { PATTERN_HORIZON, type PatternWorth } from "#core/measure/patternWorth";
import { FEW } from "#core/measure/verdict";
import { PATTERN_FAMILIES } from "#core/patterns/registry";
import { DifferenceCell, VerdictCell } from "./chanceCells.tsx";

/** What became of patterns once they were confirmed, and how many of them shuffled bars hold. */
export function PatternTable({ patterns }: { patterns: readonly PatternWorth[] }) {
  return (
    <>
      <Typography variant="h2" sx={{ mt: 2 }}>
        Patterns
      </Typography>
      <Typography variant="body2" sx={{ mb: 1, maxWidth: "78ch" }}>
        From the close that confirmed it, which came first within {PATTERN_HORIZON} bars: a wick at its target, or a
        close beyond its stop? The same was asked at random bars, with target and stop as far away in ATR: that is
        chance. Shuffled bars are these bars in another order: what is found there is no pattern of the market.
      </Typography>
      <Table size="small" aria-label="Patterns" sx={{ maxWidth: 980 }}>
        <TableHead>
          <TableRow>
            <TableCell>Pattern</TableCell>
            <TableCell align="right">Found</TableCell>
            <TableCell align="right">In shuffled bars</TableCell>
            <TableCell align="right">Decided</TableCell>
            <TableCell align="right">Target first</TableCell>
            <TableCell align="right">At random bars</TableCell>
            <TableCell align="right">Difference, 95 %, in points</TableCell>
            <TableCell>Against chance</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {patterns.map(({ name, found, byChance, n, share, chance, lift, liftInterval, verdict }) => (
            <TableRow key={name}>
              <TableCell>{PATTERN_FAMILIES[name]}</TableCell>
              <TableCell align="right">{found}</TableCell>
              <TableCell align="right">{Math.round(byChance)}</TableCell>
              <TableCell align="right">{n}</TableCell>
              <TableCell align="right">{share === undefined || n < FEW ? "" : percentText(share)}</TableCell>
              <TableCell align="right">{chance.share === undefined ? "" : percentText(chance.share)}</TableCell>
              <DifferenceCell n={n} {...(lift === undefined || !liftInterval ? {} : { lift, within: liftInterval })} />
              <VerdictCell verdict={verdict} />
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}
