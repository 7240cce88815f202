import { readFile, writeFile } from "node:fs/promises";
import Papa from "papaparse";

const COLUMNS = ["time", "open", "high", "low", "close", "volume"] as const;

/** What is wrong with a list of bars, in a sentence. */
export class BarsFault extends Error {}

/**
 * Puts the table that a file of bars in JSON says in its place. A sentence where it says none. A list may be as long as
 * a file may be large: it is read in a process of its own.
 */
export async function tableOfJson({ path }: { path: string }): Promise<string | undefined> {
  try {
    await writeFile(path, csvOfJson(await readFile(path, "utf8")), { mode: 0o600 });
    return undefined;
  } catch (error) {
    if (error instanceof BarsFault) return error.message;
    throw error;
  }
}

/**
 * Bars as JSON, [{ "time": "2026-11-29T09:00:00Z", "open": 1, "high": 2, "low": 0.5, "close": 1.5 }, ...], as the table
 * they are: `time` is a text, or milliseconds since 1970; `volume` may stand beside them. What the values are worth is
 * judged where tables are.
 */
export function csvOfJson(text: string): string {
  const rows = barsIn(text);
  const withVolume = rows.some((row) => row.volume !== undefined);
  const columns = COLUMNS.filter((name) => withVolume || name !== "volume");
  return Papa.unparse({
    fields: [...columns],
    data: rows.map((row, i) => columns.map((name) => cellOf(row[name], name, i))),
  });
}

function barsIn(text: string): Record<string, unknown>[] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new BarsFault("This is no JSON.");
  }
  if (!Array.isArray(value)) throw new BarsFault("Bars are a list.");
  const wrong = value.findIndex((row) => typeof row !== "object" || row === null || Array.isArray(row));
  if (wrong >= 0) throw new BarsFault(`Bar ${wrong + 1} of the list is no object with a time and prices.`);
  return value as Record<string, unknown>[];
}

function cellOf(value: unknown, name: string, row: number): string {
  if (value === undefined || value === null) return "";
  if (name === "time" && typeof value === "number" && Math.abs(value) <= 8.64e15) return new Date(value).toISOString();
  if (typeof value === "number" || typeof value === "string") return String(value);
  throw new BarsFault(`Bar ${row + 1} of the list: its ${name} is neither a number nor a text.`);
}
