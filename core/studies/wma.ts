import { stepped, weightedMean } from "#core/studies/steps";
import { OF, ofValues, usually, type Study } from "#core/studies/study";

/** Moving average with weights 1 to `period`, the newest value the heaviest; NaN before there are that many. */
export const wma = (values: Float64Array, period: number): Float64Array => stepped(values, weightedMean(period));

export const wmaStudy: Study = {
  name: "wma",
  title: "Weighted average",
  short: "WMA",
  says: "weighted moving average, the newest value the heaviest",
  source: "common practice",
  parameters: [usually("period", 20), OF],
  lines: [{ name: "value", unit: "price" }],
  place: "price",
  begin: (params) => ofValues(weightedMean(params.period as number), params),
};
