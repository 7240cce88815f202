import { rangeMiddle } from "#core/studies/cloud";
import { WindowExtreme } from "#core/studies/steps";
import { ofBars, whole, type Study } from "#core/studies/study";

/** The highest high and the lowest low of the last bars, the present one with them, and half way between. */
export const donchianStudy: Study = {
  name: "donchian",
  title: "Channel of highs and lows",
  short: "High-low channel",
  says: "the highest high and the lowest low of the last bars, and half way between",
  source: "common practice",
  parameters: [whole("period", 20)],
  lines: [
    { name: "upper", unit: "price", ink: "edge" },
    { name: "lower", unit: "price", ink: "edge" },
    { name: "middle", unit: "price", ink: "second" },
  ],
  place: "price",
  between: ["upper", "lower"],
  begin({ period }) {
    const [top, bottom] = [new WindowExtreme(period as number, 1), new WindowExtreme(period as number, -1)];
    const out = [NaN, NaN, NaN];
    return ({ high, low }, i) => {
      const [up, down] = [top.next(high[i]), bottom.next(low[i])];
      [out[0], out[1], out[2]] = [up, down, (up + down) / 2];
      return out;
    };
  },
};

/** That middle alone. */
export const donchianMiddleStudy: Study = {
  name: "donchianMiddle",
  title: "Middle of highs and lows",
  short: "Middle",
  says: "half way between the highest high and the lowest low of the last bars",
  source: "common practice",
  parameters: [whole("period", 20)],
  lines: [{ name: "value", unit: "price" }],
  place: "price",
  begin: ({ period }) => ofBars(rangeMiddle(period as number)),
};
