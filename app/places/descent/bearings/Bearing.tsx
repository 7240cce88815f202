import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { lazy, Suspense } from "react";
import type { BearingProps, Direction } from "#core/marks/bearing";
import type { Mark } from "#core/marks/kind";
import { dateText } from "../../../parts/times.ts";
import { named, Needle } from "../rungs/Needle.tsx";

const BearingForm = lazy(async () => ({ default: (await import("./BearingForm.tsx")).BearingForm }));

interface Props {
  rung: string;
  bearing: Mark<BearingProps> | undefined;
  setting: boolean;
  onSetting(setting: boolean): void;
  onSet(direction: Direction, reasons: string): void;
}

/** The analyst's own bearing of the rung with its reasons, and the way to say another. */
export function BearingLine({ rung, bearing, setting, onSetting, onSet }: Props) {
  if (setting)
    return (
      <Suspense>
        <BearingForm bearing={bearing?.props} onClose={() => onSetting(false)} onSet={onSet} />
      </Suspense>
    );
  const said =
    bearing &&
    `${named(bearing.props.direction)} since ` +
      `${dateText(bearing.anchors[0].time)}${bearing.props.reasons ? `: ${bearing.props.reasons}` : ""}`;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
      {bearing && <Needle direction={bearing.props.direction} />}
      <Typography variant="body2" sx={{ flex: 1 }} color={bearing ? "text.primary" : "text.secondary"}>
        {said ?? `No bearing is set on ${rung}.`}
      </Typography>
      <Button variant="text" onClick={() => onSetting(true)} title="D" sx={{ p: 0, px: 0.75 }}>
        {bearing ? "Change" : "Set"}
      </Button>
    </Box>
  );
}
