import type { Series } from "#core/series/series";

/** The range of the coming period, from the ranges of the last ones. */
export interface RangeExpected {
  /** Label of the period it is known with, and of the next one once that has a bar. */
  time: number;
  for?: number;
  /** Mean of the last ranges, and a wide one of them. */
  mean: number;
  wide: number;
  /** What it is laid about, and where that leads. */
  reference: number;
  upper: number;
  lower: number;
  wideUpper: number;
  wideLower: number;
}

export interface RangeAsked {
  n: number;
  percentile: number;
  from: "close" | "open";
  reach: number;
}

/** A percentile of sorted values: at place q (n - 1), straight between neighbours. */
export function percentileOf(sorted: readonly number[], q: number): number {
  const place = q * (sorted.length - 1);
  const below = Math.floor(place);
  const above = Math.min(below + 1, sorted.length - 1);
  return sorted[below] + (place - below) * (sorted[above] - sorted[below]);
}

/**
 * What the ranges of the last `n` periods say of the next one (common practice, no source), for every complete period
 * with as many before it. `complete` is how many of the periods are.
 */
export function rangesExpected(
  periods: Series,
  complete: number,
  { n, percentile, from, reach }: RangeAsked,
): RangeExpected[] {
  const out: RangeExpected[] = [];
  for (let i = n - 1; i < complete; i++) {
    const hasNext = i + 1 < periods.length;
    if (from === "open" && !hasNext) continue;
    const ranges = Array.from({ length: n }, (_, k) => periods.high[i - k] - periods.low[i - k]);
    const mean = ranges.reduce((sum, range) => sum + range, 0) / n;
    const wide = percentileOf(
      [...ranges].sort((a, b) => a - b),
      percentile,
    );
    const reference = from === "open" ? periods.open[i + 1] : periods.close[i];
    out.push({
      time: periods.time[i],
      ...(hasNext ? { for: periods.time[i + 1] } : {}),
      ...{ mean, wide, reference },
      ...{ upper: reference + reach * mean, lower: reference - reach * mean },
      ...{ wideUpper: reference + reach * wide, wideLower: reference - reach * wide },
    });
  }
  return out;
}
