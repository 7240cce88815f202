import { runningMean } from "#core/studies/steps";
import { whole, type Study } from "#core/studies/study";

/** How much of its usual range a period has used so far, and what is left of it. */
export const rangeUseStudy: Study = {
  name: "rangeUse",
  title: "Use of the range",
  short: "Range use",
  says: "how much of its usual range a day, a week or a month has used so far, and what is left",
  source: "common practice",
  parameters: [{ name: "period", kind: "period", fallback: "P1W" }, whole("n", 20)],
  lines: [
    { name: "used", unit: "price", ink: "none" },
    { name: "usual", unit: "price", ink: "none" },
    { name: "share", unit: "share", ink: "columns" },
    { name: "left", unit: "price", ink: "none" },
  ],
  place: "own",
  levels: [1],
  main: "share",
  begin({ n }, { periodAt }) {
    const mean = runningMean(n as number);
    let [period, top, bottom, usual] = [NaN, NaN, NaN, NaN];
    const out = [NaN, NaN, NaN, NaN];
    return ({ time, high, low }, i) => {
      const now = periodAt!(time[i]);
      if (now !== period) {
        if (!Number.isNaN(period)) usual = mean(top - bottom);
        [period, top, bottom] = [now, high[i], low[i]];
      } else [top, bottom] = [Math.max(top, high[i]), Math.min(bottom, low[i])];
      if (Number.isNaN(usual)) return out;
      const used = top - bottom;
      [out[0], out[1]] = [used, usual];
      [out[2], out[3]] = [usual > 0 ? used / usual : NaN, Math.max(0, usual - used)];
      return out;
    };
  },
};
