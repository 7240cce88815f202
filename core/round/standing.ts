import { distanceTo, type Area } from "#core/areas/areas";
import { lengthOf } from "#core/marks/shown";
import type { Candle } from "#core/structure/candles";

/** What a rung brings into a board: its last closed bar. */
export interface RungStand {
  rung: string;
  /** ATR(14) of the rung, in price units. */
  atr: number;
  lastBar: { bottom: number; top: number } | undefined;
  candle: Candle | undefined;
}

export interface NearArea {
  bottom: number;
  top: number;
  weight: number;
  rungs: string[];
  /** Above zero when it lies above the price, 0 when price is in it; in price units. */
  distance: number;
  /** Made of marks of the analyst, not only of what the machine offers. */
  own: boolean;
}

/** What a board shows of a market besides its bearings. */
export interface Standing {
  price: number | undefined;
  /** Areas near to price on one of the rungs, nearest first. */
  areas: NearArea[];
  /** Rungs on which price is near an area, with its place in `areas`, and the candle that stands at it. */
  near: { rung: string; area: number; candle?: Candle }[];
  /** The nearest areas above, below and about price, near or not; nearest first. */
  around: NearArea[];
  /** Range of the trading date so far, and the mean of the twenty before it. */
  range: { today: number; usual: number } | undefined;
}

/** Price is near an area when it is within this many ATR of a rung the area is made of. */
const NEAR = 0.5;
const DAYS = 20;
/** Areas kept on each side of price. */
const AROUND = 3;

/**
 * How a market stands to its areas. Price is near an area on a rung when the area has a reason on it and lies within
 * half an ATR of that rung, and within half an ATR of the day where that is read (definition our own): half a year's
 * range away is not near. A candle counts when its bar reached the area.
 */
export function standingOf(
  price: number | undefined,
  areas: readonly (Area & { own: boolean })[],
  rungs: readonly RungStand[],
  days: { high: ArrayLike<number>; low: ArrayLike<number>; length: number },
): Standing {
  const all =
    price === undefined
      ? []
      : areas
          .map((area) => ({ area, distance: distanceTo(area, price) }))
          .sort((a, b) => Math.abs(a.distance) - Math.abs(b.distance) || b.area.weight - a.area.weight);
  const plain = ({ area: { bottom, top, weight, rungs: of, own }, distance }: (typeof all)[number]): NearArea => ({
    bottom,
    top,
    weight,
    rungs: of,
    distance,
    own,
  });
  const kept: NearArea[] = [];
  const near: Standing["near"] = [];
  const aDay = rungs.find(({ rung }) => rung === "P1D")?.atr ?? Infinity;
  for (const stand of [...rungs].sort((a, b) => lengthOf(b.rung) - lengthOf(a.rung))) {
    const found = all.find(
      ({ area, distance }) => area.rungs.includes(stand.rung) && Math.abs(distance) <= NEAR * Math.min(stand.atr, aDay),
    );
    if (!found) continue;
    let place = kept.findIndex(({ bottom, top }) => bottom === found.area.bottom && top === found.area.top);
    if (place < 0) place = kept.push(plain(found)) - 1;
    const reached = stand.lastBar && stand.lastBar.bottom <= found.area.top && stand.lastBar.top >= found.area.bottom;
    near.push({ rung: stand.rung, area: place, ...(reached && stand.candle ? { candle: stand.candle } : {}) });
  }
  const side = (of: -1 | 0 | 1) => all.filter(({ distance }) => Math.sign(distance) === of).slice(0, AROUND);
  const around = [...side(0), ...side(1), ...side(-1)]
    .sort((a, b) => Math.abs(a.distance) - Math.abs(b.distance))
    .map(plain);
  return { price, areas: kept, near, around, range: rangeUsed(days) };
}

/**
 * The last day's range against the mean of the twenty before it (common practice, no source); nothing before there are
 * two days.
 */
export function rangeUsed({
  high,
  low,
  length,
}: {
  high: ArrayLike<number>;
  low: ArrayLike<number>;
  length: number;
}): { today: number; usual: number } | undefined {
  if (length < 2) return undefined;
  const from = Math.max(0, length - 1 - DAYS);
  let sum = 0;
  for (let i = from; i < length - 1; i++) sum += high[i] - low[i];
  return { today: high[length - 1] - low[length - 1], usual: sum / (length - 1 - from) };
}
