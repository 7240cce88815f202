import type { ColumnRules } from "#core/columns/columns";
import { readColumns } from "#core/columns/readRules";

/** How columns are made unless the analyst said otherwise: boxes of a percent, three of them turn a column. */
export const USUAL_COLUMNS: ColumnRules = { box: { percent: 1 }, reversal: 3, method: "highLow" };

const NAME = "compass.columns";

/** How this analyst last made columns, in this browser; as usual where nothing that can be read is kept. */
export function keptColumns(): ColumnRules {
  try {
    return readColumns(JSON.parse(localStorage.getItem(NAME) ?? "null")) ?? USUAL_COLUMNS;
  } catch {
    return USUAL_COLUMNS;
  }
}

export function keepColumns(rules: ColumnRules): void {
  try {
    localStorage.setItem(NAME, JSON.stringify(rules));
  } catch {
    // A browser that keeps nothing begins as usual the next time.
  }
}

/** The same rules with boxes so many times as large. */
export function scaledColumns(rules: ColumnRules, by: number): ColumnRules {
  const { box } = rules;
  if (typeof box === "number") return { ...rules, box: box * by };
  if ("percent" in box) return { ...rules, box: { percent: Math.min(50, box.percent * by) } };
  return { ...rules, box: { ...box, multiple: box.multiple * by } };
}
