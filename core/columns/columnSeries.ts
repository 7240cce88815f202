import type { PointAndFigure } from "#core/columns/pointAndFigure";
import { allocate, setBar, type Series } from "#core/series/series";

/**
 * Columns as bars, so that whatever stands on an axis of bars stands on one of columns: each is dated by the bar that
 * began it, opens at its first box and closes at its last. The last one closes at the last price there is, which lies
 * on no box.
 */
export function columnSeries(chart: Pick<PointAndFigure, "columns" | "priceOf">, bars: Series): Series {
  const out = allocate(chart.columns.length);
  chart.columns.forEach(({ isRising, bottom, top, start }, i) => {
    const [low, high] = [chart.priceOf(bottom), chart.priceOf(top)];
    const isLast = i === chart.columns.length - 1;
    setBar(out, i, {
      ...{ time: bars.time[start], open: isRising ? low : high, high, low },
      close: isLast ? bars.close[bars.length - 1] : isRising ? high : low,
      volume: 0,
    });
  });
  return out;
}
