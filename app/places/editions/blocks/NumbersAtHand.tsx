import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { DragEvent } from "react";
import { CHIP_ATTRIBUTES, type ChipChoice } from "./chipChoice.ts";

/** The desk's numbers of a market, to be dragged into words; by keyboard they are asked for with a slash. */
export function NumbersAtHand({ market, chips }: { market: string; chips: readonly ChipChoice[] }) {
  if (chips.length === 0) return null;
  return (
    <Box component="details" sx={{ my: 1 }}>
      <Typography component="summary" variant="body2" sx={{ cursor: "pointer" }}>
        Numbers of {market}, to be dragged into words
      </Typography>
      <Box
        component="ul"
        tabIndex={0}
        aria-label={`Numbers of ${market}`}

        sx={{ listStyle: "none", p: 0, my: 0.5, columnWidth: 260, maxHeight: 260, overflowY: "auto" }}
      >
        {chips.map((chip) => (
          <Box
            component="li"
            key={`${chip.of} ${chip.id} ${chip.part}`}
            draggable
            onDragStart={(event: DragEvent) => takeAlong(event, chip)}
            sx={{ cursor: "grab", fontSize: "0.85rem", py: 0.25, breakInside: "avoid" }}
          >
            <strong>{chip.text}</strong> {chip.name.replace(`${market}: `, "")}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** As an editor takes a number in; elsewhere it is dropped as its figure. */
function takeAlong({ dataTransfer }: DragEvent, chip: ChipChoice): void {
  const span = document.createElement("span");
  for (const name of CHIP_ATTRIBUTES) span.setAttribute(`data-${name}`, chip[name]);
  span.textContent = chip.text;
  dataTransfer.effectAllowed = "copy";
  dataTransfer.setData("text/html", span.outerHTML);
  dataTransfer.setData("text/plain", chip.text);
}
