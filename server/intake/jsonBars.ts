import Papa from "papaparse";
import { Failure } from "../failure.ts";

const COLUMNS = ["time", "open", "high", "low", "close", "volume"] as const;

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
  const refuse = (sentence: string) =>
    new Failure("file", sentence, { status: 422, kept: "Nothing was stored.", remedy: "Send a list of bars." });
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw refuse("This is no JSON.");
  }
  if (!Array.isArray(value)) throw refuse("Bars are a list.");
  const wrong = value.findIndex((row) => typeof row !== "object" || row === null || Array.isArray(row));
  if (wrong >= 0) throw refuse(`Bar ${wrong + 1} of the list is no object with a time and prices.`);
  return value as Record<string, unknown>[];
}

function cellOf(value: unknown, name: string, row: number): string {
  if (value === undefined || value === null) return "";
  if (name === "time" && typeof value === "number" && Math.abs(value) <= 8.64e15) return new Date(value).toISOString();
  if (typeof value === "number" || typeof value === "string") return String(value);
  throw new Failure("file", `Bar ${row + 1} of the list: its ${name} is neither a number nor a text.`, {
    status: 422,
    kept: "Nothing was stored.",
  });
}
