import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import type { StudiesOfSet } from "../../../../server/desk/studies.ts";

const NONE: StudiesOfSet = { chosen: [], looks: [] };
/** Values of the choice that no look can have as its name. */
const [NOTHING, CHARTS] = [" none", " charts"];

interface Props {
  /** "" for those on the charts, or the name of a look. */
  chosen: string | undefined;
  onChoose(chosen: string | undefined): void;
}

/** Which studies are drawn with a chart of an edition. */
export function StudiesChoice({ chosen, onChoose }: Props) {
  const { data: { looks } = NONE } = useQuery<StudiesOfSet>({ queryKey: ["/studies"], staleTime: 0 });
  const value = chosen === undefined ? NOTHING : chosen === "" ? CHARTS : chosen;
  const named = looks.map(({ name }) => name);
  return (
    <TextField
      select
      label="Studies"
      value={value}
      onChange={({ target }) =>
        onChoose(target.value === NOTHING ? undefined : target.value === CHARTS ? "" : target.value)
      }
      sx={{ width: 200, mb: 1 }}
    >
      <MenuItem value={NOTHING}>none</MenuItem>
      <MenuItem value={CHARTS}>as on the charts</MenuItem>
      {[...new Set([...named, ...(chosen ? [chosen] : [])])].map((name) => (
        <MenuItem key={name} value={name}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
