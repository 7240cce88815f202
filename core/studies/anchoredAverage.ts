import type { Study } from "#core/studies/study";

/**
 * The average from a bar of one's own choice on, weighted by volume where that bar has some, and the deviation.
 * Sums are carried on as means (D. H. D. West, Communications of the ACM 22, 1979): nothing is lost in a long one.
 */
export const anchoredAverageStudy: Study = {
  name: "anchoredAverage",
  title: "Anchored average",
  short: "Anchored average",
  says: "the average from one bar on, weighted by volume where that bar has some, and the deviation about it",
  source: "common practice",
  parameters: [
    { name: "from", kind: "time" },
    { name: "of", kind: "choice", of: ["typical", "close"], fallback: "typical" },
  ],
  lines: [
    { name: "value", unit: "price" },
    { name: "deviation", unit: "price", ink: "none" },
    { name: "weighted", unit: "flag", ink: "none" },
  ],
  place: "price",
  begin({ from, of }) {
    let weighted: boolean | undefined;
    let [weights, mean, squares] = [0, 0, 0];
    const out = [NaN, NaN, NaN];
    return ({ time, high, low, close, volume }, i) => {
      if (time[i] < (from as number)) return out;
      weighted ??= volume[i] > 0;
      const weight = weighted ? volume[i] : 1;
      if (weight > 0) {
        const value = of === "close" ? close[i] : (high[i] + low[i] + close[i]) / 3;
        weights += weight;
        const away = value - mean;
        mean += (weight / weights) * away;
        squares += weight * away * (value - mean);
      }
      [out[0], out[1], out[2]] = [mean, Math.sqrt(squares / weights), weighted ? 1 : 0];
      return out;
    };
  },
};
