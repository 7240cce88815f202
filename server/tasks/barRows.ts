import Papa from "papaparse";
import { BAR_FORMAT } from "#core/csv/format";

/** Takes a row and its line in the file, from 1. */
type Take = (row: string[], line: number) => void;

/** The rows of a file of bars. */
export interface BarRows {
  header: string[];
  /** The first rows below the header, and some from all over the file: what is recognised holds at its end too. */
  sample: string[][];
  /** At least as many as there are rows. */
  most: number;
  delimiter: string;
  /** What the file says of its market. Not yet checked. */
  about?: unknown;
  /** Gives every row below the header that says anything, in order; how many they were. */
  each(take: Take, onProgress: (share: number) => void): number;
}

/** Letters of a text that are taken apart at a time: cells that are kept cost many times those that are not. */
const BLOCK = 4_000_000;
/** Rows of the sample: so many of the first ones, and so many from all over. */
const SAMPLED = 500;

/** Rows of a text, or a sentence saying why there are none. `lines` is how many it may have. */
export function rowsOf(whole: string, lines: number): BarRows | string {
  // A spreadsheet's own first line says what separates the cells of the next ones.
  const told = /^sep=(.)\r?\n/i.exec(whole);
  const text = told ? whole.slice(told[0].length) : whole;
  const from: From = { line: told ? 2 : 1, ...(told ? { delimiter: told[1] } : {}) };
  const breaks = countBreaks(text);
  if (breaks > lines)
    return (
      `The file has more than ${lines.toLocaleString("en")} lines. Split it by year; later files extend ` +
      `the market.`
    );
  if (text.trimStart().startsWith("{")) return rowsOfJson(text);
  // A quoted cell may run over several lines: such a file is taken apart as a whole.
  if (text.includes('"') || text.length <= BLOCK) {
    const { data, meta } = Papa.parse<string[]>(text, { skipEmptyLines: false, delimiter: from.delimiter ?? "" });
    return rowsInMemory(withLines(data, text.includes('"'), from.line), meta.delimiter);
  }
  return rowsInBlocks(text, breaks, from);
}

/** The line a text begins with in its file, and what separates its cells where that is said. */
interface From {
  line: number;
  delimiter?: string;
}

/** Line breaks, asked before a text is taken apart, which costs many times its length. */
function countBreaks(text: string): number {
  let count = 0;
  for (let at = text.indexOf("\n"); at !== -1; at = text.indexOf("\n", at + 1)) count++;
  return count;
}

interface Row {
  cells: string[];
  line: number;
}

const saysNothing = (row: readonly string[]) => row.length <= 1 && (row[0] ?? "").trim() === "";

function rowsInMemory(rows: readonly Row[], delimiter: string, about?: unknown): BarRows | string {
  if (rows.length === 0) return "The file is empty.";
  const [header, ...body] = rows;
  const stride = Math.max(1, Math.floor(body.length / SAMPLED));
  return {
    header: header.cells,
    sample: body.filter((_, i) => i < SAMPLED || i % stride === 0).map(({ cells }) => cells),
    most: body.length,
    delimiter,
    ...(about === undefined ? {} : { about }),
    each(take) {
      for (const { cells, line } of body) take(cells, line);
      return body.length;
    },
  };
}

/** Rows that say anything, each with its line: quoted cells may run over several. */
function withLines(data: readonly string[][], isQuoted: boolean, first: number): Row[] {
  const rows: Row[] = [];
  let line = first;
  for (const cells of data) {
    if (!saysNothing(cells)) rows.push({ cells, line });
    line += 1;
    if (isQuoted) for (const cell of cells) line += cell.split("\n").length - 1;
  }
  return rows;
}

/** Our own JSON of bars as rows of cells, so that it is read and checked like any other file. */
function rowsOfJson(text: string): BarRows | string {
  let value: { format?: unknown; columns?: unknown; bars?: unknown; market?: unknown };
  try {
    value = JSON.parse(text) as typeof value;
  } catch {
    return "The file begins like JSON and is none.";
  }
  const { format, columns, bars, market } = value;
  if (format !== BAR_FORMAT || !Array.isArray(columns) || !Array.isArray(bars))
    return "The file is JSON, but no file of bars.";
  // The export writes its head, then one bar a line.
  const rows = [columns, ...(bars as unknown[])].map((row, i) => ({
    cells: Array.isArray(row) ? row.map(String) : [],
    line: i + 1,
  }));
  return rowsInMemory(rows, "JSON", market);
}

/** A large text without quotes, a few megabytes at a time. */
function rowsInBlocks(text: string, breaks: number, start: From): BarRows | string {
  const head = blockAt(text, 0);
  const { data, meta } = Papa.parse<string[]>(head, { skipEmptyLines: false, delimiter: start.delimiter ?? "" });
  const newline = meta.linebreak as "\n" | "\r\n";
  const cellsOf = (block: string) =>
    Papa.parse<string[]>(block, { skipEmptyLines: false, delimiter: meta.delimiter, newline }).data;
  const at = data.findIndex((row) => !saysNothing(row));
  if (at === -1) return "The file begins with nothing but empty lines.";
  const first = data.slice(at + 1).filter((row) => !saysNothing(row));
  const afar = cellsOf(linesOf(text, Math.max(1, Math.floor(breaks / SAMPLED))).join(newline));
  return {
    header: data[at],
    sample: [...first.slice(0, SAMPLED), ...afar.filter((row) => !saysNothing(row))],
    most: breaks + 1,
    delimiter: meta.delimiter,
    each(take, onProgress) {
      let [count, line, hadHeader] = [0, start.line, false];
      for (let from = 0; from < text.length;) {
        const block = blockAt(text, from);
        for (const row of cellsOf(block.endsWith("\n") ? block.slice(0, -newline.length) : block)) {
          if (!saysNothing(row)) {
            if (hadHeader) {
              take(row, line);
              count++;
            }
            hadHeader = true;
          }
          line++;
        }
        from += block.length;
        onProgress(from / text.length);
      }
      return count;
    },
  };
}

/** What of a text begins at a place and ends with a line some megabytes later. */
function blockAt(text: string, from: number): string {
  const end = text.indexOf("\n", from + BLOCK);
  return text.slice(from, end === -1 ? text.length : end + 1);
}

/** Every so many-th line of a text but the first of them: that is the header's. */
function linesOf(text: string, stride: number): string[] {
  const lines: string[] = [];
  let line = 0;
  for (let at = text.indexOf("\n"); at !== -1; at = text.indexOf("\n", at + 1)) {
    if (++line % stride !== 0) continue;
    const end = text.indexOf("\n", at + 1);
    lines.push(text.slice(at + 1, end === -1 ? text.length : end).replace(/\r$/, ""));
  }
  return lines;
}
