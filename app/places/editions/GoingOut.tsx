import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { useFetcher } from "react-router";
import type { GoesOut, Reading } from "../../../server/database/models.ts";
import { utcText } from "../../parts/times.ts";
import { ReadByColleague } from "./ReadByColleague.tsx";

interface Props {
  reading: Reading | null;
  /** Whether the desk wants a colleague to read it. */
  wanted: boolean;
  goesOut: GoesOut | null;
  /** Market time. */
  now: number;
  version: number;
  /** Whether it is the draft of whoever looks. */
  own: boolean;
  /** Markets of the draft, whose open it can go out at. */
  markets: readonly { id: string; name: string }[];
  fetcher: ReturnType<typeof useFetcher>;
  disabled: boolean;
}

/** A colleague's reading, and when the draft goes out by itself. */
export function GoingOut(props: Props) {
  return (
    <>
      <Later {...props} />
      <ReadByColleague {...props} />
    </>
  );
}

const MINUTE = 60_000;
/** Milliseconds as a date field has them, in UTC. */
const fieldOf = (time: number) => new Date(Math.ceil(time / (15 * MINUTE)) * 15 * MINUTE).toISOString().slice(0, 16);

function Later({ goesOut, now, version, markets, fetcher, disabled }: Props) {
  const [open, setOpen] = useState("");
  if (goesOut)
    return (
      <Box component="section" aria-label="Going out" sx={{ mt: 1.5 }}>
        <Typography variant="body2" role={goesOut.held ? "alert" : "status"}>
          {goesOut.held ? (
            <strong>
              It was held at {utcText(goesOut.at)}. {goesOut.held}
            </strong>
          ) : (
            <>
              Goes out at {utcText(goesOut.at)}
              {goesOut.market && `, when ${nameIn(markets, goesOut.market)} opens`}, as {goesOut.by.name} decided
              {goesOut.version !== version && "; it was changed since, and would be held"}.
            </>
          )}
        </Typography>
        <fetcher.Form method="post">
          <Button type="submit" name="step" value="back to hand" variant="text" disabled={disabled}>
            {goesOut.held ? "Take it back in hand" : "Do not let it go out"}
          </Button>
        </fetcher.Form>
      </Box>
    );
  return (
    <fetcher.Form method="post" aria-label="Later">
      <Box sx={{ display: "grid", gap: 1, mt: 2 }}>
        <TextField select name="open" label="Later" value={open} onChange={({ target }) => setOpen(target.value)}>
          <MenuItem value="">at a time</MenuItem>
          {markets.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              when {name} opens
            </MenuItem>
          ))}
        </TextField>
        {open === "" && (
          <TextField
            name="at"
            type="datetime-local"
            label="Market time, UTC"
            defaultValue={fieldOf(now + 15 * MINUTE)}
            slotProps={{ inputLabel: { shrink: true } }}
          />
        )}
        <Button type="submit" name="step" value="later" variant="outlined" disabled={disabled}>
          Let it go out then
        </Button>
      </Box>
    </fetcher.Form>
  );
}

const nameIn = (markets: Props["markets"], id: string) => markets.find((one) => one.id === id)?.name ?? "its market";
