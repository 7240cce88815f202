import { Window } from "#core/studies/steps";
import { OF, ofValues, whole, type Study } from "#core/studies/study";

/** The change over so many bars, as a share of what was. */
export const rateOfChangeStudy: Study = {
  name: "rateOfChange",
  title: "Rate of change",
  short: "ROC",
  says: "the change over so many bars, as a share of what was",
  source: "common practice",
  parameters: [whole("period", 10), OF],
  lines: [{ name: "value", unit: "share" }],
  place: "own",
  levels: [0],
  begin(params) {
    const window = new Window(params.period as number);
    return ofValues((value) => {
      const before = window.push(value);
      return before === undefined || before === 0 ? NaN : value / before - 1;
    }, params);
  },
};
