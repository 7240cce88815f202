import { allocate, barAt, setBar, type Series } from "#core/series/series";
import { drawsOf } from "#core/statistics/intervals";

/**
 * The bars of a series in another order, each as it stood to the close before it, on whole ticks: what is found in them
 * is chance (a permutation of returns; E. J. G. Pitman, 1937, from memory). The same for the same seed.
 */
export function shuffledBars(series: Series, seed: number, tick: number): Series {
  const out = allocate(series.length);
  if (series.length === 0) return out;
  const draw = drawsOf(seed);
  const order = Array.from({ length: series.length - 1 }, (_, n) => n + 1);
  for (let n = order.length - 1; n > 0; n--) {
    const other = draw(n + 1);
    [order[n], order[other]] = [order[other], order[n]];
  }
  setBar(out, 0, barAt(series, 0));
  let close = series.close[0];
  order.forEach((from, n) => {
    const before = series.close[from - 1];
    // Shares of prices above zero; where there are none, differences.
    const moved = (price: number) => (before > 0 && close > 0 ? (price / before) * close : price - before + close);
    const whole = (price: number) => Math.round(moved(price) / tick) * tick;
    const [open, high, low, next] = [series.open[from], series.high[from], series.low[from], series.close[from]].map(
      whole,
    );
    setBar(out, n + 1, { time: series.time[n + 1], open, high, low, close: next, volume: series.volume[from] });
    close = next;
  });
  return out;
}
