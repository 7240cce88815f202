import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useState } from "react";
import { DIRECTIONS, type BearingProps, type Direction } from "#core/marks/bearing";
import { focusChart } from "../../../parts/focusChart.ts";
import { named, Needle } from "../rungs/Needle.tsx";

interface Props {
  bearing: BearingProps | undefined;
  onClose(): void;
  onSet(direction: Direction, reasons: string): void;
}

/** Says which way a rung is held to go, and why. */
export function BearingForm({ bearing, onClose, onSet }: Props) {
  const [direction, setDirection] = useState<Direction>();
  const [reasons, setReasons] = useState<string>();
  const chosen = direction ?? bearing?.direction;
  const leave = () => {
    onClose();
    focusChart();
  };
  return (
    <Box
      component="form"
      aria-label="Bearing"
      onSubmit={(event) => {
        event.preventDefault();
        if (chosen) onSet(chosen, reasons ?? bearing?.reasons ?? "");
        leave();
      }}
      onKeyDown={({ key }) => {
        if (key === "Escape") leave();
      }}
      sx={{ display: "grid", gap: 1, mt: 0.5 }}
    >
      <ToggleButtonGroup
        exclusive
        size="small"
        value={chosen ?? null}
        onChange={(_event, value: Direction | null) => value && setDirection(value)}
        aria-label="Direction"
        fullWidth
      >
        {DIRECTIONS.map((one) => (
          <ToggleButton
            key={one}
            value={one}
            autoFocus={one === (bearing?.direction ?? DIRECTIONS[0])}
            sx={{ gap: 0.5, textTransform: "none" }}
          >
            <Needle direction={one} /> {named(one)}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <TextField
        label="Reasons"
        multiline
        maxRows={4}
        defaultValue={bearing?.reasons ?? ""}
        onChange={(event) => setReasons(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 500 } }}
      />
      <Box sx={{ display: "flex", justifyContent: "flex-end" }}>
        <Button variant="text" onClick={leave}>
          Leave
        </Button>
        <Button type="submit" disabled={!chosen}>
          Set bearing
        </Button>
      </Box>
    </Box>
  );
}
