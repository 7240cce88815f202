import type { Mark, MarkContext, Problem } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { firstAtOrAfter } from "#core/series/series";
import { isIntraday, parseTimeframe } from "#core/time/timeframe";

/**
 * What is wrong with a mark on the bars as they are: what its kind finds, and anchors whose bar is not there (a
 * restatement took it away, or the time was typed). Such a mark is kept, and drawn at the bar before.
 */
export function problemsOf(mark: Mark, context: MarkContext): Problem[] {
  return [...kindOf(mark).check(mark, context), ...barsMissing(mark, context)];
}

function barsMissing({ anchors, rung }: Mark, { series }: MarkContext): Problem[] {
  const { length, time } = series;
  if (length === 0) return [];
  const timeframe = parseTimeframe(rung);
  const named = (at: number) =>
    timeframe && isIntraday(timeframe)
      ? `${new Date(at).toISOString().slice(0, 16).replace("T", " ")} UTC`
      : new Date(at).toISOString().slice(0, 10);
  return anchors.flatMap(({ time: at }, anchor) => {
    const there = at > time[length - 1] || time[firstAtOrAfter(series, at)] === at;
    return there
      ? []
      : [{ sentence: `No bar of its rung stands at ${named(at)}: it is drawn at the nearest one before.`, anchor }];
  });
}
