import { rsi } from "#core/studies/rsi";
import { lastAtOrBefore, type Series } from "#core/series/series";
import type { Momentum } from "#core/waves/guidelines";
import type { Wave } from "#core/waves/wave";

const kept = new WeakMap<Series, Float64Array>();

/**
 * RSI(14) at the pivots of a wave and the mean volume a bar of its finished waves, on the bars given; undefined where
 * bars do not reach.
 */
export function momentumOf({ pivots }: Pick<Wave, "pivots">, series: Series): Momentum {
  const values = kept.get(series) ?? rsi(series.close, 14);
  kept.set(series, values);
  const at = pivots.map(({ time }) => lastAtOrBefore(series, time));
  const known = (value: number | undefined) => (value === undefined || Number.isNaN(value) ? undefined : value);
  return {
    rsi: at.map((i) => (i < 0 ? undefined : known(values[i]))),
    volume: at.slice(1).map((to, i) => {
      const from = at[i];
      if (from < 0 || to <= from) return undefined;
      let sum = 0;
      for (let bar = from + 1; bar <= to; bar++) sum += series.volume[bar];
      return sum / (to - from);
    }),
  };
}
