import { coincide, type Source } from "#core/finding/found";
import { lengthOf } from "#core/marks/shown";

/** A price band that speaks for an area: one price of a live mark, or of a finding. */
export interface AreaBand {
  bottom: number;
  top: number;
  rung: string;
  /** ATR(14) of its rung, in price units. */
  atr: number;
  /** Kind of mark: what it weighs. */
  kind: string;
  /** 0 to 1: untouched 1, used up 0. */
  freshness: number;
  name: string;
  /** Id of the mark, or key of the finding. */
  id: string;
  /** What it rests on: two bands of one kind that rest on the same bars are one reason. */
  sources: readonly Source[];
}

export interface AreaReason {
  id: string;
  name: string;
  rung: string;
  bottom: number;
  top: number;
  weight: number;
}

export interface Area {
  bottom: number;
  top: number;
  /** Sum of the weights of its independent reasons. */
  weight: number;
  /** Heaviest first. */
  reasons: AreaReason[];
  /** Its rungs, longest first; at least two, but of a band that stands alone where those are asked for. */
  rungs: string[];
}

/** How much a kind of mark counts; a kind not named here half (definition our own). */
const KINDS: Record<string, number> = {
  zone: 1,
  pool: 1,
  gap: 0.7,
  level: 0.8,
  fittedLevel: 0.8,
  trendLine: 0.7,
  channel: 0.7,
  structure: 0.6,
  retracement: 0.6,
  projection: 0.6,
  extension: 0.5,
  measuredMove: 0.6,
  swingChannel: 0.7,
  regressionChannel: 0.5,
  anchoredAverage: 0.5,
  speedLines: 0.4,
  arcs: 0.4,
  divergence: 0.4,
  pattern: 0.6,
  count: 0.6,
};
/** Bands merge when they lie within this share of the ATR of the finer of their two rungs. */
const TOLERANCE = 0.25;
/** An area is at most this many ATR of its finest rung high. */
const WIDEST = 1;
const MINUTE = 60_000;

/** 1 for a minute, about 1.6 for an hour, 2 for a day, 2.9 for a year: longer rungs weigh more, by doublings. */
export function rungWeight(rung: string): number {
  return 1 + Math.max(0, Math.log2(Math.max(1, lengthOf(rung) / MINUTE))) / 10;
}

export function bandWeight({ rung, kind, freshness }: Pick<AreaBand, "rung" | "kind" | "freshness">): number {
  return rungWeight(rung) * (KINDS[kind] ?? 0.5) * freshness;
}

/**
 * Areas: where bands of at least two rungs meet. Every band is asked how much independent weight lies within the
 * tolerance of *itself* (never of a neighbour's neighbour); the heaviest makes an area of those, which then speak for
 * no other; and so on. Of bands that are one reason the heaviest counts. An area reaches as far as its bands do, at
 * most one ATR of its finest rung about their weighted middle. With `alone` a band that meets none of another rung is
 * an area, too, as wide as it is. From low to high. O(n^2) for n bands and each area.
 */
export function areasOf(bands: readonly AreaBand[], alone = false): Area[] {
  let left = bands.map((band) => ({ band, weight: bandWeight(band) })).filter(({ weight }) => weight > 0);
  const out: Area[] = [];
  for (;;) {
    let best: Gathered | undefined;
    for (const seed of left) {
      const gathered = gather(seed.band, left, alone);
      if (gathered && (!best || gathered.weight > best.weight)) best = gathered;
    }
    if (!best) return out.sort((a, b) => a.bottom - b.bottom);
    out.push(areaFrom(best));
    const { members } = best;
    left = left.filter((one) => !members.includes(one));
  }
}

interface Weighed {
  band: AreaBand;
  weight: number;
}

interface Gathered {
  seed: AreaBand;
  members: Weighed[];
  reasons: Weighed[];
  weight: number;
}

function gather(seed: AreaBand, left: readonly Weighed[], alone: boolean): Gathered | undefined {
  const members = left.filter(({ band }) => apart(seed, band) <= TOLERANCE * Math.min(seed.atr, band.atr));
  const reasons: Weighed[] = [];
  for (const one of [...members].sort((a, b) => b.weight - a.weight || a.band.id.localeCompare(b.band.id)))
    if (!reasons.some((other) => isSameReason(one.band, other.band))) reasons.push(one);
  if (!alone && new Set(reasons.map(({ band }) => band.rung)).size < 2) return undefined;
  return { seed, members, reasons, weight: reasons.reduce((sum, { weight }) => sum + weight, 0) };
}

function apart(a: AreaBand, b: AreaBand): number {
  return Math.max(0, a.bottom - b.top, b.bottom - a.top);
}

/** The same fact seen twice: one mark, or two of one kind that rest on the same bars. */
function isSameReason(a: AreaBand, b: AreaBand): boolean {
  if (a.id === b.id) return true;
  return a.kind === b.kind && a.sources.some((one) => b.sources.some((other) => coincide(one, other)));
}

function areaFrom({ seed, reasons, weight }: Gathered): Area {
  const rungs = [...new Set(reasons.map(({ band }) => band.rung))].sort((a, b) => lengthOf(b) - lengthOf(a));
  const told = reasons.map(({ band: { id, name, rung, bottom, top }, weight: own }) => ({
    ...{ id, name, rung, bottom, top },
    weight: own,
  }));
  if (reasons.length === 1) return { bottom: seed.bottom, top: seed.top, weight, reasons: told, rungs };
  const finest = Math.min(...reasons.map(({ band }) => band.atr));
  // Of a band that reaches far beyond the one it was gathered about only the part beside it counts.
  const reach = TOLERANCE * finest;
  const near = reasons.map(({ band, weight: own }) => ({
    bottom: Math.max(band.bottom, Math.min(seed.bottom - reach, band.top)),
    top: Math.min(band.top, Math.max(seed.top + reach, band.bottom)),
    own,
  }));
  const middle = near.reduce((sum, { bottom, top, own }) => sum + ((bottom + top) / 2) * own, 0) / weight;
  const half = (WIDEST * finest) / 2;
  return {
    bottom: Math.max(Math.min(...near.map(({ bottom }) => bottom)), middle - half),
    top: Math.min(Math.max(...near.map(({ top }) => top)), middle + half),
    weight,
    ...{ reasons: told, rungs },
  };
}

/** An area on the market's ticks, never narrower than it was. */
export function onGrid<T extends Pick<Area, "bottom" | "top">>(area: T, tick: number): T {
  const steps = (price: number, round: (value: number) => number) =>
    Number((round(Number((price / tick).toPrecision(12))) * tick).toPrecision(12));
  return { ...area, bottom: steps(area.bottom, Math.floor), top: steps(area.top, Math.ceil) };
}

/** How far a price is from an area: 0 inside, above zero when the area lies higher. */
export function distanceTo({ bottom, top }: Pick<Area, "bottom" | "top">, price: number): number {
  return price < bottom ? bottom - price : price > top ? top - price : 0;
}

/** The area that goes on from one of before: of those that share a reason with it, the one that shares most. */
export function successorOf(before: Area, areas: readonly Area[]): Area | undefined {
  const ids = new Set(before.reasons.map(({ id }) => id));
  const shared = (area: Area) => area.reasons.filter(({ id }) => ids.has(id)).length;
  let best: Area | undefined;
  for (const area of areas) if (shared(area) > (best ? shared(best) : 0)) best = area;
  return best;
}

/** The nearest area on each side of a price, and the room to it; an area that holds the price is none of the two. */
export function roomAt(areas: readonly Area[], price: number): { above?: Area; below?: Area; inside?: Area } {
  const above = areas.filter(({ bottom }) => bottom > price).at(0);
  const below = areas.filter(({ top }) => top < price).at(-1);
  const inside = areas.find(({ bottom, top }) => bottom <= price && top >= price);
  return { ...(above ? { above } : {}), ...(below ? { below } : {}), ...(inside ? { inside } : {}) };
}
