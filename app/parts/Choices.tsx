import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import FormGroup from "@mui/material/FormGroup";
import FormLabel from "@mui/material/FormLabel";

interface Props {
  name: string;
  title: string;
  of: [value: string, label: string][];
  chosen: readonly string[];
}

/** Any of some things, as boxes under each other: what is ticked is sent under one name. */
export function Choices({ name, title, of, chosen }: Props) {
  return (
    <Box component="fieldset" sx={{ border: 0, m: 0, p: 0 }}>
      <FormLabel component="legend">{title}</FormLabel>
      <FormGroup>
        {of.map(([value, label]) => (
          <FormControlLabel
            key={value}
            label={label}
            control={<Checkbox size="small" name={name} value={value} defaultChecked={chosen.includes(value)} />}
          />
        ))}
      </FormGroup>
    </Box>
  );
}
