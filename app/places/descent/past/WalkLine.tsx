import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { useNavigation } from "react-router";
import { rungText } from "#core/marks/wording";
import { useCommands } from "../../../parts/keys.ts";
import { momentText } from "../../../parts/times.ts";

interface Props {
  asOf: number;
  present: number;
  /** Zone of the market's clock. */
  zone: string;
  rung: string;
  /** The instant one bar on or back from another. */
  step(from: number, direction: 1 | -1): number;
  /** Puts the desk to another instant; to the present without one. */
  goTo(instant: number | undefined): void;
}

/** Milliseconds between two bars while the past is played. */
const PACE = 700;

/** The line that says the desk stands in the past, and walks it on and back bar by bar. */
export function WalkLine({ asOf, present, zone, rung, step, goTo }: Props) {
  const [playing, setPlaying] = useState(false);
  // A page is on its way while the next key is pressed: each step goes on from where the last one leads, until the page
  // that was asked for has come. What was pressed after a page came, and before it was shown, is still to be asked for.
  const wanted = useRef<{ instant: number; asked: boolean }>(undefined);
  const settled = useNavigation().state === "idle";
  useEffect(() => {
    if (!settled && wanted.current) wanted.current.asked = true;
    else if (wanted.current?.asked) wanted.current = undefined;
  }, [settled, asOf]);
  const walk = (direction: 1 | -1) => {
    const next = step(wanted.current?.instant ?? asOf, direction);
    wanted.current = { instant: next, asked: false };
    if (next >= present) setPlaying(false);
    goTo(next);
  };
  const onWalk = useEffectEvent(walk);
  useEffect(() => {
    if (!playing) return;
    const timer = setInterval(() => onWalk(1), PACE);
    return () => clearInterval(timer);
  }, [playing]);
  useCommands({ stepOn: () => walk(1), stepBack: () => walk(-1) });
  const bar = rungText(rung).toLowerCase();
  return (
    <Box
      role="group"
      aria-label="Walk through the past"
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1.5,
        px: 2,
        py: 0.5,
        bgcolor: "text.primary",
        color: "background.paper",
        "& .MuiButton-root": { color: "inherit" },
      }}
    >
      <Typography variant="body2" role="status" sx={{ fontWeight: 600 }}>
        As of {momentText(asOf, zone)}, {zone}
      </Typography>
      <Button variant="text" onClick={() => walk(-1)} title="Comma key">
        One {bar} back
      </Button>
      <Button variant="text" onClick={() => walk(1)} title="Full stop key">
        One {bar} on
      </Button>
      <Button variant="text" aria-pressed={playing} onClick={() => setPlaying(!playing)}>
        {playing ? "Hold" : "Play"}
      </Button>
      <Typography variant="body2" sx={{ flex: 1 }}>
        Nothing after this moment is on the desk. What you place is kept.
      </Typography>
      <Button variant="text" onClick={() => goTo(undefined)}>
        Return to now
      </Button>
    </Box>
  );
}
