import { mean } from "simple-statistics";
import type { FollowUp } from "#core/scenarios/events";
import type { ScenarioResult } from "#core/scenarios/run";
import { meanInterval, wilson, type Interval } from "#core/statistics/intervals";

/** What became of many trades of one rule, in R of the planned risk. Figures of none are absent. */
export interface HistorySummary {
  /** Trades that were entered and have ended: what the figures are of. */
  n: number;
  /** Triggered and never entered, and entered and not over yet. */
  notEntered: number;
  open: number;
  /** Share of them that made more than nothing, with its 95 % interval (Wilson 1927). */
  hitRate?: number;
  interval: Interval;
  /** Mean result, with its 95 % interval: Student's below twenty, by studentised bootstrap from then on. */
  expectancy?: number;
  expectancyInterval?: Interval;
  /** Means of the furthest certain moves for and against, and of the time in the trade (ms). */
  best?: number;
  worst?: number;
  inTrade?: number;
  /** Trades on bars within which it may have gone better. */
  ambiguous: number;
  /** By the year (UTC) of their entry. */
  years: { year: number; n: number; hits: number; expectancy: number }[];
}

interface Told {
  events: readonly FollowUp[];
  result: ScenarioResult;
}

export function summaryOf(instances: readonly Told[], seed: number): HistorySummary {
  const entered = instances.filter(({ events }) => events.some(({ event }) => event === "entered"));
  const ended = entered.filter(({ result: { state } }) => state === "done");
  const results = ended.map(({ result: { r } }) => r);
  const hits = results.filter((r) => r > 0).length;
  const n = ended.length;
  const expectancyInterval = meanInterval(results, seed);
  return {
    n,
    notEntered: instances.length - entered.length,
    open: entered.length - n,
    ...(n > 0 ? { hitRate: hits / n, expectancy: mean(results) } : {}),
    interval: wilson(hits, n),
    ...(expectancyInterval ? { expectancyInterval } : {}),
    ...(n > 0
      ? {
          best: mean(ended.map(({ result }) => result.best)),
          worst: mean(ended.map(({ result }) => result.worst)),
          inTrade: mean(ended.map(inTrade)),
        }
      : {}),
    ambiguous: ended.filter(({ result }) => result.ambiguous).length,
    years: yearsOf(ended),
  };
}

const entryOf = ({ events }: Told) => events.find(({ event }) => event === "entered");

function inTrade(one: Told): number {
  return (one.events.at(-1)?.knownAt ?? NaN) - (entryOf(one)?.at ?? NaN);
}

function yearsOf(ended: readonly Told[]): HistorySummary["years"] {
  const yearOf = (one: Told) => new Date(entryOf(one)?.at ?? 0).getUTCFullYear();
  return [...new Set(ended.map(yearOf))]
    .sort((a, b) => a - b)
    .map((year) => ({ year, of: ended.filter((one) => yearOf(one) === year) }))
    .map(({ year, of }) => ({
      year,
      n: of.length,
      hits: of.filter(({ result: { r } }) => r > 0).length,
      expectancy: mean(of.map(({ result: { r } }) => r)),
    }));
}
