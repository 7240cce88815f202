import { recogniseTime, timeReader } from "#core/csv/times";
import { openCell, safeCell } from "#core/csv/safe";
import { isEventKind, type CalendarEvent, type EventFile, type Impact, type NamedEvent } from "#core/events/event";

const NAMES = {
  time: ["time", "date", "datetime", "date time", "date/time", "start"],
  title: ["title", "event", "name", "summary", "release"],
  impact: ["impact", "importance"],
  kind: ["kind", "type"],
  currency: ["currency", "currencies"],
  region: ["region", "country"],
  sector: ["sector"],
  markets: ["market", "markets"],
  forecast: ["forecast", "expected", "consensus"],
  previous: ["previous", "prior"],
  actual: ["actual"],
};
type Column = keyof typeof NAMES;

const IMPACTS: Record<string, Impact> = {
  "1": 1,
  low: 1,
  little: 1,
  "2": 2,
  medium: 2,
  some: 2,
  "3": 3,
  high: 3,
  much: 3,
};

/**
 * Events from a table with a header: a time and a title are needed, everything else may be left out. Dates without
 * clock times last the whole day; clock times without an offset are read in `zone`. Lists within a cell are parted by
 * semicolons. Rows that cannot be read are named by line.
 */
export function readEventRows(rows: readonly (readonly string[])[], zone: string): EventFile | string {
  const [header = [], ...lines] = rows;
  const names = header.map((cell) => cell.trim().toLowerCase());
  const at = Object.fromEntries(
    Object.entries(NAMES).map(([column, known]) => [column, names.findIndex((name) => known.includes(name))]),
  ) as Record<Column, number>;
  if (at.time < 0 || at.title < 0) return "The header names no column for the time or for the title of an event.";
  const cell = (row: readonly string[], column: Column) =>
    at[column] < 0 ? "" : openCell((row[at[column]] ?? "").trim());
  // Whole days and clock times may stand in one column: each are read in their own way of writing.
  const hasClock = (text: string) => /\d[T ,]+\d{1,2}:?\d{2}/.test(text) || /^\d{10}(\d{3})?$/.test(text);
  const times = lines.map((row) => cell(row, "time")).filter((text) => text !== "");
  const readers = [true, false].map((clock) => {
    const format = recogniseTime(times.filter((text) => hasClock(text) === clock));
    return typeof format === "string" ? format : timeReader(format, zone);
  });
  const [clocked, dated] = readers;
  if (typeof clocked === "string" && typeof dated === "string")
    return times.length === 0 ? "The column of times is empty." : dated;
  const read = (text: string) => {
    const reader = hasClock(text) ? clocked : dated;
    return typeof reader === "string" ? undefined : reader.read(text);
  };
  const list = (text: string) =>
    text
      .split(";")
      .map((one) => one.trim().slice(0, 60))
      .filter(Boolean);
  const events: NamedEvent[] = [];
  const faults: EventFile["faults"] = [];
  lines.forEach((row, i) => {
    const [text, title] = [cell(row, "time"), cell(row, "title")];
    if (row.every((one) => one.trim() === "")) return;
    const time = read(text);
    const where = `line ${i + 2}`;
    const impact = cell(row, "impact") === "" ? 2 : IMPACTS[cell(row, "impact").toLowerCase()];
    if (time === undefined) return void faults.push({ where, reason: `"${text.slice(0, 40)}" is no date.` });
    if (title === "") return void faults.push({ where, reason: "It has no title." });
    if (impact === undefined)
      return void faults.push({ where, reason: "Its impact is none of 1, 2, 3, low, medium, high." });
    const kind = cell(row, "kind").toLowerCase();
    const allDay = !hasClock(text);
    events.push({
      uid: `${title} ${new Date(time).toISOString()}`.slice(0, 200),
      kind: isEventKind(kind) ? kind : allDay ? "holiday" : "release",
      title: title.slice(0, 200),
      at: time,
      allDay,
      impact,
      currencies: list(cell(row, "currency")),
      region: cell(row, "region").slice(0, 60),
      sector: cell(row, "sector").slice(0, 60),
      markets: list(cell(row, "markets")),
      ...Object.fromEntries(
        (["forecast", "previous", "actual"] as const).flatMap((name) =>
          cell(row, name) ? [[name, cell(row, name).slice(0, 40)]] : [],
        ),
      ),
    });
  });
  return { events, faults };
}

/** Events as the rows of such a table, their header first: instants as ISO 8601, whole days as dates. */
export function writeEventRows(events: readonly CalendarEvent[]): string[][] {
  const columns = Object.keys(NAMES) as Column[];
  const list = (of: readonly string[]) => of.join("; ");
  const rows = events.map((event) => {
    const iso = new Date(event.at).toISOString();
    const cells: Record<Column, string> = {
      time: event.allDay ? iso.slice(0, 10) : iso,
      title: safeCell(event.title),
      impact: String(event.impact),
      kind: event.kind,
      currency: safeCell(list(event.currencies)),
      region: safeCell(event.region),
      sector: safeCell(event.sector),
      markets: safeCell(list(event.markets)),
      forecast: safeCell(event.forecast ?? ""),
      previous: safeCell(event.previous ?? ""),
      actual: safeCell(event.actual ?? ""),
    };
    return columns.map((column) => cells[column]);
  });
  return [columns, ...rows];
}
