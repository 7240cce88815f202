import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import type { WrittenCondition } from "#core/written/written";
import { parseNumber } from "../../../parts/numbers.ts";
import { BandField } from "./BandField.tsx";
import { fieldOf, useBuilder } from "./builder.ts";
import { formOf, FORMS, rungOptions, type FieldSpec } from "./conditionFields.ts";
import { PriceField } from "./PriceField.tsx";
import { StudyOf } from "./StudyOf.tsx";
import { TypedField } from "./TypedField.tsx";

interface Props {
  path: string;
  /** Steps before it, which its prices may be bound to. */
  steps: number;
}

/** Everything a condition says, to be filled in. */
export function ConditionFields({ path, steps }: Props) {
  const { draft } = useBuilder();
  const condition = fieldOf(draft, path) as WrittenCondition | undefined;
  const form = condition && formOf(condition.on);
  if (!form) return null;
  const wide = form.fields.filter(({ as }) => as === "when" || as === "parts");
  const narrow = form.fields.filter((spec) => !wide.includes(spec));
  return (
    <>
      <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)", gap: 1, mt: 0.5 }}>
        {narrow.map((spec) => (
          <Field key={spec.field} spec={spec} path={`${path}.${spec.field}`} steps={steps} />
        ))}
      </Box>
      {wide.map((spec) => (
        <Field key={spec.field} spec={spec} path={`${path}.${spec.field}`} steps={steps} />
      ))}
    </>
  );
}

function Field({ spec, path, steps }: { spec: FieldSpec; path: string; steps: number }) {
  const { draft, rungs, markets, change, problemAt } = useBuilder();
  const value = fieldOf(draft, path);
  const problem = problemAt(path);
  const common = {
    label: spec.label,
    error: problem?.severity === "fault",
    helperText: problem?.sentence,
  };
  const choice = (
    options: readonly (readonly [string, string])[],
    onChoose = (next: string) => change(path, next || undefined),
  ) => (
    <TextField
      select
      {...common}
      value={value ?? ""}
      onChange={(event) => onChoose(event.target.value)}
      slotProps={{ select: { displayEmpty: true } }}
    >
      {options.map(([one, shown]) => (
        <MenuItem key={one} value={one}>
          {shown}
        </MenuItem>
      ))}
    </TextField>
  );
  const typed = (read: (text: string) => unknown, shown: string, type = "text") => (
    <TypedField
      {...common}
      type={type}
      shown={shown}
      onTake={(text) => {
        const next = read(text);
        if (next !== null && next !== value) change(path, next);
      }}
    />
  );
  const numberOf = (text: string, whole: boolean, optional: boolean): number | undefined | null => {
    if (text === "" && optional) return undefined;
    const number = parseNumber(text);
    return Number.isNaN(number) || (whole && !Number.isInteger(number)) ? null : number;
  };
  const shownNumber = typeof value === "number" ? String(value) : "";
  switch (spec.as) {
    case "price":
      return (
        <PriceField
          of="condition"
          path={path}
          label={spec.label}
          steps={steps}
          optional={spec.field === "price" && hasBand(draft, path)}
        />
      );
    case "band":
      return <BandField path={path} label={spec.label} optional={!(spec.field === "band" && path.includes("leave"))} />;
    case "rung":
      return choice(rungOptions(rungs, value));
    case "choice":
      return choice(spec.options);
    case "count":
      return typed((text) => numberOf(text, true, spec.optional ?? false), shownNumber);
    case "amount":
      return typed((text) => numberOf(text, false, spec.optional ?? false), shownNumber);
    case "clock":
      return typed((text) => text, typeof value === "string" ? value : "", "time");
    case "days":
      return (
        <TextField
          select
          {...common}
          value={Array.isArray(value) ? value : []}
          onChange={({ target }) => {
            const days = target.value as unknown as number[];
            change(path, days.length === 0 ? undefined : [...days].sort());
          }}
          slotProps={{ select: { multiple: true } }}
        >
          {["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"].map((day, i) => (
            <MenuItem key={day} value={i + 1}>
              {day}
            </MenuItem>
          ))}
        </TextField>
      );
    case "zone":
      return typed((text) => (text === "" ? undefined : text), typeof value === "string" ? value : "");
    case "step":
      return choice(
        Array.from({ length: steps }, (_, i) => [String(i + 1), `step ${i + 1}`] as const),
        (next) => change(path, Number(next)),
      );
    case "market":
      return choice(markets.map(({ id, name }) => [id, name] as const));
    case "meter":
      return <MeterField path={path} label={spec.label} quantities={spec.quantities} />;
    case "study":
      return <StudyOf path={path} label={spec.label} />;
    case "when":
      return <Nested path={path} steps={steps} />;
    case "parts":
      return (
        <Box sx={{ borderLeft: "2px solid", borderColor: "divider", pl: 1, mt: 0.5 }}>
          {(value as WrittenCondition[]).map((_, i) => (
            <Nested key={i} path={`${path}[${i}]`} steps={steps} />
          ))}
        </Box>
      );
  }
}

/** A condition within a condition, whose kind can be changed. */
function Nested({ path, steps }: Props) {
  const { draft, rung, change } = useBuilder();
  const inner = fieldOf(draft, path) as WrittenCondition;
  return (
    <Box sx={{ mt: 0.75 }}>
      <TextField
        select
        label="That"
        value={inner.on}
        onChange={(event) => change(path, formOf(event.target.value)?.blank(rung))}
      >
        {FORMS.filter(({ fields }) => fields.every(({ as }) => as !== "when" && as !== "parts")).map((form) => (
          <MenuItem key={form.on} value={form.on}>
            {form.title}
          </MenuItem>
        ))}
      </TextField>
      <ConditionFields path={path} steps={steps} />
    </Box>
  );
}

function hasBand(draft: Parameters<typeof fieldOf>[0], path: string): boolean {
  return fieldOf(draft, path.replace(/price$/, "band")) !== undefined;
}

const PARAMETERS: Record<string, readonly string[]> = {
  macd: ["fast", "slow", "signal"],
  stochastic: ["period", "smoothing"],
};
const USUAL: Record<string, Record<string, number>> = {
  macd: { fast: 12, slow: 26, signal: 9 },
  stochastic: { period: 14, smoothing: 3 },
  rsi: { period: 14 },
};

/** A quantity with its parameters. */
function MeterField({ path, label, quantities }: { path: string; label: string; quantities: readonly string[] }) {
  const { draft, change } = useBuilder();
  const of = fieldOf(draft, path) as { quantity: string } & Record<string, unknown>;
  return (
    <Box sx={{ display: "flex", gap: 0.75 }}>
      <TextField
        select
        label={label}
        value={of.quantity}
        onChange={({ target: { value } }) => change(path, { quantity: value, ...(USUAL[value] ?? { period: 20 }) })}
      >
        {quantities.map((quantity) => (
          <MenuItem key={quantity} value={quantity}>
            {quantity.toUpperCase()}
          </MenuItem>
        ))}
      </TextField>
      {(PARAMETERS[of.quantity] ?? ["period"]).map((name) => (
        <TypedField
          key={name}
          label={name}
          shown={String(of[name] ?? "")}
          onTake={(text) => {
            const number = parseNumber(text);
            if (Number.isInteger(number) && number > 0) change(`${path}.${name}`, number);
          }}
        />
      ))}
    </Box>
  );
}
