import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { READY, type Filled } from "#core/written/ready";
import type { ReadyGround } from "#core/written/ready/ground";
import type { OwnSentence } from "../../../../server/desk/sentences.ts";

interface Props {
  ground: ReadyGround;
  own: readonly OwnSentence[];
  onTake(filled: Filled): void;
  onTakeOwn(sentence: OwnSentence): void;
  onDrop(id: string): void;
}

/** Sentences to begin with, filled from what the rung shows; the number of each is its key while the list has focus. */
export function ReadyMade({ ground, own, onTake, onTakeOwn, onDrop }: Props) {
  const [missing, setMissing] = useState<string>();
  const take = (i: number) => {
    const filled = READY[i].fill(ground);
    if (typeof filled === "string") setMissing(`${READY[i].title}: ${filled}`);
    else onTake(filled);
  };
  return (
    <Box
      role="group"
      aria-label="Ready-made sentences"
      onKeyDown={(event) => {
        const i = Number(event.key) - 1;
        if (!READY[i] || event.ctrlKey || event.altKey || event.metaKey) return;
        event.stopPropagation();
        // The focus goes on to the title: the digit would be typed there.
        event.preventDefault();
        take(i);
      }}
      sx={{ mt: 1 }}
    >
      {READY.map(({ name, title, says }, i) => (
        <Box
          key={name}
          component={ButtonBase}
          disableRipple
          autoFocus={i === 0}
          onClick={() => take(i)}
          sx={{
            display: "grid",
            gridTemplateColumns: "16px minmax(0, 1fr)",
            columnGap: 0.75,
            width: "100%",
            py: 0.25,
            font: "inherit",
            fontSize: "0.9rem",
            textAlign: "left",
          }}
        >
          <Box component="kbd" sx={{ font: "inherit", fontWeight: 600 }}>
            {i < 9 ? i + 1 : ""}
          </Box>
          <span>
            {title}{" "}
            <Box component="span" sx={{ color: "text.secondary", fontSize: "0.82rem" }}>
              {says}
            </Box>
          </span>
        </Box>
      ))}
      {own.map((sentence) => (
        <Box key={sentence.id} sx={{ display: "flex", justifyContent: "space-between", alignItems: "center" }}>
          <Button variant="text" sx={{ px: 0 }} onClick={() => onTakeOwn(sentence)}>
            {sentence.name}
          </Button>
          <Button variant="text" onClick={() => onDrop(sentence.id)} aria-label={`Let go of ${sentence.name}`}>
            Let go
          </Button>
        </Box>
      ))}
      {missing && (
        <Typography variant="body2" role="alert" sx={{ fontWeight: 600, mt: 0.5 }}>
          {missing}
        </Typography>
      )}
    </Box>
  );
}
