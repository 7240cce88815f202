import { unchangedFor, Window } from "#core/studies/steps";
import { above0, whole, type Study } from "#core/studies/study";

/** How far the typical price is from its mean, in mean absolute deviations about it. */
export const commodityChannelStudy: Study = {
  name: "commodityChannel",
  title: "Commodity channel index",
  short: "CCI",
  says: "how far the typical price is from its mean, in mean absolute deviations",
  source: "D. R. Lambert, 1980; from memory",
  parameters: [whole("period", 20), above0("constant", 0.015)],
  lines: [{ name: "value", unit: "number" }],
  place: "own",
  levels: [-100, 100],
  begin({ period: given, constant }, { tick }) {
    const period = given as number;
    const window = new Window(period);
    const same = unchangedFor();
    const out = [NaN];
    return ({ high, low, close }, i) => {
      const sum = high[i] + low[i] + close[i];
      window.push(sum / 3);
      const flat = same(Math.round(sum / tick)) >= period;
      if (!window.isFull) return out;
      let total = 0;
      for (const value of window) total += value;
      const mean = total / period;
      let away = 0;
      for (const value of window) away += Math.abs(value - mean);
      out[0] = flat ? 0 : (sum / 3 - mean) / ((constant as number) * (away / period));
      return out;
    };
  },
};
