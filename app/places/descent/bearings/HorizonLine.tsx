import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { HORIZONS, horizonViews, type Horizons, type HorizonView } from "#core/finding/horizon";
import type { Direction } from "#core/marks/bearing";
import { rungText } from "#core/marks/wording";
import { failureText, postJson } from "../../../parts/post.ts";

interface Props {
  horizons: Horizons;
  bearings: readonly { rung: string; direction: Direction }[];
  onHorizons(horizons: Horizons): void;
}

/**
 * "Long up, medium down, short up": the view by horizon as the outlook will have it; a press opens which rungs speak
 * for each.
 */
export function HorizonLine({ horizons, bearings, onHorizons }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [trouble, setTrouble] = useState("");
  const views = horizonViews(horizons, bearings);
  const choose = async (next: Horizons) => {
    onHorizons(next);
    const posted = await postJson<Horizons>("/horizons", next);
    setTrouble(posted.ok ? "" : failureText(posted.failure));
  };
  return (
    <>
      <Button
        variant="text"
        onClick={(event) => setAnchor(event.currentTarget)}
        title="View by horizon: which rungs speak for each"
        sx={{ py: 0, px: 0.5, minHeight: 24, fontWeight: 400, whiteSpace: "nowrap" }}
      >
        {views.length > 0 ? horizonText(views) : "Horizons"}
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
      >
        <Box component="section" aria-label="View by horizon" sx={{ p: 2, width: 320 }}>
          <Typography variant="body2" sx={{ mb: 1 }}>
            Which rungs speak for each horizon; more than one go by the majority. The outlook says it so.
          </Typography>
          {HORIZONS.map((horizon) => (
            <TextField
              key={horizon}
              select
              label={`${horizon[0].toUpperCase()}${horizon.slice(1)}`}
              value={horizons[horizon]}
              onChange={(event) => void choose({ ...horizons, [horizon]: event.target.value as unknown as string[] })}
              slotProps={{
                select: { multiple: true, renderValue: (value) => (value as string[]).map(rungText).join(", ") },
              }}
              sx={{ mb: 1 }}
            >
              {bearings.map(({ rung }) => (
                <MenuItem key={rung} value={rung}>
                  {rungText(rung)}
                </MenuItem>
              ))}
            </TextField>
          ))}
          {trouble && <Typography role="alert">{trouble}</Typography>}
        </Box>
      </Popover>
    </>
  );
}

/** "Long up, medium down, short up". */
export function horizonText(views: readonly HorizonView[]): string {
  const text = views.map(({ horizon, direction }) => `${horizon} ${direction}`).join(", ");
  return `${text[0].toUpperCase()}${text.slice(1)}`;
}
