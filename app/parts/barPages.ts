import { PAGE, readBarPageHead } from "#contracts/barPage";
import type { Hours } from "#core/series/hours";
import { grown } from "#core/series/grown";
import { concat, firstAtOrAfter, fromBuffer, slice, type Series } from "#core/series/series";

/** Where bars are had from. */
export interface BarAddress {
  market: string;
  rung: string;
  hours: Hours;
  /** A past instant after which nothing is seen. */
  asOf?: number | undefined;
}

/** The newest part of a series, as far as it has been loaded. */
export interface LoadedSeries {
  series: Series;
  /** How many bars come before. */
  start: number;
  revision: number;
  history: number;
}

/** Where the newest bars are had; pages are named after it. */
export function barsAddress({ market, rung, hours, asOf }: BarAddress): string {
  return `/bars/${market}/${rung}?hours=${hours}${asOf === undefined ? "" : `&asOf=${asOf}`}`;
}

async function fetchBars(address: BarAddress, rest: string): Promise<LoadedSeries> {
  const response = await fetch(`${barsAddress(address)}${rest}`);
  if (!response.ok) throw new Error(`The bars of ${address.market} could not be had.`);
  const series = fromBuffer(new Float64Array(await response.arrayBuffer()));
  return { series, ...readBarPageHead(response.headers) };
}

export function loadNewest(address: BarAddress): Promise<LoadedSeries> {
  return fetchBars(address, "");
}

/** What will be wanted next, on its way or here already; the newest few. */
const ahead = new Map<string, Promise<LoadedSeries>>();
const MOST_AHEAD = 4;

/** Loads bars before they are wanted. */
export function loadAhead(address: BarAddress): void {
  const key = barsAddress(address);
  if (ahead.has(key)) return;
  const coming = loadNewest(address);
  coming.catch(() => ahead.delete(key));
  ahead.set(key, coming);
  for (const old of [...ahead.keys()].slice(0, -MOST_AHEAD)) ahead.delete(old);
}

/** Bars that were loaded ahead, once: they may have been added to since. */
export function takeAhead(address: BarAddress): Promise<LoadedSeries> | undefined {
  const key = barsAddress(address);
  const coming = ahead.get(key);
  ahead.delete(key);
  return coming;
}

/**
 * As many pages more as there are, so that loading all of a series takes time in proportion to it. `undefined` when
 * its history was changed meanwhile: what is loaded is of no use then.
 */
export async function loadEarlier(address: BarAddress, loaded: LoadedSeries): Promise<LoadedSeries | undefined> {
  const first = Math.ceil(loaded.start / PAGE);
  const count = Math.min(first, Math.max(1, Math.floor(loaded.series.length / PAGE)));
  const pages = await Promise.all(
    Array.from({ length: count }, (_, i) => fetchBars(address, `&page=${first - count + i}&history=${loaded.history}`)),
  );
  if (pages.some(({ history }) => history !== loaded.history)) return undefined;
  return { ...loaded, start: pages[0].start, series: concat([...pages.map(({ series }) => series), loaded.series]) };
}

/** Newest bars over those that were loaded before, which may be changed at their end only. */
export function joinNewest(before: LoadedSeries | undefined, newest: LoadedSeries): LoadedSeries {
  if (
    !before ||
    before.history !== newest.history ||
    before.series.length === 0 ||
    newest.start > before.start + before.series.length
  )
    return newest;
  if (newest.start <= before.start) return newest;
  return {
    ...newest,
    start: before.start,
    series: concat([slice(before.series, 0, newest.start - before.start), newest.series]),
  };
}

/** Bars before an instant that what begins there may look back on (averages, ranges, the base before a move). */
const LEAD = 220;

/** Whether bars reach back to an instant and to what is looked back on from there, as far as there are any. */
export function reaches({ series, start }: Pick<LoadedSeries, "series" | "start">, time: number): boolean {
  return start === 0 || firstAtOrAfter(series, time) >= LEAD;
}

/** Everything from `time` on, and what leads up to it; what was loaded before is kept where it still stands. */
export async function loadSince(address: BarAddress, time: number, before?: LoadedSeries): Promise<LoadedSeries> {
  let loaded = joinNewest(before, await loadNewest(address));
  while (!reaches(loaded, time)) loaded = (await loadEarlier(address, loaded)) ?? (await loadNewest(address));
  return loaded;
}

/** Bars that the live stream brought, which replace the last ones. */
export function withChanged(series: Series, changed: Series): Series {
  return grown(series, changed);
}
