import TextField from "@mui/material/TextField";
import { useState } from "react";

interface Props {
  label: string;
  value: string;
  longest: number;
  disabled?: boolean;
  multiline?: boolean;
  /** Typed into at once. */
  first?: boolean;
  onCommit(value: string): void;
}

/** Words to type: taken on leaving the field (on Enter where it has one line); Escape leaves them as they were. */
export function WordsField({
  label,
  value,
  longest,
  disabled = false,
  multiline = false,
  first = false,
  onCommit,
}: Props) {
  const [draft, setDraft] = useState<string>();
  const commit = () => {
    setDraft(undefined);
    if (draft !== undefined && draft !== value) onCommit(draft);
  };
  return (
    <TextField
      label={label}
      value={draft ?? value}
      disabled={disabled}
      multiline={multiline}
      {...(multiline ? { maxRows: 4 } : {})}
      autoFocus={first}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter" && !multiline) commit();
        if (event.key === "Escape") setDraft(undefined);
      }}
      slotProps={{ htmlInput: { maxLength: longest } }}
    />
  );
}
