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
  /** What is wrong with a number that was typed, if anything is. */
  problem?(value: number): string | undefined;
  onCommit(value: number): void;
}

/** A price to type: taken on Enter or on leaving; what is no number is kept in the field and said to be none. */
export function NumberField({ label, value, decimals, helperText, disabled = false, problem, onCommit }: Props) {
  const [draft, setDraft] = useState<string>();
  const wrong =
    draft === undefined
      ? undefined
      : Number.isNaN(parseNumber(draft))
        ? "This is not a number."
        : problem?.(parseNumber(draft));
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
      error={wrong !== undefined}
      helperText={wrong ?? helperText}
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
