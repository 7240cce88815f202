import { lastAtOrBefore, type Series } from "#core/series/series";

/** A multiple of a leg's bars counted from a third bar: the bar it falls on, or how far ahead of the last it lies. */
export interface TimeRatio {
  ratio: number;
  bars: number;
  time?: number;
  ahead?: number;
}

/**
 * Multiples of the bars from a to b, counted from c (common practice, no source). A time stands for the last bar whose
 * label is at or before it. Throws a RangeError with a sentence of times outside of the bars, or of no leg.
 */
export function timeRatios(
  { a, b, c }: { a: number; b: number; c: number },
  ratios: readonly number[],
  series: Series,
): TimeRatio[] {
  const last = series.length - 1;
  const indexOf = (time: number, name: string) => {
    if (last < 0 || time < series.time[0] || time > series.time[last])
      throw new RangeError(`"${name}" lies outside of the bars.`);
    return lastAtOrBefore(series, time);
  };
  const [from, to, origin] = [indexOf(a, "a"), indexOf(b, "b"), indexOf(c, "c")];
  if (to <= from) throw new RangeError('"b" must be a later bar than "a".');
  return ratios.map((ratio) => {
    const bars = Math.floor(ratio * (to - from) + 0.5 + 1e-9);
    const at = origin + bars;
    return { ratio, bars, ...(at <= last ? { time: series.time[at] } : { ahead: at - last }) };
  });
}
