import { randomUUID } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import Papa from "papaparse";
import { findColumns, readColumns } from "#core/csv/heads";
import { rowsOf } from "./barRows.ts";
import { decodeText, MOST_ROWS } from "./readBars.ts";

export interface SplitAsk {
  path: string;
  /** Where the files of its markets are written. */
  folder: string;
  columns?: string;
}

export interface SplitPart {
  id: string;
  name: string;
  rows: number;
}

/** Markets of one file at most: more are no file of bars but a list of something else. */
const MOST = 100;

/** Takes a file of several markets apart into one file for each; the sentence that says why it cannot be. */
export default function splitFile({ path, folder, columns: said }: SplitAsk): SplitPart[] | string {
  const text = decodeText(readFileSync(path));
  const rows = text === undefined ? "The file holds bytes that are no text." : rowsOf(text, MOST_ROWS);
  if (typeof rows === "string") return rows;
  const columns = said === undefined ? findColumns(rows.header) : readColumns(said);
  if (!columns || columns.symbol < 0) return "No column says which market a row is of.";
  const parts = new Map<string, string[]>();
  rows.each(
    (row) => {
      const name = row[columns.symbol]?.trim() ?? "";
      const lines = parts.get(name);
      const line = Papa.unparse([row], { newline: "\n" });
      if (lines) lines.push(line);
      else parts.set(name, [line]);
    },
    () => {},
  );
  if (parts.size > MOST)
    return `The file names ${parts.size} markets; at most ${MOST} are taken apart at once. Split it first.`;
  const head = Papa.unparse([rows.header], { newline: "\n" });
  return [...parts].map(([name, lines]) => {
    const id = randomUUID();
    writeFileSync(join(folder, `${id}.csv`), [head, ...lines].join("\n"), { mode: 0o600 });
    return { id, name: name || "without a name", rows: lines.length };
  });
}
