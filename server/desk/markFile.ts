import { randomUUID } from "node:crypto";
import Papa from "papaparse";
import { MarkDto, type StepDto } from "#contracts/mark";
import { readDto } from "#contracts/read";
import { openCell, safeCell } from "#core/csv/safe";
import type { CopyOf } from "#core/marks/equivalent";
import type { FoundFrom } from "#core/marks/foundFrom";
import type { Anchor, Mark } from "#core/marks/kind";
import { readMark } from "#core/marks/registry";
import { findMarket } from "../bars/markets.ts";
import { MarkRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { canonicalText } from "../canonical.ts";
import { applySteps, extras, marksOf } from "./marks.ts";

export const MARK_FORMAT = "even-compass-marks-1";
const MOST_MARKS = 5000;

type Content = Pick<
  Mark,
  "id" | "kind" | "rung" | "anchors" | "props" | "note" | "locked" | "hidden" | "copied" | "found"
>;

function contentOf({
  id,
  kind,
  rung,
  anchors,
  props,
  note,
  ...rest
}: Omit<Content, "copied" | "found"> & { copied?: CopyOf | null; found?: FoundFrom | null }): Content {
  return { id, kind, rung, anchors: anchors.map(({ time, price }) => ({ time, price })), props, note, ...extras(rest) };
}

export async function marksAsJson(marketId: string): Promise<string> {
  const { name } = await findMarket(marketId);
  const marks = (await marksOf(marketId)).map(contentOf);
  return `${JSON.stringify({ format: MARK_FORMAT, market: { id: marketId, name }, marks }, null, 1)}\n`;
}

/** One line a mark: its text guarded against being taken for a formula, then a time and a price for each anchor. */
export async function marksAsCsv(marketId: string): Promise<string> {
  const marks = await marksOf(marketId);
  const most = Math.max(1, ...marks.map(({ anchors }) => anchors.length));
  const header = [
    "id",
    "kind",
    "rung",
    "note",
    "props",
    "more",
    ...Array.from({ length: most }, (_, i) => [`time ${i + 1}`, `price ${i + 1}`]).flat(),
  ];
  const rows = marks.map(({ id, kind, rung, note, props, anchors, ...rest }) => [
    ...[id, kind, rung, note, JSON.stringify(props), JSON.stringify(extras(rest))].map(safeCell),
    ...anchors.flatMap(({ time, price }) => [new Date(time).toISOString(), String(price)]),
  ]);
  return `${Papa.unparse([header, ...rows], { newline: "\n" })}\n`;
}

export interface MarksReport {
  added: number;
  same: number;
  /** Marks that stand here otherwise than in the file, and were left as they are here. */
  differing: number;
}

/**
 * Puts the marks of a file among those of a market: new ones are added, others left alone. All of the file or nothing.
 */
export async function importMarks(marketId: string, text: string, accountId: string): Promise<MarksReport> {
  const read = text.trimStart().startsWith("{") ? readJson(text) : readCsv(text);
  if (read.length > MOST_MARKS) throw broken(`The file holds more than ${MOST_MARKS} marks.`);
  const marks = read.map((raw, i) => checked(raw, marketId, i));
  const rows = new Map(
    (await MarkRow.findAll({ where: { id: marks.map(({ id }) => id) } })).map((row) => [row.id, row]),
  );
  const report: MarksReport = { added: 0, same: 0, differing: 0 };
  const steps: StepDto[] = [];
  for (const mark of marks) {
    const row = rows.get(mark.id);
    const here = row && row.marketId === marketId && !row.removed ? row : undefined;
    if (here) {
      if (canonicalText(contentOf(here)) === canonicalText(mark)) report.same++;
      else report.differing++;
      continue;
    }
    report.added++;
    // A mark that was removed here comes back; one that stands on another market gets a name of its own.
    const own = row?.marketId === marketId;
    steps.push({
      id: randomUUID(),
      step: "set",
      version: own ? row.version : 0,
      mark: { ...mark, id: row && !own ? randomUUID() : mark.id },
    });
  }
  if (steps.length > 0) {
    const { conflicts } = await applySteps(marketId, steps, accountId);
    if (conflicts.length > 0)
      throw new Failure("stale", "Somebody changed these marks at the same moment.", {
        status: 409,
        kept: "Nothing was stored.",
        remedy: "Choose the file again.",
      });
  }
  return report;
}

function broken(sentence: string): Failure {
  return new Failure("marks", sentence, { kept: "Nothing was stored.", remedy: "Mend the file and choose it again." });
}

function readJson(text: string): unknown[] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw broken("The file is not JSON.");
  }
  const { format, marks } = value as { format?: unknown; marks?: unknown };
  if (format !== MARK_FORMAT || !Array.isArray(marks)) throw broken("The file is no file of marks.");
  return marks;
}

function readCsv(text: string): unknown[] {
  const [header = [], ...rows] = Papa.parse<string[]>(text.replace(/^\ufeff/, ""), { skipEmptyLines: true }).data;
  const at = (name: string) => header.indexOf(name);
  if (["id", "kind", "rung", "time 1", "price 1"].some((name) => at(name) < 0))
    throw broken("The header does not name id, kind, rung, time 1 and price 1.");
  return rows.map((row, i) => {
    const cell = (name: string) => openCell(row[at(name)] ?? "");
    const anchors: Anchor[] = [];
    for (let n = 1; at(`time ${n}`) >= 0 && cell(`time ${n}`) !== ""; n++)
      anchors.push({
        time: Date.parse(cell(`time ${n}`)),
        price: cell(`price ${n}`) === "" ? NaN : Number(cell(`price ${n}`)),
      });
    try {
      return {
        id: cell("id"),
        kind: cell("kind"),
        rung: cell("rung"),
        note: cell("note"),
        props: JSON.parse(cell("props") || "{}") as unknown,
        ...(JSON.parse(cell("more") || "{}") as object),
        anchors,
      };
    } catch {
      throw broken(`Line ${i + 2}: the props, or what more is said, are not JSON.`);
    }
  });
}

function checked(raw: unknown, market: string, i: number): Content {
  const dto = readDto(MarkDto, raw);
  if (!dto.ok) {
    const [[field, sentence]] = Object.entries(dto.fields);
    throw broken(`Mark ${i + 1}, ${field || "whole"}: ${sentence}`);
  }
  const { id, kind, rung, anchors, props, note, ...rest } = dto.value;
  const read = readMark({ id, kind, market, rung, anchors, props, note, author: "", version: 0, ...extras(rest) });
  if (typeof read === "string") throw broken(`Mark ${i + 1}: ${read}`);
  return contentOf(read);
}
