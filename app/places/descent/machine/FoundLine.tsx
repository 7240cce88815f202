import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Found } from "#core/finding/found";
import { movedAnchors } from "#core/marks/foundFrom";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { priceText, rungText } from "#core/marks/wording";
import { inHand } from "../marks/kinds.ts";

interface Props {
  mark: Mark;
  /** What the machine found where the mark was drawn by hand. */
  behind: Found | undefined;
  market: MarketFacts;
  onChange(mark: Mark): void;
}

/**
 * Where the machine found the same, and where its edges are when the analyst's are others; the analyst's stand until
 * they are given up.
 */
export function FoundLine({ mark, behind, market, onChange }: Props) {
  const lineage = mark.found?.lineage ?? behind?.lineage ?? [];
  const anchors = mark.found?.anchors ?? behind?.anchors ?? [];
  const moved = mark.found
    ? movedAnchors(mark)
    : movedAnchors({ anchors: mark.anchors, found: { keys: [], anchors, lineage } });
  return (
    <Box sx={{ mt: 0.5 }}>
      <Typography variant="caption" component="p" color="text.secondary">
        {mark.found ? "Taken over" : "The machine found it too"}.{" "}
        {lineage.map(({ rung, name }) => `${rungText(rung)}: ${name}`).join("; ")}
      </Typography>
      {moved.map(({ index, machine, own }) => (
        <Typography key={index} variant="caption" component="p">
          {inHand(mark.kind)?.anchorName(index) ?? "Price"}: yours {priceText(own, market)}, the machine{"\u2019"}s{" "}
          {priceText(machine, market)}
        </Typography>
      ))}
      {moved.length > 0 && !mark.locked && (
        <Button
          variant="text"
          sx={{ px: 0.75, ml: -0.75, py: 0, minHeight: 24 }}
          onClick={() => onChange({ ...mark, anchors: anchors.map(({ time, price }) => ({ time, price })) })}
        >
          Take the machine{"\u2019"}s
        </Button>
      )}
    </Box>
  );
}
