import { birthsOf } from "#core/measure/births";
import { gradeOf, gradesOf, type GradeModel, type GradeWeight } from "#core/measure/grade";
import { LIFT_DRAWS, liftOf, type Lift } from "#core/measure/lift";
import { MEASURED_KINDS, OUTCOME_RULES, type MeasuredKind } from "#core/measure/measured";
import { outcomesOf } from "#core/measure/outcomes";
import { patternWorthOf, type PatternWorth } from "#core/measure/patternWorth";
import { baseRatesOf, type BaseRate } from "#core/measure/rates";
import { verdictOf, type Verdict } from "#core/measure/verdict";
import { slice, type Series } from "#core/series/series";
import type { Calendar } from "#core/time/calendar";
import { formatTimeframe, type Timeframe } from "#core/time/timeframe";

/** Bars looked back on at most: what a kind was worth longer ago says little of today (definition our own). */
const LOOK_BACK = 20_000;
export interface KindWorth extends Lift {
  kind: MeasuredKind;
  /** Against random bands of its shapes. */
  verdict: Verdict;
  /** What of it spoke for or against it, and by how much; empty where nothing told its cases apart. */
  weights: GradeWeight[];
}

/** A finding that price has not come back to yet, of a kind whose features tell its cases apart. */
export interface Estimate {
  kind: MeasuredKind;
  knownAt: number;
  bottom: number;
  top: number;
  /** Share by which it is likelier to be respected than a random band of its shape. */
  grade: number;
}

/** What findings of one market and timeframe were worth, and how often what followed on what. */
export interface RungWorth {
  rung: string;
  /** `time` of the first and of the last bar that was read, and how many there were. */
  from: number;
  to: number;
  bars: number;
  /** Kinds of which there was at least one. */
  kinds: KindWorth[];
  estimates: Estimate[];
  rates: BaseRate[];
  patterns: PatternWorth[];
}

/**
 * Holds every finding of the last 20,000 bars against matched random bands (`liftOf`: 20 each, seed 1), by kind, and
 * grades those that are still untouched where the features of their kind told anything. All bars must have closed.
 * Nothing where there is no bar.
 */
export function worthOf(all: Series, timeframe: Timeframe, calendar: Calendar, tick: number): RungWorth | undefined {
  const series = slice(all, Math.max(0, all.length - LOOK_BACK), all.length);
  const { length, time } = series;
  if (length === 0) return undefined;
  const { born, bars, reader } = birthsOf(series, timeframe, calendar, tick);
  const outcomes = outcomesOf(born, bars, length, OUTCOME_RULES);
  const { models } = gradesOf(born, outcomes, bars, length, OUTCOME_RULES);
  const kinds = MEASURED_KINDS.flatMap((kind): KindWorth[] => {
    const own = born.filter((one) => one.kind === kind);
    if (own.length === 0) return [];
    const lift = liftOf(own, bars, length, { outcome: OUTCOME_RULES, ...LIFT_DRAWS });
    return [{ kind, ...lift, verdict: verdictOf(lift.n, lift.liftInterval), weights: models[kind]?.weights ?? [] }];
  });
  const telling = (kind: MeasuredKind): GradeModel | undefined => {
    const model = models[kind];
    return model && model.weights.length > 0 ? model : undefined;
  };
  const estimates = born.flatMap((one, i): Estimate[] => {
    const { kind, bottom, top, knownAt } = one;
    const model = telling(kind);
    if (!model || outcomes[i].result !== "untouched") return [];
    return [{ kind, knownAt: time[knownAt], bottom, top, grade: gradeOf(one, model) }];
  });
  return {
    ...{ rung: formatTimeframe(timeframe), from: time[0], to: time[length - 1], bars: length },
    ...{ kinds, estimates, rates: baseRatesOf(reader) },
    patterns: patternWorthOf(reader.track, reader.patterns.found),
  };
}
