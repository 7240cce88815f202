import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { kindOf } from "#core/marks/registry";
import type { Mark } from "#core/marks/kind";
import { studyOf } from "#core/studies/registry";
import { COMPARED } from "#core/marks/measuring/divergence";
import { NumberField } from "../../../parts/NumberField.tsx";
import { keepRatios } from "./keptRatios.ts";
import { RatiosField } from "./RatiosField.tsx";

interface Props {
  mark: Mark;
  locked: boolean;
  /** Decimals of the market's prices. */
  decimals: number;
  onChange(mark: Mark): void;
}

const CHOICES: Readonly<Record<string, { label: string; of: Readonly<Record<string, string>> }>> = {
  scale: { label: "Distances", of: { arithmetic: "equal distances", log: "equal ratios (log)" } },
  force: { label: "In force", of: { atOnce: "at once", break: "from a close beyond the leg" } },
  of: { label: "Of", of: { typical: "typical price", close: "close" } },
};
const NUMBERS: Readonly<Record<string, string>> = {
  tolerance: "Tolerance (price)",
  deviations: "Deviations",
  window: "Window (bars)",
  perBar: "A bar is as long as (price)",
};
const RATIOS = ["ratios", "shares"];

/** What a measuring mark is laid off by: a field for each thing it keeps that can be said in one. */
export function MeasureFields({ mark, locked, decimals, onChange }: Props) {
  const { kind, props } = mark;
  const set = (name: string, value: unknown): string | undefined => {
    const read = kindOf(mark).readProps({ ...props, values: undefined, [name]: value }, mark.anchors.length);
    if (!read) return "This cannot be taken.";
    onChange({ ...mark, props: read });
    return undefined;
  };
  return (
    <Box sx={{ display: "grid", gap: 1, mt: 1 }}>
      {RATIOS.filter((name) => name in props).map((name) => (
        <RatiosField
          key={name}
          kind={kind}
          ratios={props[name] as number[]}
          disabled={locked}
          onCommit={(ratios) => {
            const wrong = set(name, ratios);
            if (!wrong) keepRatios(kind, ratios);
            return wrong;
          }}
        />
      ))}
      {Object.entries(CHOICES).map(([name, { label, of }]) =>
        String(props[name]) in of ? (
          <TextField
            key={name}
            select
            label={label}
            disabled={locked}
            value={props[name]}
            onChange={({ target }) => set(name, target.value)}
          >
            {Object.entries(of).map(([value, text]) => (
              <MenuItem key={value} value={value}>
                {text}
              </MenuItem>
            ))}
          </TextField>
        ) : null,
      )}
      {Object.entries(NUMBERS).map(([name, label]) =>
        typeof props[name] === "number" ? (
          <NumberField
            key={name}
            label={label}
            disabled={locked}
            value={props[name]}
            decimals={name === "window" ? 0 : name === "deviations" ? 1 : decimals}
            problem={(value) =>
              kindOf(mark).readProps({ ...props, [name]: value }, mark.anchors.length)
                ? undefined
                : "This cannot be taken."
            }
            onCommit={(value) => void set(name, value)}
          />
        ) : null,
      )}
      {kind === "divergence" && (
        <TextField
          select
          label="Study"
          disabled={locked}
          value={props.study}
          onChange={({ target }) => onChange({ ...mark, props: { study: target.value, ...divergent(target.value) } })}
        >
          {COMPARED.map((name) => (
            <MenuItem key={name} value={name}>
              {studyOf(name)?.title ?? name}
            </MenuItem>
          ))}
        </TextField>
      )}
    </Box>
  );
}

/** Another study begins as it usually is, with its first line; what it was at both swings is worked out anew. */
function divergent(name: string): Record<string, unknown> {
  return kindOf({ kind: "divergence" }).readProps({ study: name }, 2) ?? {};
}
