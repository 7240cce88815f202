import { pivotsOf } from "#core/levels/pivots";
import type { Study } from "#core/studies/study";

const NAMES = ["P", "R1", "R2", "S1", "S2"] as const;

/** The classic pivots of the period before, at every bar of the period they hold for. */
export const pivotLevelsStudy: Study = {
  name: "pivotLevels",
  title: "Pivots of the period before",
  short: "Pivots",
  says: "classic pivots of the day, week or month before, at every bar of the period they hold for",
  source: "floor traders' practice, no source",
  parameters: [{ name: "period", kind: "period", fallback: "P1M" }],
  lines: NAMES.map((name) => ({ name, unit: "price", ink: name === "P" ? "second" : "third" })),
  place: "price",
  steps: true,
  begin(_params, { periodAt }) {
    let [period, high, low, close] = [NaN, NaN, NaN, NaN];
    const out: number[] = NAMES.map(() => NaN);
    return (bars, i) => {
      const now = periodAt!(bars.time[i]);
      if (now !== period) {
        if (!Number.isNaN(period)) {
          const pivots = pivotsOf({ high, low, close });
          NAMES.forEach((name, n) => (out[n] = pivots[name]));
        }
        [period, high, low] = [now, bars.high[i], bars.low[i]];
      } else [high, low] = [Math.max(high, bars.high[i]), Math.min(low, bars.low[i])];
      close = bars.close[i];
      return out;
    };
  },
};
