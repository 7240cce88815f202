import type { Column } from "#core/columns/columns";

/** A line of 45 degrees: a box a column from where it begins; boxes of the grid, columns from 0. */
export interface ColumnLine {
  isRising: boolean;
  column: number;
  box: number;
  /** The column that went beyond it; absent while it holds. */
  endedAt?: number;
}

/**
 * Lines of 45 degrees in turn (common practice, no source): a rising one from the box below a low holds until a falling
 * column goes below it; then a falling one from the box above the highest column since that low, until a rising column
 * goes above it. O(columns): each is looked at twice at most for every line.
 */
export function columnLines(columns: readonly Pick<Column, "isRising" | "bottom" | "top">[]): ColumnLine[] {
  if (columns.length === 0) return [];
  const lines: ColumnLine[] = [];
  let isRising = columns[0].isRising;
  let from = 0;
  while (from < columns.length) {
    const { bottom, top } = columns[from];
    const line: ColumnLine = { isRising, column: from, box: isRising ? bottom - 1 : top + 1 };
    lines.push(line);
    let furthest = from;
    let c = from + 1;
    for (; c < columns.length; c++) {
      const at = line.box + (isRising ? 1 : -1) * (c - from);
      if (isRising ? columns[c].bottom < at : columns[c].top > at) break;
      if (isRising ? columns[c].top > columns[furthest].top : columns[c].bottom < columns[furthest].bottom)
        furthest = c;
    }
    if (c >= columns.length) return lines;
    line.endedAt = c;
    // The next one begins at the furthest column since, which the breaking one cannot be.
    from = furthest;
    isRising = !isRising;
    if (from === line.column) from = c;
  }
  return lines;
}
