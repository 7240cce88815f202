import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { bandText } from "#core/marks/wording";
import { isFollowed, type WrittenBand } from "#core/written/written";
import { toTick } from "#core/series/tick";
import { parseNumber } from "../../../parts/numbers.ts";
import { fieldOf, useBuilder } from "./builder.ts";
import { TypedField } from "./TypedField.tsx";

/** A band: one that a mark or an area says, or two prices typed as "402.00 to 404.00". */
export function BandField({ path, label, optional }: { path: string; label: string; optional: boolean }) {
  const { draft, market, subjects, change, problemAt } = useBuilder();
  const band = fieldOf(draft, path) as WrittenBand | undefined;
  const value = isFollowed(band) ? (band.value as [number, number]) : band;
  const problem = problemAt(path);
  const text = value ? bandText({ bottom: value[0], top: value[1] }, market) : "";
  const bands = subjects.filter((one) => one.band);
  const at = bands.findIndex(({ band: own }) => JSON.stringify(own) === JSON.stringify(band));
  const grid = (price: number) => toTick(price, market.tick, market.decimals);
  return (
    <>
      <TypedField
        label={label}
        shown={text}
        error={problem?.severity === "fault"}
        helperText={problem?.sentence}
        onTake={(typed) => {
          if (typed === "") return change(path, optional ? undefined : null);
          const [a, b] = typed.split(/\s*(?:to|\u2013|;)\s*/).map(parseNumber);
          if (Number.isFinite(a) && Number.isFinite(b)) change(path, [Math.min(a, b), Math.max(a, b)]);
        }}
      />
      {bands.length > 0 && (
        <TextField
          select
          label={`${label} of`}
          value={at < 0 ? "" : String(at)}
          onChange={(event) => {
            const { band: own, bottom, top } = bands[Number(event.target.value)];
            change(path, isFollowed(own) ? own : [grid(bottom), grid(top)]);
          }}
        >
          {bands.map(({ name }, i) => (
            <MenuItem key={name} value={String(i)}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      )}
    </>
  );
}
