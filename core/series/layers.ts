import { grown } from "#core/series/grown";
import { resample } from "#core/series/resample";
import { allocate, concat, firstAtOrAfter, slice, type Series } from "#core/series/series";
import { bucketAt } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { divides, isIntraday, nominalLength, type Timeframe } from "#core/time/timeframe";

/** Bars of one stored resolution. */
export interface Layer {
  base: Timeframe;
  series: Series;
}

const ONE_DAY: Timeframe = { count: 1, unit: "day" };

/**
 * Bars of `timeframe` from every stored resolution that divides it. Each bar is made from the finest resolution
 * that covers it wholly: a finer one takes over at the first bar it holds from its very open, and gives back after
 * its last bar. Weeks and longer are put together from days found that way, so a week may begin with daily bars
 * and end with minutes.
 */
export function deriveFromLayers(layers: readonly Layer[], timeframe: Timeframe, calendar: Calendar): Series {
  const usable = layers
    .filter(({ base, series }) => series.length > 0 && divides(base, timeframe))
    .sort((a, b) => nominalLength(b.base) - nominalLength(a.base));
  const viaDays = !isIntraday(timeframe) && usable.some(({ base }) => isIntraday(base));
  const target = viaDays ? ONE_DAY : timeframe;
  let out = allocate(0);
  for (const { base, series } of usable) {
    if (viaDays && !divides(base, ONE_DAY)) continue;
    const finer = resample(series, base, target, calendar);
    out = overlay(out, finer, coveredFrom(series, base, target, calendar));
  }
  return viaDays && nominalLength(timeframe) > DAY ? resample(out, ONE_DAY, timeframe, calendar) : out;
}

/** Time of the first target bar that `series` holds from its open. */
function coveredFrom(series: Series, base: Timeframe, target: Timeframe, calendar: Calendar): number {
  if (!isIntraday(base)) return -Infinity;
  const first = bucketAt(series.time[0], target, calendar);
  return series.time[0] <= first.from ? first.time : first.time + 1;
}

function overlay(coarse: Series, finer: Series, from: number): Series {
  if (coarse.length === 0) return finer;
  const start = firstAtOrAfter(finer, from);
  if (start >= finer.length) return coarse;
  const end = seesMore(coarse, finer) ? finer.length - 1 : finer.length;
  if (end <= start) return coarse;
  return concat([
    slice(coarse, 0, firstAtOrAfter(coarse, finer.time[start])),
    slice(finer, start, end),
    slice(coarse, firstAtOrAfter(coarse, finer.time[end - 1] + 1), coarse.length),
  ]);
}

/** Whether the coarser bar at the end of the finer ones reaches beyond it: the finer one was cut short. */
function seesMore(coarse: Series, finer: Series): boolean {
  const n = finer.length - 1;
  const i = firstAtOrAfter(coarse, finer.time[n]);
  if (i >= coarse.length || coarse.time[i] !== finer.time[n]) return false;
  const [above, below] = [coarse.high[i] - finer.high[n], finer.low[n] - coarse.low[i]];
  return above >= 0 && below >= 0 && (above > 0 || below > 0 || coarse.volume[i] > finer.volume[n]);
}

/**
 * The same as `deriveFromLayers` where bars have only been added since `known` was derived: its last bar is made anew,
 * and
 * those after it. O(new bars), and what a day before them holds.
 */
export function growFromLayers(
  known: Series,
  layers: readonly Layer[],
  timeframe: Timeframe,
  calendar: Calendar,
): Series {
  if (known.length === 0) return deriveFromLayers(layers, timeframe, calendar);
  const last = known.time[known.length - 1];
  // A finer layer takes over at the first bar it holds from its open: far enough back that this lies before the last
  // one.
  const since = last - 3 * Math.max(nominalLength(timeframe), DAY);
  const tail = layers.map(({ base, series }) => ({
    base,
    series: slice(series, firstAtOrAfter(series, since), series.length),
  }));
  const derived = deriveFromLayers(tail, timeframe, calendar);
  return grown(known, slice(derived, firstAtOrAfter(derived, last), derived.length));
}
