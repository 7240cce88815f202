import { grown } from "#core/series/grown";
import { allocate, slice, type Series } from "#core/series/series";

/**
 * A series at halving densities, so that a view never draws more bars than it has pixels. Buckets are aligned to
 * the absolute index (bar i of level k spans bars i 2^k to (i + 1) 2^k of the series): panning does not make them
 * shimmer. Memory: twice the series.
 */
export interface Pyramid {
  levels: Series[];
}

const COARSEST = 512;

export function buildPyramid(series: Series): Pyramid {
  const levels = [series];
  while (levels[levels.length - 1].length > COARSEST) levels.push(halve(levels[levels.length - 1]));
  return { levels };
}

/**
 * The same for a series that has only been added to since `before` was built of it, its last bar apart. Levels grow
 * from
 * the bar that holds the last one, in their own room: the pyramid before is of no use any more. O(new bars).
 */
export function growPyramid(before: Pyramid, series: Series): Pyramid {
  const levels = [series];
  for (let k = 1; levels[k - 1].length > COARSEST; k++) {
    const known = before.levels[k];
    const fine = levels[k - 1];
    if (!known || known.length === 0) levels.push(halve(fine));
    else levels.push(grown(known, halve(fine, 2 * (known.length - 1)), true));
  }
  return { levels };
}

/** Whether a series begins with the bars of another, its last one apart: their first and last times tell. */
export function goesOn(series: Series, before: Series): boolean {
  const n = before.length;
  return n > 0 && series.length >= n && series.time[0] === before.time[0] && series.time[n - 1] === before.time[n - 1];
}

function halve(whole: Series, from = 0): Series {
  const fine = from === 0 ? whole : slice(whole, from, whole.length);
  const out = allocate(Math.ceil(fine.length / 2));
  for (let i = 0; i < out.length; i++) {
    const a = 2 * i;
    const b = Math.min(a + 1, fine.length - 1);
    out.time[i] = fine.time[a];
    out.open[i] = fine.open[a];
    out.high[i] = Math.max(fine.high[a], fine.high[b]);
    out.low[i] = Math.min(fine.low[a], fine.low[b]);
    out.close[i] = fine.close[b];
    out.volume[i] = a === b ? fine.volume[a] : fine.volume[a] + fine.volume[b];
  }
  return out;
}

export interface Slice {
  series: Series;
  /** Index, in the whole series, of the first bar of the slice, and bars a bar stands for. */
  start: number;
  step: number;
}

/** The bars between two indices, at the finest level with at most `most` of them. */
export function visible({ levels }: Pyramid, from: number, to: number, most: number): Slice {
  let level = 0;
  while (level < levels.length - 1 && (to - from) / 2 ** level > most) level++;
  const step = 2 ** level;
  const series = levels[level];
  const first = Math.max(0, Math.floor((from - 0.5) / step));
  const last = Math.min(series.length, Math.ceil((to + 0.5) / step) + 1);
  return { series: slice(series, first, Math.max(first, last)), start: first * step, step };
}
