import { stepped, type Step } from "#core/studies/steps";
import { OF, ofValues, usually, type Study } from "#core/studies/study";

/** The same value by value. */
function strength(period: number): Step {
  // Average gain, average loss, the value before: doubles in an array cost nothing to write.
  const kept = new Float64Array(3);
  let n = -1;
  return (value) => {
    const change = value - kept[2];
    kept[2] = value;
    if (++n === 0) return NaN;
    const up = change > 0 ? change : 0;
    const down = change < 0 ? -change : 0;
    const gain = kept[0] + (n <= period ? up / period : (up - kept[0]) / period);
    const loss = kept[1] + (n <= period ? down / period : (down - kept[1]) / period);
    kept[0] = gain;
    kept[1] = loss;
    if (n < period) return NaN;
    return gain + loss === 0 ? 50 : (100 * gain) / (gain + loss);
  };
}

/**
 * Relative strength index, 0 to 100 (J. W. Wilder, New Concepts in Technical Trading Systems, 1978): average
 * gain over average gain plus loss, both seeded with the mean of the first `period` changes and smoothed by
 * 1 / period. First defined at index `period`. With neither gain nor loss there is no strength either way: 50.
 */
export const rsi = (values: Float64Array, period: number): Float64Array => stepped(values, strength(period));

export const rsiStudy: Study = {
  name: "rsi",
  title: "Relative strength index",
  short: "RSI",
  says: "relative strength index, 0 to 100 (Wilder 1978)",
  source: "J. W. Wilder, New Concepts in Technical Trading Systems, 1978",
  parameters: [usually("period", 14), OF],
  lines: [{ name: "value", unit: "hundred" }],
  place: [0, 100],
  levels: [30, 70],
  begin: (params) => ofValues(strength(params.period as number), params),
};
