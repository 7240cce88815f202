import { rangeMean } from "#core/studies/atr";
import { exponentialMean, runningMean, weightedMean } from "#core/studies/steps";
import { ofBars, whole, type Study } from "#core/studies/study";

const MEANS = { sma: runningMean, ema: exponentialMean, wma: weightedMean } as const;

/** How far the close is from an average of closes, in average true ranges. */
export const distanceFromMeanStudy: Study = {
  name: "distanceFromMean",
  title: "Distance from the mean",
  short: "From mean",
  says: "how far the close is from an average, in average true ranges",
  source: "common practice",
  parameters: [
    whole("period", 20),
    { name: "average", kind: "choice", of: Object.keys(MEANS), fallback: "sma" },
    whole("atr", 14),
  ],
  lines: [{ name: "value", unit: "atr" }],
  place: "own",
  levels: [-2, 0, 2],
  begin({ period, average, atr }) {
    const mean = MEANS[average as keyof typeof MEANS](period as number);
    const range = rangeMean(atr as number);
    return ofBars((bars, i) => {
      const [at, reach] = [mean(bars.close[i]), range(bars, i)];
      return reach > 0 ? (bars.close[i] - at) / reach : NaN;
    });
  },
};
