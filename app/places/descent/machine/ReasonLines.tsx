import Typography from "@mui/material/Typography";
import type { MachineBearing } from "#core/finding/bearing";
import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { restsText } from "../bearings/BearingRow.tsx";

/** Why the machine reads a rung as it does: each reason with its price and what on the chart it rests on. */
export function ReasonLines({
  bearing,
  market,
  weights = false,
}: {
  bearing: MachineBearing;
  market: MarketFacts;
  weights?: boolean;
}) {
  return bearing.reasons.map((reason) => {
    const { what, direction, weight, says, price } = reason;
    const rests = restsText(reason, market);
    return (
      <Typography key={what} variant="caption" component="div">
        {direction}
        {weights && `, weight ${weight}`}: {says} {price === undefined ? "" : priceText(price, market)}
        {rests && ` (${rests})`}
      </Typography>
    );
  });
}
