import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { STUDIES } from "#core/studies/registry";
import type { Study } from "#core/studies/study";

interface Props {
  onAdd(study: Study): void;
  onLeave(): void;
  onBlur(): void;
}

/** A study is found by typing its name. */
export function AddStudy({ onAdd, onLeave, onBlur }: Props) {
  return (
    <Autocomplete
      openOnFocus
      autoHighlight
      options={STUDIES}
      getOptionKey={({ name }) => name}
      getOptionLabel={({ title }) => title}
      filterOptions={(all, { inputValue }) => found(all, inputValue)}
      noOptionsText="No study is called so."
      onChange={(_event, study) => study && onAdd(study)}
      renderOption={({ key, ...props }, { title, short, says: what }) => (
        <Box component="li" key={key} {...props} sx={{ display: "block !important" }}>
          <Box component="span" sx={{ fontWeight: 600 }}>
            {title}
            {short === title ? "" : ` (${short})`}
          </Box>
          <Typography variant="caption" component="p" color="text.secondary">
            {what}
          </Typography>
        </Box>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          autoFocus
          label="Study"
          placeholder="its name, such as RSI or average"
          onBlur={onBlur}
          onKeyDown={(event) => event.key === "Escape" && onLeave()}
        />
      )}
      sx={{ my: 1 }}
    />
  );
}

/** Studies in whose name or description every word that was typed stands; those that are called so first. */
function found(all: readonly Study[], typed: string): Study[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const has = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  const called = all.filter(({ title, short, name }) => has(`${title} ${short} ${name}`));
  return [...called, ...all.filter((one) => !called.includes(one) && has(`${one.title} ${one.says} ${one.source}`))];
}
