import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Slider from "@mui/material/Slider";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { rungText } from "#core/marks/wording";
import type { ChosenStudy } from "#core/studies/chosen";
import { PANEL } from "#core/studies/limits";
import { isParameter, parameterType } from "#core/studies/params";
import type { Study, StudyParameter } from "#core/studies/study";
import { NumberField } from "../../../parts/NumberField.tsx";

interface Props {
  chosen: ChosenStudy;
  study: Study;
  rungs: readonly string[];
  markets: readonly { id: string; name: string }[];
  onChange(next: ChosenStudy): void;
  onRemove(): void;
  onDone(): void;
}

/** What a study is worked out with, and where it is shown. */
export function StudyForm({ chosen, study, rungs, markets, onChange, onRemove, onDone }: Props) {
  const { params, height, hidden } = chosen;
  const set = (name: string, value: number | string) => onChange({ ...chosen, params: { ...params, [name]: value } });
  const shownOn = chosen.rungs.length === 0 ? rungs : chosen.rungs;
  const turn = (rung: string) => {
    const next = shownOn.includes(rung) ? shownOn.filter((one) => one !== rung) : [...shownOn, rung];
    // On none it would stand in the list and nowhere else: that is what hiding is for.
    if (next.length > 0) onChange({ ...chosen, rungs: rungs.every((one) => next.includes(one)) ? [] : next });
  };
  return (
    <Box sx={{ p: 1, pb: 1.5, bgcolor: "background.default" }}>
      <Typography variant="caption" component="p" color="text.secondary" sx={{ mb: 1 }}>
        {study.title}: {study.says}. Source: {study.source}.
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
        {study.parameters.map((parameter) => (
          <ParameterField
            key={parameter.name}
            parameter={parameter}
            value={params[parameter.name]}
            markets={markets}
            onCommit={(value) => set(parameter.name, value)}
            onDone={onDone}
          />
        ))}
      </Box>
      {study.place !== "price" && (
        <Box sx={{ display: "flex", alignItems: "center", gap: 2, mt: 1 }}>
          <Typography variant="body2">Height</Typography>
          <Slider
            size="small"
            aria-label="Height of the panel"
            value={Math.round(height * 100)}
            min={PANEL.least * 100}
            max={PANEL.most * 100}
            valueLabelDisplay="auto"
            valueLabelFormat={(value) => `${value} %`}
            onChange={(_event, value) => onChange({ ...chosen, height: value / 100 })}
          />
        </Box>
      )}
      <Box role="group" aria-label="Shown on" sx={{ display: "flex", flexWrap: "wrap", columnGap: 1, mt: 0.5 }}>
        {rungs.map((rung) => (
          <FormControlLabel
            key={rung}
            label={rungText(rung)}
            control={
              <Checkbox size="small" checked={shownOn.includes(rung)} onChange={() => turn(rung)} sx={{ p: 0.5 }} />
            }
            sx={{ m: 0, "& .MuiFormControlLabel-label": { fontSize: "0.8rem" } }}
          />
        ))}
      </Box>
      <Button variant="text" onClick={() => onChange({ ...chosen, hidden: !hidden })}>
        {hidden ? "Show" : "Hide"}
      </Button>
      <Button variant="text" onClick={onRemove} title="Delete">
        Remove
      </Button>
    </Box>
  );
}

const PERIODS = ["P1D", "P1W", "P1M", "P3M", "P1Y"];
const DAY = /^\d{4}-\d{2}-\d{2}$/;

interface FieldProps {
  parameter: StudyParameter;
  value: number | string;
  markets: Props["markets"];
  onCommit(value: number | string): void;
  onDone(): void;
}

function ParameterField({ parameter, value, markets, onCommit, onDone }: FieldProps) {
  const { name, kind } = parameter;
  const label = NAMES[name] ?? name;
  if (kind === "whole" || kind === "number")
    return (
      <NumberField
        label={label}
        value={value as number}
        decimals={kind === "whole" ? 0 : (String(value).split(".").at(1)?.length ?? 0)}
        problem={(typed) => (isParameter(parameter, typed) ? undefined : `This must be a ${parameterType(parameter)}.`)}
        onCommit={onCommit}
        onDone={onDone}
      />
    );
  if (kind === "time")
    return (
      <TextField
        label={label}
        type="date"
        defaultValue={typeof value === "number" ? new Date(value).toISOString().slice(0, 10) : ""}
        onChange={({ target }) => {
          if (DAY.test(target.value)) onCommit(Date.parse(`${target.value}T00:00:00Z`));
          else if (target.value === "" && parameter.fallback) onCommit(parameter.fallback);
        }}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { max: "2999-12-31" } }}
      />
    );
  const options =
    kind === "market"
      ? markets.map(({ id, name: text }) => [id, text] as const)
      : (kind === "period" ? PERIODS : parameter.of).map(
          (one) => [one, kind === "period" ? rungText(one) : one] as const,
        );
  return (
    <TextField select label={label} value={value} onChange={({ target }) => onCommit(target.value)}>
      {options.map(([id, text]) => (
        <MenuItem key={id} value={id}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** What the names of parameters mean, where they are no words. */
const NAMES: Readonly<Record<string, string>> = {
  period: "Period",
  of: "Of",
  n: "Periods before",
  from: "From",
  with: "Against",
  atr: "ATR of",
  multiple: "ATR, times",
  deviations: "Deviations",
  fast: "Fast",
  slow: "Slow",
  signal: "Signal",
  smoothing: "Smoothing",
  conversion: "Conversion",
  base: "Base",
  span: "Span",
  average: "Average",
  constant: "Constant",
  minutes: "Minutes",
};
