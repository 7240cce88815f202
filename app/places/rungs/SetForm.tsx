import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useFieldArray, useForm } from "react-hook-form";
import { SaveRungSetDto } from "#contracts/rungs";
import { dtoResolver } from "../../parts/dtoResolver.ts";
import type { RungOfSet, RungRole, RungSet } from "#core/time/rungs";
import { formatTimeframe, parseTimeframe, type Unit } from "#core/time/timeframe";

interface Row {
  count: number;
  unit: Unit;
  role: RungRole;
}

const UNITS: [Unit, string][] = [
  ["minute", "minutes"],
  ["hour", "hours"],
  ["day", "days"],
  ["week", "weeks"],
  ["month", "months"],
  ["year", "years"],
];

const toRow = ({ rung, role }: RungOfSet): Row => ({ ...(parseTimeframe(rung) ?? { count: 1, unit: "day" }), role });
const toRung = ({ count, unit, role }: Row): RungOfSet => ({ rung: formatTimeframe({ count, unit }), role });

interface Values {
  name: string;
  walk: RungSet["walk"];
  rows: Row[];
}

/** Where a field of what is sent is typed. */
const FIELD_OF = (path: string) => path.replace(/^rungs\.(\d+)\..*$/, "rows.$1.count").replace(/^rungs$/, "rows");

interface Props {
  set: RungSet;
  onSave(set: RungSet): void;
  onLeave(): void;
}

/** A set of rungs to be filled in, row by row. */
export function SetForm({ set, onSave, onLeave }: Props) {
  const said = ({ name, walk, rows }: Values): RungSet => ({
    ...set,
    name: name.trim(),
    walk,
    rungs: rows.map(toRung),
  });
  const { control, register, handleSubmit, formState } = useForm<Values>({
    resolver: dtoResolver(SaveRungSetDto, (values: Values) => ({ ...said(values), chosen: false }), FIELD_OF),
    defaultValues: { name: set.name, walk: set.walk, rows: set.rungs.map(toRow) },
  });
  const { fields, append, remove } = useFieldArray({ control, name: "rows" });
  const { errors } = formState;
  return (
    <Box
      component="form"
      aria-label="Set of rungs"
      onSubmit={(event) => void handleSubmit((values) => onSave(said(values)))(event)}
      sx={{ borderTop: "1.5px solid", borderColor: "text.primary", py: 2.5, mb: 2 }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: "260px 220px", gap: 2.5 }}>
        <TextField label="Name" error={!!errors.name} helperText={errors.name?.message} {...register("name")} />
        <TextField select label="Walked" defaultValue={set.walk} {...register("walk")}>
          <MenuItem value="down">from high to low</MenuItem>
          <MenuItem value="up">from low to high</MenuItem>
        </TextField>
      </Box>
      <Box sx={{ mt: 2.5, display: "grid", gap: 1.25 }}>
        {fields.map((field, i) => (
          <Box
            key={field.id}
            role="group"
            aria-label={`Rung ${i + 1}`}
            sx={{ display: "grid", gridTemplateColumns: "90px 150px 170px auto 1fr", gap: 1.5, alignItems: "center" }}
          >
            <TextField
              label="Count"
              type="number"
              error={!!errors.rows?.[i]?.count}
              helperText={errors.rows?.[i]?.count?.message}
              slotProps={{ htmlInput: { min: 1, max: 999 } }}
              {...register(`rows.${i}.count`, { valueAsNumber: true })}
            />
            <TextField select label="Unit" defaultValue={field.unit} {...register(`rows.${i}.unit`)}>
              {UNITS.map(([unit, name]) => (
                <MenuItem key={unit} value={unit}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
            <TextField select label="For" defaultValue={field.role} {...register(`rows.${i}.role`)}>
              <MenuItem value="tradable">trading</MenuItem>
              <MenuItem value="reading">reading only</MenuItem>
            </TextField>
            <Button variant="text" onClick={() => remove(i)} disabled={fields.length === 1}>
              Remove
            </Button>
          </Box>
        ))}
      </Box>
      <Box sx={{ mt: 2.5, display: "flex", gap: 1.5, alignItems: "center" }}>
        <Button type="submit" variant="contained">
          Save the set
        </Button>
        <Button variant="outlined" onClick={() => append({ count: 45, unit: "minute", role: "tradable" })}>
          Add a rung
        </Button>
        <Button variant="text" onClick={onLeave}>
          Leave it
        </Button>
        <Typography variant="body2" color="text.secondary">
          They are put in order when saved, whatever order they are typed in.
        </Typography>
      </Box>
    </Box>
  );
}
