import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { equivalentPrice, relationOf, type CopyBy, type CopyOf } from "#core/marks/equivalent";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { countText, priceText } from "#core/marks/wording";
import { fromInput, toInput } from "../../../parts/inputTimes.ts";
import { momentText } from "../../../parts/times.ts";
import { useRelation } from "./relations.ts";

interface Props {
  from: MarketFacts;
  marks: readonly Mark[];
  markets: readonly { id: string; name: string }[];
  /** When the two markets are compared unless another time is chosen. */
  at: number;
  zone: string;
  asOf: number | undefined;
  onCopy(market: string, relation: Omit<CopyOf, "market" | "mark">): void;
  onClose(): void;
}

const sensible = (price: number) => Number(price.toPrecision(7));

/**
 * Carries marks over to another market at equivalent prices, by the ratio or the difference of the two at a stated
 * time.
 */
export function CopyDialog({ from, marks, markets, at: first, zone, asOf, onCopy, onClose }: Props) {
  const [market, setMarket] = useState("");
  const [by, setBy] = useState<CopyBy>("ratio");
  const [at, setAt] = useState(first);
  const related = useRelation(from.id, market || undefined, at, asOf);
  const found = related && "relation" in related ? related.relation : undefined;
  // The route tells of this market first: what is carried over is worth more or less by the other's price.
  const value = found && safely(() => relationOf(found.there, found.here, by));
  return (
    <Dialog open onClose={onClose} aria-labelledby="copy-title" transitionDuration={0}>
      <DialogTitle id="copy-title">Copy {countText(marks.length, "mark")} to another market</DialogTitle>
      <DialogContent sx={{ display: "grid", gap: 2, width: 420 }}>
        <TextField select label="To" value={market} onChange={(event) => setMarket(event.target.value)} sx={{ mt: 1 }}>
          {markets
            .filter(({ id }) => id !== from.id)
            .map(({ id, name }) => (
              <MenuItem key={id} value={id}>
                {name}
              </MenuItem>
            ))}
        </TextField>
        <TextField
          select
          label="Prices are carried by"
          value={by}
          onChange={(event) => setBy(event.target.value as CopyBy)}
        >
          <MenuItem value="ratio">the ratio of the two prices</MenuItem>
          <MenuItem value="difference">the difference of the two prices</MenuItem>
        </TextField>
        <TextField
          type="datetime-local"
          label={`As they stood at (${zone})`}
          value={toInput(at, zone)}
          onChange={(event) => setAt(fromInput(event.target.value, zone) || at)}
        />
        <Typography variant="body2" role="status">
          {related && "sentence" in related && `\u00d7 ${related.sentence}`}
          {found && value === undefined && "\u00d7 A ratio needs prices above zero on both markets."}
          {found &&
            value !== undefined &&
            `${momentText(found.at, zone)}: ${sensible(found.here)} here, ${sensible(found.there)} there. ` +
              `${example(marks[0], from, by, value)}`}
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button variant="text" onClick={onClose}>
          Leave
        </Button>
        <Button
          disabled={value === undefined || !found}
          onClick={() => found && value !== undefined && onCopy(market, { by, at: found.at, value })}
        >
          Copy
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function example(mark: Mark | undefined, from: MarketFacts, by: CopyBy, value: number): string {
  if (!mark) return "";
  const [{ price }] = mark.anchors;
  return `${priceText(price, from)} here becomes ${sensible(equivalentPrice(price, { by, value }))} there.`;
}

function safely(work: () => number): number | undefined {
  try {
    return work();
  } catch {
    return undefined;
  }
}
