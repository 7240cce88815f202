import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { lazy, Suspense } from "react";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { countText } from "#core/marks/wording";
import { asCount } from "../counting/useCounts.ts";
import type { MarkStore } from "./markStore.ts";

/** Loaded when counts are compared. */
const CountCompare = lazy(async () => ({ default: (await import("../counting/CountCompare.tsx")).CountCompare }));

/** What can be done with several marks at once. */
export function SeveralMarks({
  marks,
  market,
  store,
  onCopy,
  onSelect,
}: {
  marks: readonly Mark[];
  market: MarketFacts;
  store: MarkStore;
  onCopy(): void;
  onSelect(ids: string[], add: boolean): void;
}) {
  const locked = marks.every((mark) => mark.locked);
  const hidden = marks.every((mark) => mark.hidden);
  const free = marks.filter((mark) => !mark.locked);
  return (
    <Box
      component="section"
      aria-label="Selected marks"
      sx={{ borderTop: 1, borderColor: "divider", pt: 1.5, mt: 1.5 }}
    >
      <Typography variant="h3">{countText(marks.length, "mark")} selected</Typography>
      <Typography variant="body2" color="text.secondary">
        Arrow up and down move them by a tick, Alt with arrow left and right by a bar.
      </Typography>
      {marks.every((mark) => asCount(mark)) && (
        <Suspense>
          <CountCompare counts={marks.flatMap((mark) => asCount(mark) ?? [])} market={market} />
        </Suspense>
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", ml: -0.75, "& .MuiButton-root": { px: 0.75, py: 0, minWidth: 0 } }}>
        <Button
          variant="text"
          aria-pressed={locked}
          onClick={() => store.set(...marks.map((mark) => ({ ...mark, locked: !locked })))}
          title="K"
        >
          {locked ? "Unlock" : "Lock"}
        </Button>
        <Button
          variant="text"
          aria-pressed={hidden}
          onClick={() => store.set(...marks.map((mark) => ({ ...mark, hidden: !hidden })))}
          title="V"
        >
          {hidden ? "Show" : "Hide"}
        </Button>
        <Button variant="text" onClick={onCopy} title="C">
          Copy
        </Button>
        <Button
          variant="text"
          disabled={free.length === 0}
          title="Delete"
          onClick={() => {
            store.remove(...free.map(({ id }) => id));
            onSelect([], false);
          }}
        >
          Remove
        </Button>
      </Box>
    </Box>
  );
}
