import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import { pipDecimals } from "#core/series/tick";
import type { OrderFigures, PriceFigures, WrittenFigures } from "#core/written/figures";

const figure = (value: number, decimals: number) => value.toFixed(decimals).replace("-", "\u2212");

/** Risk and reward: a table of figures for each order, and a ruler whose parts are as long as they are. */
export function Figures({ figures, market }: { figures: WrittenFigures; market: MarketFacts }) {
  const { orders, blended, waitsFor } = figures;
  return (
    <Box sx={{ mt: 1.5 }}>
      {orders.map((order, i) =>
        order ? (
          <OneOrder key={i} order={order} market={market} name={orders.length > 1 ? `Order ${i + 1}` : ""} />
        ) : (
          <Typography key={i} variant="body2" color="text.secondary">
            {waitsFor === undefined
              ? "Its figures come with its entry and its stop."
              : `Its figures come with step ${waitsFor}.`}
          </Typography>
        ),
      )}
      {blended !== undefined && (
        <Typography variant="body2" sx={{ mt: 0.75 }}>
          Reward to risk <strong>{figure(blended, 2)} : 1</strong>
          {waitsFor === undefined ? "" : `, about: its prices come with step ${waitsFor}`}
        </Typography>
      )}
    </Box>
  );
}

function OneOrder({ order, market, name }: { order: OrderFigures; market: MarketFacts; name: string }) {
  const { stop, targets, size, about, entry, neededBy } = order;
  const rows: [string, PriceFigures][] = [
    ["Stop", stop],
    ...targets.map((target, i): [string, PriceFigures] => [`Target ${i + 1}`, target]),
  ];
  const furthest = Math.max(0, ...targets.map(({ r }) => r));
  const width = (r: number) => `${(100 * r) / (1 + furthest)}%`;
  const isKnown = stop.atr !== undefined;
  return (
    <>
      <Table aria-label={`Reward to risk ${name}`.trim()} size="small" sx={{ "& td, & th": { px: 0.5 } }}>
        <TableHead>
          <TableRow>
            <TableCell>
              {name ? `${name}, ` : ""}in at {about ? "about " : ""}
              {priceText(entry, market)}
              {neededBy !== undefined && `, which step ${neededBy} needs`}
            </TableCell>
            <TableCell align="right">%</TableCell>
            <TableCell align="right">{market.pipName}</TableCell>
            {isKnown && <TableCell align="right">ATR</TableCell>}
            <TableCell align="right">R</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(([label, { price, about: isAbout, percent, pips, atr, r }]) => (
            <TableRow key={label}>
              <TableCell>
                {label} {isAbout ? "about " : ""}
                {priceText(price, market)}
              </TableCell>
              <TableCell align="right">{percentText(percent, 2).replace(" %", "")}</TableCell>
              <TableCell align="right">{figure(pips, pipDecimals(market))}</TableCell>
              {isKnown && <TableCell align="right">{figure(atr ?? NaN, 1)}</TableCell>}
              <TableCell align="right">{figure(r, 2)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Box
        aria-hidden
        sx={{ position: "relative", height: 12, mt: 0.5, borderBottom: "1.5px solid", borderColor: "text.primary" }}
      >
        {[0, 1, ...targets.map(({ r }) => 1 + r)].map((at, i) => (
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
      {size !== undefined && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          Size <strong>{figure(size, size >= 100 ? 0 : 2)}</strong> units
        </Typography>
      )}
    </>
  );
}
