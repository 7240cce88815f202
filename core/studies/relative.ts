import { closeBeside } from "#core/studies/others";
import type { Study } from "#core/studies/study";

/** A market against another one: their ratio, and that ratio against where it began. */
export const relativeStudy: Study = {
  name: "relative",
  title: "Relative line",
  short: "Relative",
  says: "a market against another one: their ratio, and the ratio against the first as 100",
  source: "common practice",
  parameters: [
    { name: "with", kind: "market" },
    { name: "from", kind: "time", fallback: "first" },
  ],
  lines: [
    { name: "ratio", unit: "ratio", ink: "none" },
    { name: "value", unit: "number" },
  ],
  place: "own",
  levels: [100],
  main: "value",
  begin({ from }, { other }) {
    const beside = closeBeside(other!);
    const since = typeof from === "number" ? from : -Infinity;
    let first: number | undefined;
    const out = [NaN, NaN];
    return ({ time, close }, i) => {
      const there = beside(time[i]);
      [out[0], out[1]] = [NaN, NaN];
      if (there === undefined || time[i] < since) return out;
      const ratio = close[i] / there;
      first ??= ratio;
      [out[0], out[1]] = [ratio, (100 * ratio) / first];
      return out;
    };
  },
};
