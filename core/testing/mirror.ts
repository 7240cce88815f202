import { fromBars, barAt, type Bar, type Series } from "#core/series/series";

/** Every price p of a series as `turn(p)`; highs and lows change places where the turn reverses order. */
export function turned(series: Series, turn: (price: number) => number): Series {
  return fromBars(
    Array.from({ length: series.length }, (_, i): Bar => {
      const bar = barAt(series, i);
      const [a, b] = [turn(bar.high), turn(bar.low)];
      return { ...bar, open: turn(bar.open), close: turn(bar.close), high: Math.max(a, b), low: Math.min(a, b) };
    }),
  );
}

/** The same bars, `by` milliseconds later. */
export function later(series: Series, by: number): Series {
  return { ...series, time: series.time.map((time) => time + by) };
}
