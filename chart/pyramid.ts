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

function halve(fine: Series): Series {
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
