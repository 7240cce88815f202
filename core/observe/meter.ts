import type { Track } from "#core/series/track";
import { studyOf } from "#core/studies/registry";
import { Window } from "#core/studies/steps";
import type { StudyParams, StudyRun } from "#core/studies/study";

/** What can be measured at every close of a rung, with its parameters as `compute` names them. */
export type MeterTerms =
  | { quantity: "sma" | "ema" | "wma" | "rsi"; period: number }
  | { quantity: "macd"; fast: number; slow: number; signal: number }
  | { quantity: "stochastic"; period: number; smoothing: number }
  | { quantity: "cloud"; conversion: number; base: number; span: number };

/** Any study that bars alone make, and all of its lines. */
export interface StudyMeter {
  study: string;
  params: StudyParams;
}

export type MeterName = MeterTerms["quantity"];

/** One name for one meter: two conditions on the same average share it. */
export function meterName(terms: MeterTerms | StudyMeter): string {
  if ("study" in terms) return `study ${terms.study} ${JSON.stringify(terms.params)}`;
  return Object.values(terms).join(" ");
}

/**
 * A study that is told of one bar after the other. Values: one; of `macd` the difference and its signal, once both are
 * known; of `cloud` the bottom and the top of the cloud that stands at the bar, which was computed `base` bars before;
 * of any study that is asked as such every line, NaN where it is not defined.
 */
export class Meter {
  private readonly run: StudyRun;
  private readonly read: (values: readonly number[]) => readonly number[] | undefined;

  constructor(terms: MeterTerms | StudyMeter) {
    if ("study" in terms) {
      this.run = studyOf(terms.study)!.begin(terms.params, { tick: 0 });
      // A study writes its values into one array, bar after bar.
      this.read = (values) => [...values];
      return;
    }
    const { quantity, ...params } = { of: "close", signal: 1, ...terms };
    this.run = studyOf(quantity)!.begin(params, { tick: 0 });
    this.read = readingOf(terms);
  }

  next(track: Track, i: number): readonly number[] | undefined {
    return this.read(this.run(track, i));
  }
}

const known = (...values: number[]) => (values.some(Number.isNaN) ? undefined : values);

function readingOf(terms: MeterTerms): (values: readonly number[]) => readonly number[] | undefined {
  if (terms.quantity === "macd") return ([difference, signal]) => known(difference, signal);
  if (terms.quantity !== "cloud") return ([value]) => known(value);
  const edges = new Window(terms.base + 1);
  const stands = new Window(terms.base + 1);
  return ([, , spanA, spanB]) => {
    edges.push(Math.min(spanA, spanB));
    stands.push(Math.max(spanA, spanB));
    return edges.isFull ? known(edges.before(terms.base), stands.before(terms.base)) : undefined;
  };
}
