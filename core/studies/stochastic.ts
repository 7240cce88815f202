import { runningMean, WindowExtreme, type Step } from "#core/studies/steps";
import { whole, type Bars, type Study } from "#core/studies/study";

/** Where the close stands in the range of the last bars, 0 (at the low) to 1; half way in a range without height. */
export function placeInRange(period: number): (bars: Bars, i: number) => number {
  const [top, bottom] = [new WindowExtreme(period, 1), new WindowExtreme(period, -1)];
  return ({ high, low, close }, i) => {
    const [up, down] = [top.next(high[i]), bottom.next(low[i])];
    return up > down ? (close[i] - down) / (up - down) : Number.isNaN(up) ? NaN : 0.5;
  };
}

/** A mean of what is defined; what comes before is passed over. */
function meanOnce(period: number): Step {
  const mean = runningMean(period);
  return (value) => (Number.isNaN(value) ? NaN : mean(value));
}

/**
 * Where the close stands in the range of the last `period` bars, 0 to 100, as a simple average of `smoothing` (`k`) and
 * an average of that over `signal` (`d`) (G. Lane, from memory). In a range without height it stands in the middle: 50.
 */
export const stochasticStudy: Study = {
  name: "stochastic",
  title: "Place in the range",
  short: "Stochastic",
  says: "where the close stands in the range, 0 to 100, smoothed, and its average",
  source: "G. Lane, from memory",
  parameters: [whole("period", 14), whole("smoothing", 3), whole("signal", 3)],
  lines: [
    { name: "k", unit: "hundred" },
    { name: "d", unit: "hundred", ink: "second" },
  ],
  place: [0, 100],
  levels: [20, 80],
  against: ["k", "d"],
  begin({ period, smoothing, signal }) {
    const place = placeInRange(period as number);
    const [smooth, mean] = [meanOnce(smoothing as number), meanOnce(signal as number)];
    const out = [NaN, NaN];
    return (bars, i) => {
      out[0] = smooth(100 * place(bars, i));
      out[1] = mean(out[0]);
      return out;
    };
  },
};
