import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { countText, priceText, rungText } from "#core/marks/wording";
import type { Round } from "./useRound.ts";

/** What a round came to, as it is proposed: what is watched and planned, with the area that is near. */
export function summaryText({ rows, done }: Pick<Round, "rows" | "done">): string {
  const lines = rows.flatMap((row) => {
    if (!row.verdict || row.verdict.verdict === "nothing") return [];
    const area = row.standing?.around[0];
    const near = area ? ` Nearest area ${priceText(area.bottom, row)} to ${priceText(area.top, row)}.` : "";
    return [
      `${row.name}: ${row.verdict.verdict} on ` +
        `${rungText(row.verdict.rung)}${row.verdict.remark ? `, ${row.verdict.remark}` : ""}.${near}`,
    ];
  });
  const left = done.of - done.looked;
  return [...lines, left > 0 ? `Not looked at: ${countText(left, "stop")}.` : ""].filter(Boolean).join("\n");
}

/** The end of a round: its summary, to be changed and kept. */
export function EndOfRound({ round, onLeave }: { round: Round; onLeave(): void }) {
  const [text, setText] = useState(() => summaryText(round));
  const { looked, of } = round.done;
  return (
    <Box
      component="section"
      aria-label="End of the round"
      sx={{ borderTop: "1.5px solid", borderBottom: 1, borderColor: "text.primary", py: 1.25, mb: 1.5, maxWidth: 760 }}
    >
      <Typography variant="h2">What to look out for</Typography>
      <Typography variant="body2" color="text.secondary">
        {looked} of {countText(of, "stop")} looked at. The summary is kept with the round.
      </Typography>
      <TextField
        multiline
        minRows={3}
        maxRows={10}
        label="Summary"
        value={text}
        onChange={(event) => setText(event.target.value.slice(0, 4000))}
        sx={{ my: 1 }}
        autoFocus
      />
      <Box sx={{ display: "flex", gap: 1 }}>
        <Button
          variant="contained"
          onClick={() => {
            round.end(text);
            onLeave();
          }}
        >
          End the round
        </Button>
        <Button onClick={onLeave}>Go on with it</Button>
      </Box>
    </Box>
  );
}
