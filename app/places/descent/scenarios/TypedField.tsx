import TextField, { type TextFieldProps } from "@mui/material/TextField";
import { useState } from "react";

interface Props {
  label: string;
  /** What stands in it while nothing is typed. */
  shown: string;
  /** Takes what was typed, on Enter and on leaving. */
  onTake(typed: string): void;
  type?: string;
  error?: boolean;
  helperText?: string | undefined;
  sx?: TextFieldProps["sx"];
}

/** A text that is taken when it is left or entered; what cannot be taken gives way to what stood there. */
export function TypedField({ label, shown, onTake, type = "text", error = false, helperText, sx }: Props) {
  const [typed, setTyped] = useState<string>();
  return (
    <TextField
      label={label}
      type={type}
      value={typed ?? shown}
      error={error}
      helperText={helperText}
      onChange={({ target: { value } }) => setTyped(value)}
      onBlur={() => {
        if (typed === undefined) return;
        setTyped(undefined);
        if (typed.trim() !== shown) onTake(typed.trim());
      }}
      {...(sx ? { sx } : {})}
      slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 60 } }}
    />
  );
}
