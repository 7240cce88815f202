import TextField from "@mui/material/TextField";
import { useState, type ReactNode } from "react";
import { flushSync } from "react-dom";
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
  /** After Enter and Escape; not while what is typed is wrong. */
  onDone?(): void;
}

/** A price to type: taken on Enter or on leaving; what is no number is kept in the field and said to be none. */
export function NumberField({
  label,
  value,
  decimals,
  helperText,
  disabled = false,
  problem,
  onCommit,
  onDone,
}: Props) {
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
        // At once: leaving the field must not take what is dropped, nor take twice what is taken.
        if (event.key === "Escape") flushSync(() => setDraft(undefined));
        if (event.key === "Enter") flushSync(commit);
        // What was typed is said: the next key is a command again.
        if (event.key === "Escape" || (event.key === "Enter" && !wrong)) onDone?.();
      }}
      slotProps={{ htmlInput: { inputMode: "decimal", maxLength: 30, style: { textAlign: "right" } } }}
    />
  );
}
