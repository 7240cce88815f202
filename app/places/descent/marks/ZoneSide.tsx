import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";

type Side = "demand" | "supply";

interface Props {
  side: Side;
  disabled: boolean;
  onSay(side: Side): void;
}

/** What a zone is: read from its candles until the analyst says otherwise. */
export function ZoneSide({ side, disabled, onSay }: Props) {
  return (
    <ToggleButtonGroup
      exclusive
      fullWidth
      size="small"
      value={side}
      disabled={disabled}
      aria-label="What the zone is"
      onChange={(_event, said: Side | null) => {
        if (said && said !== side) onSay(said);
      }}
      sx={{ mt: 1 }}
    >
      <ToggleButton value="demand" sx={{ textTransform: "none" }}>
        Demand
      </ToggleButton>
      <ToggleButton value="supply" sx={{ textTransform: "none" }}>
        Supply
      </ToggleButton>
    </ToggleButtonGroup>
  );
}
