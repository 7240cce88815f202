import { rangeMean } from "#core/studies/atr";
import { exponentialMean } from "#core/studies/steps";
import { above0, whole, type Study } from "#core/studies/study";

/** An exponential average of the close and bands so many average true ranges away from it. */
export const keltnerStudy: Study = {
  name: "keltner",
  title: "Average with bands of range",
  short: "Range bands",
  says: "an exponential average of the close and bands in average true ranges about it",
  source:
    "C. W. Keltner 1960 took simple averages of typical price and range; this is the later form (common practice)",
  parameters: [whole("period", 20), whole("atr", 10), above0("multiple", 2)],
  lines: [
    { name: "middle", unit: "price" },
    { name: "upper", unit: "price", ink: "edge" },
    { name: "lower", unit: "price", ink: "edge" },
  ],
  place: "price",
  between: ["upper", "lower"],
  begin({ period, atr, multiple }) {
    const [mean, range] = [exponentialMean(period as number), rangeMean(atr as number)];
    const out = [NaN, NaN, NaN];
    return (bars, i) => {
      const [middle, reach] = [mean(bars.close[i]), (multiple as number) * range(bars, i)];
      [out[0], out[1], out[2]] = [middle, middle + reach, middle - reach];
      return out;
    };
  },
};
