import { exponentialMean, stepped } from "#core/studies/steps";
import { OF, ofValues, usually, type Study } from "#core/studies/study";

/**
 * Exponential moving average with factor 2 / (period + 1), seeded with the mean of the first `period` values;
 * NaN before. Leading NaN of the input (another study's warm-up) are passed over.
 */
export const ema = (values: Float64Array, period: number): Float64Array => stepped(values, exponentialMean(period));

export const emaStudy: Study = {
  name: "ema",
  title: "Exponential average",
  short: "EMA",
  says: "exponential moving average, seeded with the mean of the first values",
  source: "common practice",
  parameters: [usually("period", 20), OF],
  lines: [{ name: "value", unit: "price" }],
  place: "price",
  begin: (params) => ofValues(exponentialMean(params.period as number), params),
};
