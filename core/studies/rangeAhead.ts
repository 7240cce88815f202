import { runningMean } from "#core/studies/steps";
import { whole, type Study } from "#core/studies/study";

/** How far the usual range of a day, a week or a month reaches from the close before it, at every bar of the period. */
export const rangeAheadStudy: Study = {
  name: "rangeAhead",
  title: "Expected range of the period",
  short: "Expected range",
  says: "the mean range of the periods before, laid above and below the close before the period",
  source: "common practice",
  parameters: [{ name: "period", kind: "period", fallback: "P1W" }, whole("n", 20)],
  lines: [
    { name: "upper", unit: "price", ink: "edge" },
    { name: "lower", unit: "price", ink: "edge" },
    { name: "usual", unit: "price", ink: "none" },
  ],
  place: "price",
  steps: true,
  begin({ n }, { periodAt }) {
    const mean = runningMean(n as number);
    let [period, high, low, close] = [NaN, NaN, NaN, NaN];
    const out = [NaN, NaN, NaN];
    return (bars, i) => {
      const now = periodAt!(bars.time[i]);
      if (now !== period) {
        const usual = Number.isNaN(period) ? NaN : mean(high - low);
        [out[0], out[1], out[2]] = [close + usual, close - usual, usual];
        [period, high, low] = [now, bars.high[i], bars.low[i]];
      } else [high, low] = [Math.max(high, bars.high[i]), Math.min(low, bars.low[i])];
      close = bars.close[i];
      return out;
    };
  },
};
