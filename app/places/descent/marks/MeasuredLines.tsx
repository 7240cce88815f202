import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { MeasuredLine } from "#core/marks/measuring/lines";
import type { MarketFacts } from "#core/marks/kind";
import { countText, percentText, pipsText, priceText } from "#core/marks/wording";

interface Props {
  lines: readonly MeasuredLine[];
  /** The last close, and the price that negates them, where there is one. */
  close: number;
  wrong: number | undefined;
  /** ATR(14) of the chart's rung; 0 while it is not known. */
  atr: number;
  market: MarketFacts;
  /** How a bar's time is written. */
  when(time: number): string;
}

/** Every line of a measuring mark: its price, how it stands since when, and how far it is from here. */
export function MeasuredLines({ lines, close, wrong, atr, market, when }: Props) {
  return (
    <Box component="table" sx={{ width: "100%", borderCollapse: "collapse", mt: 1, fontSize: "0.875rem" }}>
      <Box component="caption" sx={{ textAlign: "left", typography: "caption", color: "text.secondary" }}>
        From {priceText(close, market)}, the last close
      </Box>
      <tbody>
        {lines.map((line) => (
          <Box component="tr" key={line.name} sx={{ borderTop: 1, borderColor: "divider" }}>
            <Box component="th" scope="row" sx={{ textAlign: "left", fontWeight: 600, py: 0.5, verticalAlign: "top" }}>
              {line.name}
            </Box>
            <Box component="td" sx={{ textAlign: "right", py: 0.5 }}>
              {line.price !== undefined && priceText(line.price, market)}
              {line.ahead !== undefined && aheadText(line.ahead)}
              <Typography variant="caption" component="div" color="text.secondary">
                {[stateText(line, when), distanceText(line, close, wrong, atr, market)].filter(Boolean).join(", ")}
              </Typography>
            </Box>
          </Box>
        ))}
      </tbody>
    </Box>
  );
}

const stateText = ({ state, at }: MeasuredLine, when: Props["when"]) =>
  at === undefined ? state : `${state} ${when(at)}`;

const aheadText = (ahead: number) =>
  ahead > 0 ? `in ${countText(ahead, "bar")}` : ahead === 0 ? "on this bar" : `${countText(-ahead, "bar")} ago`;

/** How far a price is from here: in percent, in the unit of the market, in ATR, and in R. */
function distanceText(
  { price, state }: MeasuredLine,
  close: number,
  wrong: number | undefined,
  atr: number,
  market: MarketFacts,
): string {
  if (price === undefined || state === "met" || state === "negated" || close === 0) return "";
  const move = price - close;
  const risk = wrong === undefined ? 0 : close - wrong;
  const signed = (text: string) => (move > 0 ? `+${text}` : text);
  return [
    signed(percentText(move / Math.abs(close), 2)),
    pipsText(move, market),
    ...(atr > 0 ? [`${(Math.abs(move) / atr).toFixed(1)} ATR`] : []),
    // From here on towards it, with the stop where the mark is wrong.
    ...(risk * move > 0 ? [`${(move / risk).toFixed(1)} R`] : []),
  ].join(", ");
}
