import { returnsBeside } from "#core/studies/others";
import { coefficientOf, jointWindow, type Joint } from "#core/studies/joint";
import type { Series } from "#core/series/series";
import { ofBars, whole, type Study, type StudyRun } from "#core/studies/study";

const PARAMETERS = [{ name: "with", kind: "market" } as const, whole("period", 65)];

/** How much a market moves when another one does: the slope of its returns over the other's. */
export const betaStudy: Study = {
  name: "beta",
  title: "Beta",
  short: "Beta",
  says: "the slope of a market's returns over another's",
  source: "least squares",
  parameters: PARAMETERS,
  lines: [{ name: "value", unit: "number" }],
  place: "own",
  levels: [0, 1],
  begin: ({ period }, { other }) =>
    joint(period as number, other!, (sums) => (sums.other > 0 ? sums.both / sums.other : NaN)),
};

/** Rolling coefficient of correlation of simple returns with another market. */
export const correlationStudy: Study = {
  name: "correlation",
  title: "Correlation",
  short: "Correlation",
  says: "rolling correlation (Pearson) of simple returns with another file, on the times both have",
  source: "K. Pearson, 1895",
  parameters: PARAMETERS,
  lines: [{ name: "value", unit: "number" }],
  place: [-1, 1],
  levels: [0],
  begin: ({ period }, { other }) => joint(period as number, other!, coefficientOf),
};

/** A figure of both markets' last returns, at the bars they have in common; NaN where one of them did not move. */
function joint(period: number, other: Series, figure: (sums: Joint) => number): StudyRun {
  const returns = returnsBeside(other);
  const window = jointWindow(period);
  return ofBars((bars, i) => {
    const pair = returns(bars, i);
    const sums = pair && window(...pair);
    return sums ? figure(sums) : NaN;
  });
}
