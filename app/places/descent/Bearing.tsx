import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { DIRECTIONS, type BearingProps, type Direction } from "#core/marks/bearing";
import type { Mark } from "#core/marks/kind";
import { dateText } from "../../parts/times.ts";

const TURN: Record<Direction, number> = { up: -40, sideways: 0, down: 40 };

/** Which way a rung is held to go, as a short needle; its tip is the filled half. */
export function Needle({ direction }: { direction: Direction }) {
  return (
    <svg width="18" height="18" viewBox="-9 -9 18 18" role="img" aria-label={`Bearing ${direction}`}>
      <g transform={`rotate(${TURN[direction]})`} stroke="currentColor" strokeWidth="1">
        <path d="M-8 0 L0 -2.2 L0 2.2 Z" fill="none" />
        <path d="M8 0 L0 -2.2 L0 2.2 Z" fill="currentColor" />
      </g>
    </svg>
  );
}

interface Props {
  rung: string;
  bearing: Mark<BearingProps> | undefined;
  setting: boolean;
  onSetting(setting: boolean): void;
  onSet(direction: Direction, reasons: string): void;
}

/** The analyst's own bearing of the rung with its reasons, and the way to say another. */
export function BearingLine({ rung, bearing, setting, onSetting, onSet }: Props) {
  const [direction, setDirection] = useState<Direction>();
  const [reasons, setReasons] = useState<string>();
  const chosen = direction ?? bearing?.props.direction;
  if (!setting)
    return (
      <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        {bearing && <Needle direction={bearing.props.direction} />}
        <Typography variant="body2" sx={{ flex: 1 }} color={bearing ? "text.primary" : "text.secondary"}>
          {bearing ? `${named(bearing.props.direction)} since ${dateText(bearing.anchors[0].time)}${bearing.props.reasons ? `: ${bearing.props.reasons}` : ""}` : `No bearing is set on ${rung}.`}
        </Typography>
        <Button variant="text" onClick={() => onSetting(true)} title="D" sx={{ p: 0, px: 0.75 }}>
          {bearing ? "Change" : "Set"}
        </Button>
      </Box>
    );
  return (
    <Box
      component="form"
      aria-label="Bearing"
      onSubmit={(event) => {
        event.preventDefault();
        if (chosen) onSet(chosen, reasons ?? bearing?.props.reasons ?? "");
        onSetting(false);
      }}
      sx={{ display: "grid", gap: 1, mt: 0.5 }}
    >
      <ToggleButtonGroup exclusive size="small" value={chosen ?? null} onChange={(_event, value: Direction | null) => value && setDirection(value)} aria-label="Direction" fullWidth>
        {DIRECTIONS.map((one) => (
          <ToggleButton key={one} value={one} sx={{ gap: 0.5, textTransform: "none" }}>
            <Needle direction={one} /> {named(one)}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <TextField label="Reasons" multiline maxRows={4} defaultValue={bearing?.props.reasons ?? ""} onChange={(event) => setReasons(event.target.value)} slotProps={{ htmlInput: { maxLength: 500 } }} />
      <Box sx={{ display: "flex", justifyContent: "flex-end" }}>
        <Button variant="text" onClick={() => onSetting(false)}>
          Leave
        </Button>
        <Button type="submit" disabled={!chosen}>
          Set bearing
        </Button>
      </Box>
    </Box>
  );
}

function named(direction: Direction): string {
  return { up: "Up", down: "Down", sideways: "Sideways" }[direction];
}
