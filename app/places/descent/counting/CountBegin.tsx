import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { DEGREES, type Degree } from "#core/waves/degrees";
import { PATTERN_NAMES, PATTERNS, type Pattern } from "#core/waves/patterns";
import type { CountChoice, Counts } from "./useCounts.ts";

/** What the next count is labelled as; while one is being labelled, a change begins it anew. */
export function CountBegin({ counts, onChange }: { counts: Counts; onChange(choice: CountChoice): void }) {
  const { choice, choose } = counts;
  const change = (part: Partial<CountChoice>) => {
    choose(part);
    onChange({ ...choice, ...part });
  };
  return (
    <Box
      component="section"
      aria-label="Label as"
      sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.25, mb: 1.5 }}
    >
      <TextField
        select
        label="Label as"
        value={choice.pattern}
        onChange={(event) => change({ pattern: event.target.value as Pattern })}
      >
        {PATTERN_NAMES.map((name) => (
          <MenuItem key={name} value={name}>
            {PATTERNS[name].title}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label="Degree"
        value={choice.degree}
        onChange={(event) => change({ degree: event.target.value as Degree })}
      >
        {DEGREES.map((name) => (
          <MenuItem key={name} value={name}>
            {name}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}
