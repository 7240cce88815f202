import type { MarketFacts } from "#core/marks/kind";
import { labelAt } from "#core/levels/periodExtremes";
import { studiesOn, type ChosenStudy } from "#core/studies/chosen";
import { FollowedStudy } from "#core/studies/followed";
import { studyOf } from "#core/studies/registry";
import type { Study, StudyContext, StudyParams } from "#core/studies/study";
import type { Series } from "#core/series/series";
import type { Calendar } from "#core/time/calendar";
import { nominalLength, parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { StudyLayer, type DrawnStudy } from "./layer.ts";

/** What studies of a rung are worked out from. */
export interface StudyBars {
  series: Series;
  timeframe: Timeframe;
  calendar: Calendar;
  market: MarketFacts;
  /** Whether the last bar is still being made. */
  unfinished: boolean;
  /** Bars of the same rung of other markets, by the market's name. */
  others: ReadonlyMap<string, Series>;
}

/** Other markets that studies on a rung read. */
export function othersOf(chosen: readonly ChosenStudy[], rung: string): string[] {
  const named = studiesOn(chosen, rung).flatMap(({ study, params }) =>
    studyOf(study)!.parameters.flatMap(({ kind, name }) => (kind === "market" ? [String(params[name])] : [])),
  );
  return [...new Set(named)];
}

/**
 * The studies of one chart, kept while its bars grow: what was worked out is gone on with as long as the bars begin as
 * they did (`lineage` says so).
 */
export class ChartStudies {
  private followed = new Map<string, FollowedStudy>();
  private lineage = "";

  /** `undefined` where the rung shows none. */
  layer(chosen: readonly ChosenStudy[], rung: string, bars: StudyBars, lineage: string): StudyLayer | undefined {
    const drawn = this.drawn(chosen, rung, bars, lineage);
    return drawn.length === 0 ? undefined : new StudyLayer(drawn, bars.series.close, bars.market);
  }

  /** Each with its columns over the bars. */
  drawn(chosen: readonly ChosenStudy[], rung: string, bars: StudyBars, lineage: string): DrawnStudy[] {
    if (lineage !== this.lineage) this.followed = new Map();
    this.lineage = lineage;
    const kept = new Map<string, FollowedStudy>();
    const drawn = studiesOn(chosen, rung).flatMap((one): DrawnStudy[] => {
      const { study: name, params } = one;
      const study = studyOf(name)!;
      const context = contextOf(study, params, bars);
      if (!context) return [];
      // Another market's bars are another study: they came later.
      const key = JSON.stringify([name, params, context.other?.length, context.other?.time.at(-1)]);
      const followed = kept.get(key) ?? this.followed.get(key) ?? new FollowedStudy(study, params, context);
      kept.set(key, followed);
      return [{ chosen: one, study, params, columns: followed.follow(bars.series, bars.unfinished) }];
    });
    this.followed = kept;
    return drawn;
  }
}

/** What a study asks besides the bars; `undefined` where this rung cannot give it. */
function contextOf(
  { parameters }: Study,
  params: StudyParams,
  { timeframe, calendar, market, others }: StudyBars,
): StudyContext | undefined {
  const context: StudyContext = { tick: market.tick };
  for (const { name, kind } of parameters) {
    if (kind === "market") {
      const other = others.get(String(params[name]));
      if (!other) return undefined;
      context.other = other;
    }
    if (kind === "period") {
      const period = parseTimeframe(String(params[name]));
      // A period is made of several bars.
      if (!period || nominalLength(period) <= nominalLength(timeframe)) return undefined;
      context.periodAt = periodsOf(timeframe, period, calendar);
    }
  }
  return context;
}

function periodsOf(timeframe: Timeframe, period: Timeframe, calendar: Calendar): (time: number) => number {
  let [label, until] = [NaN, -Infinity];
  return (time) => {
    if (time >= until || time < label) ({ time: label, until } = labelAt(time, timeframe, period, calendar));
    return label;
  };
}
