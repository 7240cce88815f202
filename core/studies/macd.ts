import { exponentialMean } from "#core/studies/steps";
import { whole, type Study } from "#core/studies/study";

/** A fast less a slow exponential average, and an exponential average of that (G. Appel, about 1979; from memory). */
export const macdStudy: Study = {
  name: "macd",
  title: "Moving average convergence and divergence",
  short: "MACD",
  says: "a fast less a slow exponential average of the close, and its own average",
  source: "G. Appel, about 1979; from memory",
  parameters: [whole("fast", 12), whole("slow", 26), whole("signal", 9)],
  lines: [
    { name: "macd", unit: "price" },
    { name: "signal", unit: "price", ink: "second" },
    { name: "histogram", unit: "price", ink: "columns" },
  ],
  place: "own",
  levels: [0],
  against: ["macd", "signal"],
  begin({ fast, slow, signal }) {
    const [quick, calm, mean] = [fast, slow, signal].map((period) => exponentialMean(period as number));
    const out = [NaN, NaN, NaN];
    return ({ close }, i) => {
      const line = quick(close[i]) - calm(close[i]);
      const average = mean(line);
      [out[0], out[1], out[2]] = [line, average, line - average];
      return out;
    };
  },
};
