import { mean, sampleStandardDeviation } from "simple-statistics";
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
  /**
   * Trades whose stop lay nearer to the entry than four ticks: no market fills and stops so exactly, and what they made
   * in R says nothing. Left out of everything above.
   */
  tooNear: number;
  /** Standard error of the mean that comes of drawing alone (R): of what was drawn at random. */
  drawnError?: number;
  /** Trades on bars within which it may have gone better. */
  ambiguous: number;
  /** By the year (UTC) of their entry. */
  years: { year: number; n: number; hits: number; expectancy: number }[];
}

interface Told {
  events: readonly FollowUp[];
  result: ScenarioResult;
  /** What it risked at its entry, in price units. */
  risk?: number;
}

/** Ticks that a stop lies away from the entry at least: two of spread each way (definition our own). */
const LEAST_TICKS = 4;

export function isTooNear({ risk }: Pick<Told, "risk">, tick: number): boolean {
  return risk !== undefined && risk < LEAST_TICKS * tick * (1 - 1e-9);
}

/** What trades came to; those too near to their stop are counted apart. */
export function summaryOf(all: readonly Told[], seed: number, tick: number): HistorySummary {
  const instances = all.filter((one) => !isTooNear(one, tick));
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
    tooNear: all.length - instances.length,
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

/** The same of entries drawn at random, with the error that drawing alone leaves in their mean. */
export function drawnSummaryOf(all: readonly Told[], seed: number, tick: number): HistorySummary {
  const summary = summaryOf(all, seed, tick);
  const error = drawnErrorOf(all, tick);
  return { ...summary, ...(error === undefined ? {} : { drawnError: error }) };
}

export function drawnErrorOf(all: readonly Told[], tick: number): number | undefined {
  const results = all.filter((one) => !isTooNear(one, tick)).map(({ result: { r } }) => r);
  return results.length < 2 ? undefined : sampleStandardDeviation(results) / Math.sqrt(results.length);
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
