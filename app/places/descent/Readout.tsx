import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import type { Bar } from "#core/series/series";
import { inHand, mayEndHere, type Placing } from "./kinds.ts";

/** The bar under the crosshair in figures; while a mark is being placed, what to do next; while one is dragged, the rule it breaks. */
export function Readout({ bar, placing, problem, market }: { bar: Bar | undefined; placing: Placing | undefined; problem: string | undefined; market: MarketFacts }) {
  const hint = placing ? hintOf(placing) : problem && `\u00d7 ${problem}`;
  const figures = bar && [
    `O ${priceText(bar.open, market)}`,
    `H ${priceText(bar.high, market)}`,
    `L ${priceText(bar.low, market)}`,
    `C ${priceText(bar.close, market)}`,
    percentText(bar.close / bar.open - 1, 2),
  ];
  return (
    <Box sx={{ position: "absolute", top: 8, left: 12, pointerEvents: "none", bgcolor: "background.default", px: 0.5 }}>
      <Typography variant="body2" role="status">
        {hint}
      </Typography>
      {!hint && <Typography variant="body2">{figures?.join("   ")}</Typography>}
    </Box>
  );
}

function hintOf(placing: Placing): string {
  const end = mayEndHere(placing) ? "Escape ends it here." : "Escape leaves it.";
  return `${inHand(placing.kind)?.next(placing.anchors.length) ?? ""} ${end}`;
}
