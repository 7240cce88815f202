import { unchangedFor, Window } from "#core/studies/steps";
import { above0, OF, whole, type Bars, type Study } from "#core/studies/study";

/** The straight line of least squares through the last values, and a channel by its standard error. */
export const linearRegressionStudy: Study = {
  name: "linearRegression",
  title: "Regression channel",
  short: "Regression",
  says: "the line of least squares through the last values, and a channel in standard errors about it",
  source: "least squares; channel by the standard error of estimate",
  parameters: [whole("period", 14, 3), OF, above0("deviations", 2)],
  lines: [
    { name: "value", unit: "price" },
    { name: "slope", unit: "price", ink: "none" },
    { name: "intercept", unit: "price", ink: "none" },
    { name: "error", unit: "price", ink: "none" },
    { name: "r2", unit: "share", ink: "none" },
    { name: "upper", unit: "price", ink: "edge" },
    { name: "lower", unit: "price", ink: "edge" },
  ],
  place: "price",
  between: ["upper", "lower"],
  begin(params, { tick }) {
    const period = params.period as number;
    // Whether all are equal is asked of prices in whole ticks.
    const grid = params.of === "volume" ? 0 : tick;
    const window = new Window(period);
    const same = unchangedFor();
    const middle = (period - 1) / 2;
    // The sum of (x - middle)^2 over x = 0 .. period - 1.
    const spread = (period * (period * period - 1)) / 12;
    const out = [NaN, NaN, NaN, NaN, NaN, NaN, NaN];
    return (bars, i) => {
      const given = bars[params.of as keyof Bars][i];
      window.push(given);
      const flat = same(grid > 0 ? Math.round(given / grid) : given) >= period;
      if (!window.isFull) return out;
      let sum = 0;
      for (const value of window) sum += value;
      const mean = sum / period;
      let [both, squares, x] = [0, 0, 0];
      for (const value of window) {
        both += (x++ - middle) * (value - mean);
        squares += (value - mean) ** 2;
      }
      const slope = flat ? 0 : both / spread;
      const intercept = mean - slope * middle;
      let rest = 0;
      x = 0;
      if (!flat) for (const value of window) rest += (value - intercept - slope * x++) ** 2;
      const error = Math.sqrt(rest / (period - 2));
      const value = intercept + slope * (period - 1);
      const reach = (params.deviations as number) * error;
      [out[0], out[1], out[2], out[3]] = [value, slope, intercept, error];
      [out[4], out[5], out[6]] = [flat ? NaN : 1 - rest / squares, value + reach, value - reach];
      return out;
    };
  },
};
