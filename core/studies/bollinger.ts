import { windowMoments } from "#core/studies/steps";
import { whole, type Study } from "#core/studies/study";

/**
 * A simple average and bands so many population standard deviations of the same window away from it (J. Bollinger, from
 * memory). Each window is taken afresh, in two passes: a running sum of squares loses what quiet windows are made of.
 */
export const bollingerStudy: Study = {
  name: "bollinger",
  title: "Average with bands of deviation",
  short: "Deviation bands",
  says: "a simple average and bands in population deviations about it",
  source: "J. Bollinger, from memory",
  parameters: [whole("period", 20), { name: "deviations", kind: "number", above: -Infinity, fallback: 2 }],
  lines: [
    { name: "middle", unit: "price" },
    { name: "upper", unit: "price", ink: "edge" },
    { name: "lower", unit: "price", ink: "edge" },
  ],
  place: "price",
  between: ["upper", "lower"],
  begin({ period, deviations }) {
    const moments = windowMoments(period as number);
    const out = [NaN, NaN, NaN];
    return ({ close }, i) => {
      const { mean, variance } = moments(close[i]) ?? { mean: NaN, variance: NaN };
      const reach = (deviations as number) * Math.sqrt(variance);
      [out[0], out[1], out[2]] = [mean, mean + reach, mean - reach];
      return out;
    };
  },
};
