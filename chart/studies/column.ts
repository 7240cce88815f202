/**
 * A line's values at halving densities, so that drawing it costs by pixels and not by bars: of so many bars the lowest
 * and the highest value. Made once for a column; NaN where no bar of them has a value.
 */
export interface ColumnPyramid {
  lows: Float64Array[];
  highs: Float64Array[];
}

const COARSEST = 512;

const built = new WeakMap<Float64Array, ColumnPyramid>();

export function columnPyramid(values: Float64Array): ColumnPyramid {
  const known = built.get(values);
  if (known) return known;
  const pyramid: ColumnPyramid = { lows: [values], highs: [values] };
  while (pyramid.lows.at(-1)!.length > COARSEST) {
    pyramid.lows.push(halved(pyramid.lows.at(-1)!, -1));
    pyramid.highs.push(halved(pyramid.highs.at(-1)!, 1));
  }
  built.set(values, pyramid);
  return pyramid;
}

function halved(fine: Float64Array, sign: 1 | -1): Float64Array {
  const out = new Float64Array(Math.ceil(fine.length / 2));
  for (let i = 0; i < out.length; i++) {
    const a = fine[2 * i];
    const b = 2 * i + 1 < fine.length ? fine[2 * i + 1] : a;
    out[i] = Number.isNaN(a) ? b : Number.isNaN(b) || sign * a >= sign * b ? a : b;
  }
  return out;
}

/** A part of a line: the lowest and highest value of every `step` bars, from bar `start` on. */
export interface ColumnSlice {
  lows: Float64Array;
  highs: Float64Array;
  start: number;
  step: number;
}

/** The values between two bar indices, at the finest density with at most `most` of them. */
export function visibleColumn(values: Float64Array, from: number, to: number, most: number): ColumnSlice {
  const { lows, highs } = columnPyramid(values);
  let level = 0;
  while (level < lows.length - 1 && (to - from) / 2 ** level > most) level++;
  const step = 2 ** level;
  const first = Math.max(0, Math.floor((from - 0.5) / step));
  const last = Math.max(first, Math.min(lows[level].length, Math.ceil((to + 0.5) / step) + 1));
  return {
    lows: lows[level].subarray(first, last),
    highs: highs[level].subarray(first, last),
    start: first * step,
    step,
  };
}

/** The lowest and highest value between two bar indices; `undefined` where there is none. */
export function extremesOf(values: Float64Array, from: number, to: number): [number, number] | undefined {
  const { lows, highs } = visibleColumn(values, from, to, 2_000);
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < lows.length; i++) {
    if (lows[i] < low) low = lows[i];
    if (highs[i] > high) high = highs[i];
  }
  return low <= high ? [low, high] : undefined;
}
