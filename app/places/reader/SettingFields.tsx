import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import NativeSelect from "@mui/material/NativeSelect";
import Typography from "@mui/material/Typography";
import type { ReaderChoices } from "#core/readers/choices";

/** In which zone times are shown, and how large the type is. */
export function ReadingFields({ choices, zones }: { choices: ReaderChoices; zones: readonly string[] }) {
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 3, alignItems: "center" }}>
      <label>
        Times in{" "}
        <NativeSelect name="zone" defaultValue={choices.zone} sx={{ ml: 1 }}>
          {zones.map((zone) => (
            <option key={zone} value={zone}>
              {zone}
            </option>
          ))}
        </NativeSelect>
      </label>
      <FormControlLabel
        control={<Checkbox size="small" name="larger" value="yes" defaultChecked={choices.larger} />}
        label="Larger type"
      />
    </Box>
  );
}

const ENDED = {
  failed: "Mail to you came back, so none is sent. Choose it again once your address takes mail.",
  complained: "Your mail house told us that you do not want our mail, so none is sent until you choose it again.",
} as const;

/** Whether mail comes, and the week's. */
export function WayFields({ choices: { mail, digest, ended } }: { choices: ReaderChoices }) {
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3 }}>
      {ended && !mail && (
        <Typography role="note" sx={{ width: "100%", fontWeight: 600 }}>
          {ENDED[ended]}
        </Typography>
      )}
      <FormControlLabel
        control={<Checkbox size="small" name="mail" value="yes" defaultChecked={mail} />}
        label="By mail"
      />
      <FormControlLabel
        control={<Checkbox size="small" name="digest" value="yes" defaultChecked={digest} />}
        label="The week in one mail, on Sundays"
      />
    </Box>
  );
}

const HOURS = Array.from({ length: 24 }, (_, hour) => hour);
const clock = (hour: number) => `${String(hour).padStart(2, "0")}:00`;

/** Corrections, and hours in which nothing is sent. */
export function QuietFields({ choices: { corrections, quiet } }: { choices: ReaderChoices }) {
  const hourField = (name: "from" | "to", value: number) => (
    <NativeSelect name={name} defaultValue={value} inputProps={{ "aria-label": `Quiet ${name}` }}>
      {HOURS.map((hour) => (
        <option key={hour} value={hour}>
          {clock(hour)}
        </option>
      ))}
    </NativeSelect>
  );
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3, alignItems: "center", mt: 1 }}>
      <FormControlLabel
        control={<Checkbox size="small" name="corrections" value="yes" defaultChecked={corrections} />}
        label="Corrections, whatever they are of"
      />
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <FormControlLabel
          control={<Checkbox size="small" name="isQuiet" value="yes" defaultChecked={quiet !== null} />}
          label="Nothing between"
          sx={{ mr: 0 }}
        />
        {hourField("from", quiet?.from ?? 22)} and {hourField("to", quiet?.to ?? 7)}
      </Box>
    </Box>
  );
}
