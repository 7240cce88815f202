import { agreementOf } from "#core/finding/agreement";
import { isDue } from "#core/round/walk";
import type { BoardCell, BoardRow } from "../../../server/round/board.ts";
import { rangeShare } from "./words.ts";

export interface Group {
  /** Empty when the board is not parted. */
  title: string;
  rows: BoardRow[];
}

export const ORDERS = ["list", "area", "fresh", "agreement", "range"] as const;
export type Order = (typeof ORDERS)[number];
export const ORDER_NAMES: Record<Order, string> = {
  list: "as listed",
  area: "nearest area first",
  fresh: "most closed since looked",
  agreement: "most agreed first",
  range: "most range used",
};

export const FILTERS = ["all", "open", "near", "said"] as const;
export type Filter = (typeof FILTERS)[number];
export const FILTER_NAMES: Record<Filter, string> = {
  all: "all",
  open: "closed since looked",
  near: "near an area",
  said: "watch or plan",
};

const KINDS: [string, string][] = [
  ["currency", "Currencies"],
  ["commodity", "Commodities"],
  ["index", "Indices"],
  ["share", "Shares"],
];

const known = ({ cells }: BoardRow) =>
  cells.filter((cell): cell is BoardCell => cell !== null && cell.close !== undefined);

/** How many cells of a row have closed since they were looked at; of the rungs that are walked. */
export function freshCount(row: BoardRow, tradable: readonly string[]): number {
  return known(row).filter((cell) => tradable.includes(cell.rung) && isDue(cell)).length;
}

function keyOf(row: BoardRow, order: Order, tradable: readonly string[]): number {
  const { standing } = row;
  switch (order) {
    case "area":
      return standing?.around[0] && standing.price ? Math.abs(standing.around[0].distance / standing.price) : Infinity;
    case "fresh":
      return -freshCount(row, tradable);
    case "agreement": {
      const { count, of, way } = agreementOf(known(row));
      return way ? -count / of : 0;
    }
    case "range":
      return -rangeShare(row);
    case "list":
      return 0;
  }
}

/**
 * The rows as they are asked for: filtered, and in order; the list of all by kind of market, a list of one's own as it
 * was made.
 */
export function arrange(
  rows: readonly BoardRow[],
  order: Order,
  filter: Filter,
  tradable: readonly string[],
  byKind: boolean,
): Group[] {
  const kept = rows.filter((row) => {
    if (filter === "open") return freshCount(row, tradable) > 0;
    if (filter === "near") return (row.standing?.near.length ?? 0) > 0;
    if (filter === "said")
      return row.verdict ? row.verdict.verdict !== "nothing" : row.before !== null && row.before.verdict !== "nothing";
    return true;
  });
  if (order !== "list")
    return [
      {
        title: "",
        rows: [...kept].sort(
          (a, b) => keyOf(a, order, tradable) - keyOf(b, order, tradable) || a.name.localeCompare(b.name),
        ),
      },
    ];
  if (!byKind) return [{ title: "", rows: kept }];
  const others = kept.filter(({ kind }) => !KINDS.some(([one]) => one === kind));
  const groups = KINDS.map(([kind, title]) => ({ title, rows: kept.filter((row) => row.kind === kind) }));
  return [...groups, { title: "Others", rows: others }].filter(({ rows: some }) => some.length > 0);
}
