import type { BandAtBirth, Outcome, OutcomeRules } from "#core/measure/measured";

interface Bars {
  high: ArrayLike<number>;
  low: ArrayLike<number>;
  close: ArrayLike<number>;
  atr: ArrayLike<number>;
}

/** A second way to say what became of a band: looked for bar by bar, sharing nothing with the first. */
export function plainOutcome(
  band: BandAtBirth,
  bars: Bars,
  length: number,
  rules: OutcomeRules,
  tick: number,
): Outcome {
  const isDemand = band.side === "demand";
  let t = band.knownAt + 1;
  while (t < length && (isDemand ? bars.low[t] > band.top + tick / 1000 : bars.high[t] < band.bottom - tick / 1000))
    t++;
  if (t >= length) return { result: "untouched" };
  const unit = bars.atr[t];
  for (let i = t; i <= t + rules.horizon && i < length; i++) {
    const close = bars.close[i];
    const gone = isDemand ? band.bottom - close : close - band.top;
    const back = isDemand ? close - band.top : band.bottom - close;
    if (gone > tick / 1000) return { result: "broken", touchedAt: t, at: i };
    if (back >= rules.away * unit - tick / 1000) return { result: "respected", touchedAt: t, at: i };
  }
  const last = t + rules.horizon;
  return last < length ? { result: "open", touchedAt: t, at: last } : { result: "open", touchedAt: t };
}
