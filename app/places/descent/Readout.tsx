import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { percentText, priceText } from "#core/marks/wording";
import type { Bar } from "#core/series/series";
import type { Placing } from "./Workspace.tsx";

/** The bar under the crosshair in figures; while a mark is being placed, what to do next. */
export function Readout({ bar, placing, market }: { bar: Bar | undefined; placing: Placing | undefined; market: MarketFacts }) {
  const hint = placing && hintOf(placing);
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

function hintOf({ kind, anchors }: Placing): string {
  const end = anchors.length >= kindOf({ kind }).anchors.least && kindOf({ kind }).anchors.most > 2 ? " Escape ends the count here." : " Escape leaves it.";
  switch (kind) {
    case "level":
      return `Level: click its price.${end}`;
    case "zone":
      return `Zone: click the base price left from.${end}`;
    case "retracement":
      return `Retracement: click the ${anchors.length === 0 ? "start" : "end"} of the leg.${end}`;
    default:
      return `Count: click the ${anchors.length === 0 ? "start of wave 1" : `end of wave ${anchors.length}`}.${end}`;
  }
}
