import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { atr } from "#core/studies/atr";
import { levelName, levelsOf } from "#core/marks/levels";
import type { Life, Mark, MarketFacts } from "#core/marks/kind";
import { percentText, priceText, rungText } from "#core/marks/wording";
import type { Series } from "#core/series/series";
import { pipText } from "../../../../chart/measure.ts";

interface Props {
  market: MarketFacts;
  series: Series;
  marks: readonly { mark: Mark; life: Life }[];
  selected: readonly string[];
  onSelect(mark: string): void;
  /** Address of what is seen, in a format. */
  address(format: string): string;
  onClose(): void;
}

const FORMATS = ["SVG", "PNG", "CSV", "JSON"];

/** The row nearest to price is in sight when the table opens; far targets stand above and below. */
function bringIntoView(row: HTMLTableRowElement | null): void {
  row?.scrollIntoView({ block: "center" });
}

/** The prices of everything on the chart, highest first, with their distance from the last one; and the ways out. */
export function LevelsBelow({ market, series, marks, selected, onSelect, address, onClose }: Props) {
  if (series.length === 0) return null;
  const close = series.close[series.length - 1];
  const range = atr(series)[series.length - 1];
  const price = (value: number) => priceText(value, market);
  const lines = levelsOf(marks, close);
  const nearest = lines.reduce(
    (best, line, i) => (Math.abs(line.distance) < Math.abs(lines[best].distance) ? i : best),
    0,
  );
  return (
    <Box
      component="section"
      aria-label="Table of levels"
      sx={{
        height: 230,
        flexShrink: 0,
        overflowY: "auto",
        borderTop: "1.5px solid",
        borderColor: "text.primary",
        bgcolor: "background.paper",
      }}
    >
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1, px: 1.5, pt: 0.75 }}>
        <Typography variant="h3" component="h2">
          Levels
        </Typography>
        <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
          {lines.length} from {price(close)}
        </Typography>
        <Typography variant="body2">This view as</Typography>
        {FORMATS.map((format) => (
          <Button
            key={format}
            variant="text"
            onClick={() => {
              window.location.assign(address(format.toLowerCase()));
            }}
          >
            {format}
          </Button>
        ))}
        <Button variant="text" onClick={onClose} title="T">
          Close
        </Button>
      </Box>
      <Table size="small" stickyHeader aria-label="Levels on the chart">
        <TableHead>
          <TableRow>
            <TableCell align="right">Price</TableCell>
            <TableCell>What it is</TableCell>
            <TableCell>Rung</TableCell>
            <TableCell>State</TableCell>
            <TableCell align="right">Away</TableCell>
            <TableCell align="right">ATR</TableCell>
            <TableCell align="right">{market.pipName}</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {lines.map(({ bottom, top, role, rung, status, distance, mark, ...named }, i) => (
            <TableRow
              key={i}
              ref={i === nearest ? bringIntoView : undefined}
              hover
              selected={selected.includes(mark)}
              onClick={() => onSelect(mark)}
              sx={{ cursor: "pointer" }}
            >
              <TableCell align="right" sx={{ whiteSpace: "nowrap" }}>
                {bottom === top ? price(top) : `${price(bottom)} to ${price(top)}`}
              </TableCell>
              <TableCell>{role === "kill" ? `\u00d7 ends "${named.label}"` : levelName(named, market)}</TableCell>
              <TableCell>{rungText(rung)}</TableCell>
              <TableCell>{status}</TableCell>
              <TableCell align="right">{percentText(distance, 2)}</TableCell>
              <TableCell align="right">
                {range > 0 ? ((distance * close) / range).toFixed(1).replace("-", "\u2212") : ""}
              </TableCell>
              <TableCell align="right">{pipText((distance * close) / market.pip)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
