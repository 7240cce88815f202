import { nominalLength, parseTimeframe } from "#core/time/timeframe";

/** What a rung is for: trades are planned on it, or it is only read. */
export const RUNG_ROLES = ["tradable", "reading"] as const;
export type RungRole = (typeof RUNG_ROLES)[number];

export interface RungOfSet {
  /** A timeframe as an ISO 8601 duration. */
  rung: string;
  role: RungRole;
}

/** The rungs an analyst uses, high to low, and the order in which they are walked. */
export interface RungSet {
  /** Empty for the one that everybody has. */
  id: string;
  name: string;
  rungs: RungOfSet[];
  walk: "down" | "up";
  version: number;
}

/** What everybody begins with. */
export const DEFAULT_SET: RungSet = {
  id: "",
  name: "Year to minute",
  rungs: [
    ...["P1Y", "P3M", "P1M", "P1W"].map((rung): RungOfSet => ({ rung, role: "reading" })),
    ...["P1D", "PT4H", "PT1H", "PT15M", "PT5M", "PT1M"].map((rung): RungOfSet => ({ rung, role: "tradable" })),
  ],
  walk: "down",
  version: 0,
};

const lengthOf = (rung: string) => nominalLength(parseTimeframe(rung) ?? { count: 1, unit: "day" });

/** Rungs in the one order they are shown in, the longest first; the first of two of one length stays. */
export function highToLow(rungs: readonly RungOfSet[]): RungOfSet[] {
  const sorted = [...rungs].sort((a, b) => lengthOf(b.rung) - lengthOf(a.rung));
  return sorted.filter(({ rung }, i) => i === 0 || lengthOf(sorted[i - 1].rung) !== lengthOf(rung));
}

/** The rung that comes after `rung` when the set is walked, or the first of it; `undefined` at the end. */
export function nextInWalk({ rungs, walk }: Pick<RungSet, "rungs" | "walk">, rung?: string): string | undefined {
  const order = walk === "down" ? rungs : [...rungs].reverse();
  return order[order.findIndex((one) => one.rung === rung) + 1]?.rung;
}

export function tradableRungs({ rungs }: Pick<RungSet, "rungs">): string[] {
  return rungs.filter(({ role }) => role === "tradable").map(({ rung }) => rung);
}
