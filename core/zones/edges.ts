import { atr } from "#core/studies/atr";
import { slice, type Series } from "#core/series/series";

export interface Base {
  /** Indices of the first and last bar of the base. */
  from: number;
  to: number;
}

export interface ZoneEdges extends Base {
  side: "demand" | "supply";
  bottom: number;
  top: number;
  /** Whether a leg strong enough has left the base since; otherwise the zone is still pending. */
  departed: boolean;
}

export interface BaseRules {
  /** A bar of the base is at most this many ATR high. */
  quiet: number;
  longest: number;
  /** The departing leg covers this many ATR ... */
  departure: number;
  /** ... within this many bars. */
  within: number;
}

export const BASE_RULES: BaseRules = { quiet: 0.7, longest: 6, departure: 1.5, within: 3 };

/** ATR(14) known before bar `i`; before its warm-up the mean range of the bars there are. */
export function atrBefore(series: Series, i: number): number {
  const from = Math.max(0, i - 200);
  const values = atr(slice(series, from, i));
  const last = values.length > 0 ? values[values.length - 1] : NaN;
  if (!Number.isNaN(last)) return last;
  let sum = 0;
  const n = Math.max(1, i - from);
  for (let j = from; j < from + n && j < series.length; j++) sum += series.high[j] - series.low[j];
  return sum / n;
}

/** The base around a bar: the neighbours as quiet as the rules ask, the bar itself always included. */
export function baseAround(series: Series, index: number, rules: BaseRules = BASE_RULES): Base {
  const limit = rules.quiet * atrBefore(series, Math.max(0, index - rules.longest));
  const quiet = (i: number) => series.high[i] - series.low[i] <= limit;
  let from = index;
  let to = index;
  while (to + 1 < series.length && to + 1 - from < rules.longest && quiet(to + 1)) to++;
  while (from > 0 && to - (from - 1) < rules.longest && quiet(from - 1)) from--;
  return { from, to };
}

/**
 * The edges of the zone a base makes. Demand: from the top of the body of the base's last bearish candle down to
 * the base's lowest wick; without a bearish candle, from the base's highest body edge. Supply mirrored.
 * The side is the way price left within `rules.within` bars; while it has not left, the way it leans.
 */
export function zoneEdges(series: Series, base: Base, rules: BaseRules = BASE_RULES): ZoneEdges {
  const { from, to } = base;
  const need = rules.departure * atrBefore(series, from);
  const last = Math.min(series.length - 1, to + rules.within);
  let top = -Infinity;
  let bottom = Infinity;
  for (let i = to + 1; i <= last; i++) {
    top = Math.max(top, series.close[i]);
    bottom = Math.min(bottom, series.close[i]);
  }
  const start = series.close[to];
  const rise = top - start;
  const fall = start - bottom;
  const side = last > to ? (rise >= fall ? "demand" : "supply") : start >= series.open[from] ? "demand" : "supply";
  return { ...base, side, ...edgesOf(series, base, side), departed: last > to && Math.max(rise, fall) >= need };
}

/** Only the edges, for a side already decided. */
export function edgesOf(
  series: Pick<Series, "open" | "high" | "low" | "close">,
  { from, to }: Base,
  side: "demand" | "supply",
): { bottom: number; top: number } {
  const sign = side === "demand" ? 1 : -1;
  const wick = sign > 0 ? series.low : series.high;
  let far = wick[from];
  let body = NaN;
  let edge = -Infinity;
  for (let i = from; i <= to; i++) {
    if (sign * wick[i] < sign * far) far = wick[i];
    const outer = Math.max(sign * series.open[i], sign * series.close[i]);
    if (outer > edge) edge = outer;
    if (sign * (series.close[i] - series.open[i]) < 0) body = series.open[i];
  }
  const near = Number.isNaN(body) ? sign * edge : body;
  return sign > 0 ? { bottom: far, top: near } : { bottom: near, top: far };
}
