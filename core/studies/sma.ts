import { runningMean, stepped } from "#core/studies/steps";
import { OF, ofValues, whole, type Study } from "#core/studies/study";

/** Simple moving average: the mean of the last `period` values, NaN before there are that many. */
export const sma = (values: Float64Array, period: number): Float64Array => stepped(values, runningMean(period));

export const smaStudy: Study = {
  name: "sma",
  title: "Simple average",
  says: "simple moving average",
  source: "common practice",
  parameters: [whole("period"), OF],
  lines: [{ name: "value", unit: "price" }],
  place: "price",
  begin: (params) => ofValues(runningMean(params.period as number), params),
};
