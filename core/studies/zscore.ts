import { unchangedFor, windowMoments } from "#core/studies/steps";
import { OF, ofValues, whole, type Study } from "#core/studies/study";

/** How far a value is from the mean of the last ones, in their population deviation. */
export const zscoreStudy: Study = {
  name: "zscore",
  title: "Distance in deviations",
  short: "Z",
  says: "how far the value is from the mean of the last ones, in population deviations",
  source: "statistics",
  parameters: [whole("period", 20), OF],
  lines: [{ name: "value", unit: "number" }],
  place: "own",
  levels: [-2, 2],
  begin(params, { tick }) {
    const moments = windowMoments(params.period as number);
    const same = unchangedFor();
    const grid = params.of === "volume" ? 0 : tick;
    return ofValues((value) => {
      const found = moments(value);
      const flat = same(grid > 0 ? Math.round(value / grid) : value) >= (params.period as number);
      if (!found) return NaN;
      return flat ? 0 : (value - found.mean) / Math.sqrt(found.variance);
    }, params);
  },
};
