import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { SPEEDS } from "#contracts/speeds";
import { useMarketClock, type Clock } from "./live.ts";
import { postJson } from "./post.ts";
import { momentText, utcText } from "./times.ts";

const NAMES: Record<(typeof SPEEDS)[number], string> = { 0: "feed stands", 1: "1 min/s", 10: "10 min/s", 60: "1 h/s" };
const LEAPS = [
  { minutes: 60, name: "+1 h" },
  { minutes: 1440, name: "+1 day" },
];

/** The market's clock and, where there is one, the simulated feed's speed and leaps. */
export function FeedControl({ clock: initial }: { clock: Clock }) {
  const clock = useMarketClock(initial);
  const [busy, setBusy] = useState(false);
  const ask = async (wish: object) => {
    setBusy(true);
    await postJson("/feed", wish);
    setBusy(false);
  };
  const [weekday, ...rest] = momentText(clock.now, "utc").split(" ");
  const speed = SPEEDS.find((one) => one === clock.speed) ?? 0;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
      <Typography
        variant="body2"
        component="time"
        dateTime={new Date(clock.now).toISOString()}
        title={utcText(clock.now)}
        sx={{ whiteSpace: "nowrap", fontSize: { xs: "0.8rem", md: "0.875rem" } }}
      >
        <Box component="span" sx={{ display: { xs: "none", md: "inline" } }}>
          {weekday}{" "}
        </Box>
        {rest.join(" ").replace(/ \d{4},/, ",")} UTC
      </Typography>
      {clock.simulated && (
        <Box sx={{ display: { xs: "none", md: "flex" }, alignItems: "center", gap: 1 }}>
          <Select
            variant="standard"
            disableUnderline
            value={speed}
            onChange={(event) => void ask({ speed: Number(event.target.value) })}
            inputProps={{ "aria-label": "Speed of the simulated feed" }}
            sx={{ fontSize: "0.875rem" }}
          >
            {SPEEDS.map((one) => (
              <MenuItem key={one} value={one}>
                {NAMES[one]}
              </MenuItem>
            ))}
          </Select>
          {LEAPS.map(({ minutes, name }) => (
            <Button
              key={name}
              disabled={busy}
              onClick={() => void ask({ advance: minutes })}
              title={`Let the simulated feed go on by ${name.slice(1)}`}
            >
              {name}
            </Button>
          ))}
        </Box>
      )}
    </Box>
  );
}
