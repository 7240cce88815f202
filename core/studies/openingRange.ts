import { whole, type Study } from "#core/studies/study";

const MINUTE = 60_000;

/**
 * The highest and lowest price of the first minutes of a trading day, from the close of the bar that ends them to the
 * end of that day. Bars that open within those minutes count whole; on bars of a day and longer there is none.
 */
export const openingRangeStudy: Study = {
  name: "openingRange",
  title: "Opening range of the session",
  short: "Opening range",
  says: "the highest and lowest price of the first minutes of each trading day, once they are over",
  source: "common practice",
  parameters: [whole("minutes", 30, 1, 720), { name: "period", kind: "period", fallback: "P1D" }],
  lines: [
    { name: "upper", unit: "price", ink: "edge" },
    { name: "lower", unit: "price", ink: "edge" },
  ],
  place: "price",
  steps: true,
  begin({ minutes }, { periodAt }) {
    let [period, began, high, low] = [NaN, NaN, NaN, NaN];
    const out = [NaN, NaN];
    return (bars, i) => {
      const time = bars.time[i];
      const now = periodAt!(time);
      if (now !== period) {
        [period, began, high, low] = [now, time, bars.high[i], bars.low[i]];
        [out[0], out[1]] = [NaN, NaN];
        return out;
      }
      if (time - began < (minutes as number) * MINUTE)
        [high, low] = [Math.max(high, bars.high[i]), Math.min(low, bars.low[i])];
      else [out[0], out[1]] = [high, low];
      return out;
    };
  },
};
