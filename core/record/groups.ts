import { recordOf, type Outcome, type RecordStatistics } from "#core/record/statistics";

/** A call of a record, over or not. */
export interface RecordedCall extends Outcome {
  market: { id: string; name: string };
  direction: "long" | "short";
  /** Kind of the edition it was called in, as it is named. */
  kind: string;
  isOver: boolean;
}

/** What calls are put together by. */
export const GROUPINGS = ["market", "direction", "kind", "month"] as const;
export type Grouping = (typeof GROUPINGS)[number];

export interface RecordGroup extends RecordStatistics {
  /** A market, a direction, a kind, or the month trades ended in (UTC, "2026-10"). */
  name: string;
  open: number;
  /** Over without an entry. */
  notEntered: number;
}

/** The same record tells the same: the interval of a mean is drawn by one seed. */
const SEED = 20_000;

/**
 * The figures of some calls, each group's own: by months of what has ended, as the months went; by anything else the
 * largest group first, and of equal ones by name. No call is in two groups.
 */
export function groupedRecord(calls: readonly RecordedCall[], by: Grouping): RecordGroup[] {
  const groups = new Map<string, RecordedCall[]>();
  for (const call of calls) {
    const name = groupOf(call, by);
    if (name !== undefined) groups.set(name, [...(groups.get(name) ?? []), call]);
  }
  const order = (a: RecordGroup, b: RecordGroup) => (by === "month" ? 0 : b.stated - a.stated);
  return [...groups]
    .map(([name, own]) => figuresOf(own, name))
    .sort((a, b) => order(a, b) || (a.name < b.name ? -1 : 1));
}

/** The figures of all calls together. */
export function figuresOf(calls: readonly RecordedCall[], name: string): RecordGroup {
  const over = calls.filter(({ isOver }) => isOver);
  return {
    ...recordOf(over, { event: "hit", seed: SEED }),
    ...{ name, stated: calls.length, open: calls.length - over.length },
    notEntered: over.filter(({ triggered }) => !triggered).length,
  };
}

function groupOf({ market, direction, kind, end, isOver }: RecordedCall, by: Grouping): string | undefined {
  if (by === "month") return isOver && end !== undefined ? new Date(end).toISOString().slice(0, 7) : undefined;
  return by === "market" ? market.name : by === "direction" ? direction : kind;
}
