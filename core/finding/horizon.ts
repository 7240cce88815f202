import type { Direction } from "#core/marks/bearing";
import { lengthOf } from "#core/marks/shown";

export const HORIZONS = ["long", "medium", "short"] as const;
export type Horizon = (typeof HORIZONS)[number];

/** The rungs that speak for each horizon, as the analyst has put them together. */
export type Horizons = Record<Horizon, string[]>;

export interface HorizonView {
  horizon: Horizon;
  direction: Direction;
  /** The rungs that were asked and said something, longest first. */
  rungs: { rung: string; direction: Direction }[];
}

/** Where a horizon begins when nobody has said otherwise (common practice, no source: week, day, hour). */
const USUAL: Record<Horizon, string> = { long: "P1W", medium: "P1D", short: "PT1H" };

/** One rung for each horizon: of those that are used the nearest in length to a week, a day and an hour, each once. */
export function usualHorizons(rungs: readonly string[]): Horizons {
  const left = [...rungs];
  const take = (horizon: Horizon): string[] => {
    const off = (rung: string) => Math.abs(Math.log(lengthOf(rung) / lengthOf(USUAL[horizon])));
    const [nearest] = [...left].sort((a, b) => off(a) - off(b));
    if (nearest === undefined) return [];
    left.splice(left.indexOf(nearest), 1);
    return [nearest];
  };
  return { long: take("long"), medium: take("medium"), short: take("short") };
}

/**
 * The view by horizon: the way more of its rungs go than against it; sideways where as many go up as down or none goes
 * anywhere. A horizon none of whose rungs says anything is left out.
 */
export function horizonViews(
  horizons: Horizons,
  bearings: readonly { rung: string; direction: Direction }[],
): HorizonView[] {
  return HORIZONS.flatMap((horizon): HorizonView[] => {
    const rungs = bearings
      .filter(({ rung }) => horizons[horizon].includes(rung))
      .map(({ rung, direction }) => ({ rung, direction }));
    if (rungs.length === 0) return [];
    const sum = rungs.reduce(
      (total, { direction }) => total + (direction === "up" ? 1 : direction === "down" ? -1 : 0),
      0,
    );
    return [
      {
        horizon,
        direction: sum > 0 ? "up" : sum < 0 ? "down" : "sideways",
        rungs: rungs.sort((a, b) => lengthOf(b.rung) - lengthOf(a.rung)),
      },
    ];
  });
}
