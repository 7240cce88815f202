import type { Direction } from "#core/marks/bearing";

export interface Agreement {
  /** The way most rungs go; none when as many go up as down. */
  way: "up" | "down" | undefined;
  count: number;
  of: number;
  /** Rungs that go the other way. */
  dissent: string[];
}

/** How far the rungs of a market agree: sideways ones count in the whole, but dissent from nobody. */
export function agreementOf(rungs: readonly { rung: string; direction: Direction }[]): Agreement {
  const going = (direction: Direction) => rungs.filter((one) => one.direction === direction).map(({ rung }) => rung);
  const [up, down] = [going("up"), going("down")];
  const of = rungs.length;
  if (up.length === down.length) return { way: undefined, count: up.length, of, dissent: [] };
  return up.length > down.length
    ? { way: "up", count: up.length, of, dissent: down }
    : { way: "down", count: down.length, of, dissent: up };
}
