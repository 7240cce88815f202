import { WindowExtreme } from "#core/studies/steps";
import { whole, type Study } from "#core/studies/study";

/** How lately the highest high and the lowest low were made, 100 at the present bar, 0 so many bars ago. */
export const aroonStudy: Study = {
  name: "aroon",
  title: "Age of highs and lows",
  short: "Aroon",
  says: "how lately the highest high and the lowest low were made, 0 to 100, and their difference",
  source: "T. Chande, 1995; from memory",
  parameters: [whole("period", 25)],
  lines: [
    { name: "up", unit: "hundred", ink: "second" },
    { name: "down", unit: "hundred", ink: "third" },
    { name: "oscillator", unit: "number" },
  ],
  place: [-100, 100],
  levels: [-50, 50],
  main: "oscillator",
  begin({ period: given }) {
    const period = given as number;
    const [top, bottom] = [new WindowExtreme(period + 1, 1), new WindowExtreme(period + 1, -1)];
    const out = [NaN, NaN, NaN];
    return ({ high, low }, i) => {
      const isDefined = !Number.isNaN(top.next(high[i]));
      bottom.next(low[i]);
      if (!isDefined) return out;
      const [up, down] = [top, bottom].map(({ stepsBack }) => (100 * (period - stepsBack)) / period);
      [out[0], out[1], out[2]] = [up, down, up - down];
      return out;
    };
  },
};
