import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import type { MarketFacts } from "#core/marks/kind";
import { priceText, rungText } from "#core/marks/wording";
import { AlertChoices } from "../../alerts/AlertChoices.tsx";

interface Props {
  market: MarketFacts;
  rung: string;
  /** Where the chart was clicked. */
  price: number;
  atr: number;
  onClose(): void;
}

/** An alert at a price of the chart, without a mark there. */
export function AlertDialog({ market, rung, price, atr, onClose }: Props) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="alert-at" transitionDuration={0}>
      <DialogTitle id="alert-at" component="h2" variant="h2">
        {market.name}, {rungText(rung).toLowerCase()}: alert at {priceText(price, market)}
      </DialogTitle>
      <DialogContent sx={{ width: 380, maxWidth: "100%" }}>
        <AlertChoices market={market} rung={rung} areas={[]} at={price} atr={atr} onLeave={onClose} />
      </DialogContent>
    </Dialog>
  );
}
