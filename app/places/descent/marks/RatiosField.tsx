import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { parseNumber } from "../../../parts/numbers.ts";

interface Props {
  kind: string;
  ratios: readonly number[];
  disabled: boolean;
  /** What is wrong with them, if anything is. */
  onCommit(ratios: number[]): string | undefined;
}

const written = (ratios: readonly number[]) => ratios.map((ratio) => Number(ratio.toPrecision(6))).join("  ");

/** Ratios to type, with spaces or semicolons between; in percent where a sign says so. */
export function RatiosField({ ratios, disabled, onCommit }: Props) {
  const [draft, setDraft] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const commit = () => {
    if (draft === undefined) return;
    const read = readTyped(draft);
    const problem = typeof read === "string" ? read : onCommit(read);
    setWrong(problem);
    if (!problem) setDraft(undefined);
  };
  return (
    <>
      <TextField
        label="Ratios"
        disabled={disabled}
        value={draft ?? written(ratios)}
        error={wrong !== undefined}
        helperText={wrong}
        onChange={({ target }) => setDraft(target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          if (event.key === "Escape") {
            setDraft(undefined);
            setWrong(undefined);
          }
        }}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      {wrong && (
        <Button
          variant="text"
          onClick={() => {
            setDraft(undefined);
            setWrong(undefined);
          }}
        >
          As they were
        </Button>
      )}
    </>
  );
}

/** "0.618 1; 161.8 %" as numbers; a sentence where one is none. */
export function readTyped(text: string): number[] | string {
  const parts = text
    .replace(/\s*%/g, "%")
    .split(/[\s;]+/)
    .filter(Boolean);
  const ratios = parts.map((part) => (part.endsWith("%") ? parseNumber(part.slice(0, -1)) / 100 : parseNumber(part)));
  const at = ratios.findIndex(Number.isNaN);
  if (at >= 0) return `"${parts[at]}" is not a number.`;
  return ratios.length === 0 ? "At least one ratio is wanted." : ratios;
}
