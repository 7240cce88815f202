import { distanceTo, type Area } from "#core/areas/areas";

/** As many areas as are read at a glance. */
export const FEW_AREAS = 8;

/** What an area counts for among others, apart from where it lies. */
export interface AreaMerit {
  /** A scenario or a count of the analyst rests on it. */
  rests: boolean;
  /** Something in it is of a kind that fared better than chance here. */
  better: boolean;
}

/**
 * The few areas that matter, from high to low, and how many are left out. First those that scenarios and counts rest
 * on, by nearness; the others by nearness in `unit` (ATR of the day), where each rung beyond the first, and a kind that
 * was measured better than chance, count as half a unit nearer (definition our own; an order, no promise).
 */
export function fewAreas<T extends Pick<Area, "bottom" | "top" | "rungs">>(
  areas: readonly T[],
  price: number,
  unit: number,
  meritOf: (area: T) => AreaMerit,
  most = FEW_AREAS,
): { few: T[]; rest: T[] } {
  const placed = areas.map((area) => {
    const { rests, better } = meritOf(area);
    const away = Math.abs(distanceTo(area, price)) / (unit > 0 ? unit : 1);
    return { area, rests, away: away - NEARER * (area.rungs.length - 1 + (better ? 1 : 0)) };
  });
  placed.sort((a, b) => Number(b.rests) - Number(a.rests) || a.away - b.away);
  const inOrder = (list: typeof placed) =>
    list.map(({ area }) => area).sort((a, b) => b.top - a.top || b.bottom - a.bottom);
  return { few: inOrder(placed.slice(0, most)), rest: inOrder(placed.slice(most)) };
}

const NEARER = 0.5;
