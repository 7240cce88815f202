import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Studies } from "./useStudies.ts";

/** Looks: studies under a name of the analyst's own, put on the charts in one step. */
export function LookFields({ studies }: { studies: Studies }) {
  const { looks, chosen, change, keepLook, dropLook } = studies;
  const [name, setName] = useState<string>();
  if (looks.length === 0 && chosen.length === 0) return null;
  const keep = () => {
    if (name?.trim()) void keepLook(name.trim());
    setName(undefined);
  };
  return (
    <Box sx={{ mt: 1 }}>
      {looks.length > 0 && (
        <Box component="ul" aria-label="Looks" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {looks.map((look) => (
            <Box component="li" key={look.name} sx={{ display: "flex", alignItems: "baseline", gap: 1 }}>
              <Box
                component={ButtonBase}
                disableRipple
                onClick={() => change(look.studies)}
                title="Put these studies on the charts"
                sx={{ font: "inherit", fontSize: "0.9rem", minHeight: 24, flex: 1, justifyContent: "flex-start" }}
              >
                {look.name}
                <Typography component="span" variant="caption" color="text.secondary" sx={{ ml: 1 }}>
                  look, {look.studies.length}
                </Typography>
              </Box>
              <Button
                variant="text"
                sx={{ p: 0, minWidth: 24, minHeight: 24 }}
                aria-label={`Let go of the look ${look.name}`}
                onClick={() => void dropLook(look.name)}
              >
                {"\u00d7"}
              </Button>
            </Box>
          ))}
        </Box>
      )}
      {chosen.length > 0 &&
        (name === undefined ? (
          <Button variant="text" sx={{ p: 0, minHeight: 24 }} onClick={() => setName("")}>
            Keep these as a look
          </Button>
        ) : (
          <TextField
            autoFocus
            label="Name of the look"
            value={name}
            onChange={({ target }) => setName(target.value)}
            onBlur={() => setName(undefined)}
            onKeyDown={(event) => {
              if (event.key === "Enter") keep();
              if (event.key === "Escape") setName(undefined);
            }}
            slotProps={{ htmlInput: { maxLength: 60 } }}
          />
        ))}
    </Box>
  );
}
