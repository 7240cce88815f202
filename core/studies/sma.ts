import { runningMean, stepped } from "#core/studies/steps";
import { OF, ofValues, usually, type Study } from "#core/studies/study";

/** Simple moving average: the mean of the last `period` values, NaN before there are that many. */
export const sma = (values: Float64Array, period: number): Float64Array => stepped(values, runningMean(period));

export const smaStudy: Study = {
  name: "sma",
  title: "Simple average",
  short: "SMA",
  says: "simple moving average",
  source: "common practice",
  parameters: [usually("period", 50), OF],
  lines: [{ name: "value", unit: "price" }],
  place: "price",
  begin: (params) => ofValues(runningMean(params.period as number), params),
};
