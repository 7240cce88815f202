import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import { scenarioFigures, type Scenario } from "#core/scenarios/scenario";

const figure = (value: number, decimals: number) => value.toFixed(decimals).replace("-", "\u2212");

/** Risk and reward of a scenario: a table of figures, and a ruler whose parts are as long as they are. */
export function ScenarioRuler({ scenario, market }: { scenario: Scenario; market: MarketFacts }) {
  const { risk, riskPercent, riskPips, targets, blended } = scenarioFigures(scenario, market.pip);
  if (!(risk > 0)) return null;
  const known = targets.filter(({ price }) => Number.isFinite(price));
  const furthest = Math.max(0, ...known.map(({ r }) => r));
  const width = (r: number) => `${(100 * r) / (1 + furthest)}%`;
  return (
    <Box sx={{ mt: 1.5 }}>
      <Table aria-label="Reward to risk" size="small">
        <TableHead>
          <TableRow>
            <TableCell />
            <TableCell align="right">Price</TableCell>
            <TableCell align="right">%</TableCell>
            <TableCell align="right">{market.pipName}</TableCell>
            <TableCell align="right">R</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          <TableRow>
            <TableCell>Stop</TableCell>
            <TableCell align="right">{priceText(scenario.stop, market)}</TableCell>
            <TableCell align="right">{percentText(-riskPercent, 2).replace(" %", "")}</TableCell>
            <TableCell align="right">{figure(-riskPips, 1)}</TableCell>
            <TableCell align="right">{figure(-1, 2)}</TableCell>
          </TableRow>
          {known.map(({ price, percent, pips, r }, i) => (
            <TableRow key={i}>
              <TableCell>Target {i + 1}</TableCell>
              <TableCell align="right">{priceText(price, market)}</TableCell>
              <TableCell align="right">{percentText(percent, 2).replace(" %", "")}</TableCell>
              <TableCell align="right">{figure(pips, 1)}</TableCell>
              <TableCell align="right">{figure(r, 2)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {Number.isFinite(blended) && (
        <>
          <Typography variant="body2" sx={{ mt: 0.75 }}>
            Reward to risk <strong>{figure(blended, 2)} : 1</strong>
          </Typography>
          <Box
            aria-hidden
            sx={{ position: "relative", height: 12, mt: 0.5, borderBottom: "1.5px solid", borderColor: "text.primary" }}
          >
            {[0, 1, ...known.map(({ r }) => 1 + r)].map((at, i) => (
              <Box
                key={i}
                sx={{
                  position: "absolute",
                  bottom: 0,
                  left: width(at),
                  height: i === 1 ? 12 : 7,
                  borderLeft: "1.5px solid",
                  borderColor: "text.primary",
                  ml: "-1px",
                }}
              />
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}
