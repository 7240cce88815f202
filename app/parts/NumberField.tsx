import TextField from "@mui/material/TextField";
import { useState, type ReactNode } from "react";
import { priceText } from "#core/marks/wording";
import { parseNumber } from "./numbers.ts";

interface Props {
  label: string;
  value: number;
  decimals: number;
  helperText?: ReactNode;
  disabled?: boolean;
  onCommit(value: number): void;
}

/** A price to type: taken on Enter or on leaving; what is no number is kept in the field and said to be none. */
export function NumberField({ label, value, decimals, helperText, disabled = false, onCommit }: Props) {
  const [draft, setDraft] = useState<string>();
  const wrong = draft !== undefined && Number.isNaN(parseNumber(draft));
  const commit = () => {
    if (draft === undefined || wrong) return;
    setDraft(undefined);
    if (parseNumber(draft) !== value) onCommit(parseNumber(draft));
  };
  return (
    <TextField
      label={label}
      disabled={disabled}
      value={draft ?? priceText(value, { decimals })}
      error={wrong}
      helperText={wrong ? "This is not a number." : helperText}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") commit();
        if (event.key === "Escape") setDraft(undefined);
      }}
      slotProps={{ htmlInput: { inputMode: "decimal", maxLength: 30, style: { textAlign: "right" } } }}
    />
  );
}
