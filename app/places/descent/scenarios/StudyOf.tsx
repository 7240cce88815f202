import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { ASKED_STUDIES } from "#core/conditions/study";
import { isParameter, usualOf } from "#core/studies/params";
import { studyOf } from "#core/studies/registry";
import { parseNumber } from "../../../parts/numbers.ts";
import { fieldOf, useBuilder } from "./builder.ts";
import { TypedField } from "./TypedField.tsx";

/** A study that is asked at a close, with its parameters. */
export function StudyOf({ path, label }: { path: string; label: string }) {
  const { draft, change } = useBuilder();
  const of = fieldOf(draft, path) as { quantity: string } & Record<string, number | string>;
  const study = studyOf(of.quantity);
  const usual = (name: string) =>
    Object.fromEntries(
      (studyOf(name)?.parameters ?? []).flatMap((parameter) => {
        const value = parameter.kind === "choice" ? undefined : usualOf(parameter);
        return value === undefined ? [] : [[parameter.name, value]];
      }),
    );
  return (
    <Box sx={{ gridColumn: "1 / -1", display: "flex", flexWrap: "wrap", gap: 0.75 }}>
      <TextField
        select
        label={label}
        value={of.quantity}
        onChange={({ target: { value } }) => change(path, { quantity: value, ...usual(value) })}
        sx={{ flex: "1 1 100%" }}
      >
        {ASKED_STUDIES.map(({ name, title }) => (
          <MenuItem key={name} value={name}>
            {title}
          </MenuItem>
        ))}
      </TextField>
      {study?.parameters.map((parameter) => {
        if (parameter.kind === "choice") return null;
        return (
          <Box key={parameter.name} sx={{ flex: "1 1 80px" }}>
            <TypedField
              label={parameter.name}
              shown={String(of[parameter.name] ?? usualOf(parameter) ?? "")}
              onTake={(text) => {
                const typed = parseNumber(text);
                if (isParameter(parameter, typed)) change(`${path}.${parameter.name}`, typed);
              }}
            />
          </Box>
        );
      })}
    </Box>
  );
}
