import { placeInRange } from "#core/studies/stochastic";
import { ofBars, whole, type Study } from "#core/studies/study";

/** How far the close is below the top of the range, -100 to 0. */
export const williamsRStudy: Study = {
  name: "williamsR",
  title: "Distance from the top of the range",
  short: "%R",
  says: "how far the close is below the highest high of the range, -100 to 0",
  source: "common practice",
  parameters: [whole("period", 14)],
  lines: [{ name: "value", unit: "number" }],
  place: [-100, 0],
  levels: [-80, -20],
  begin({ period }) {
    const place = placeInRange(period as number);
    return ofBars((bars, i) => -100 * (1 - place(bars, i)));
  },
};
