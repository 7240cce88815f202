import { mean, sampleStandardDeviation } from "simple-statistics";
import { calibrationOf, type Calibration } from "#core/record/calibration";
import { bootstrapMean, wilson, type Interval } from "#core/statistics/intervals";
import { medianOf } from "#core/statistics/median";

/** What became of one call, its legs together. Times in ms UTC. */
export interface Outcome {
  triggered: boolean;
  /** Result in R of a trade that was entered and has ended. */
  r?: number;
  /** What it was given beforehand, 0 to 1. */
  weight?: number;
  /** Whether its bars leave open which way it went. */
  ambiguous: boolean;
  at: number;
  /** When the trade ended; there where `r` is. */
  end?: number;
}

/** What a list of outcomes comes to. What there is nothing to count for is absent. */
export interface RecordStatistics {
  stated: number;
  neverTriggered?: number;
  /** Trades that have ended: what the figures below are of. */
  n: number;
  hits: number;
  hitRate?: number;
  hitInterval?: Interval;
  mean?: number;
  median?: number;
  /** Of the sample; from two on, as is the interval of the mean. */
  deviation?: number;
  interval?: Interval;
  /** Gains to losses; absent without a loss. */
  profitFactor?: number;
  ambiguous?: number;
  curve: { time: number; r: number }[];
  /** Largest fall of the curve below an earlier height, the 0 it began from included. */
  drawdown: number;
  losingRun: number;
  calibration?: Calibration;
}

/**
 * Figures of a record: shares with Wilson's interval (1927), the mean with a percentile bootstrap's (B. Efron, 1979, by
 * `seed`), the curve in the order trades ended, of equal times as listed. O(n log n).
 */
export function recordOf(
  outcomes: readonly Outcome[],
  { event, seed }: { event: "triggered" | "hit"; seed: number },
): RecordStatistics {
  const stated = outcomes.length;
  const trades = outcomes.filter((one): one is Outcome & { r: number } => one.r !== undefined);
  const results = trades.map(({ r }) => r);
  const n = results.length;
  const hits = results.filter((r) => r > 0).length;
  const calibration = calibrationOf(weighed(outcomes, event));
  return {
    stated,
    ...(stated > 0 ? { neverTriggered: outcomes.filter(({ triggered }) => !triggered).length / stated } : {}),
    ...{ n, hits },
    ...(n > 0 ? figuresOf(trades, results, hits, seed) : {}),
    ...curveOf(trades),
    ...(calibration ? { calibration } : {}),
  };
}

/** Weights with whether what they were given for came to pass. */
function weighed(outcomes: readonly Outcome[], event: "triggered" | "hit"): { weight: number; happened: boolean }[] {
  return outcomes.flatMap(({ weight, triggered, r }) => {
    if (weight === undefined || (event === "hit" && r === undefined)) return [];
    return [{ weight, happened: event === "hit" ? r! > 0 : triggered }];
  });
}

function figuresOf(trades: readonly Outcome[], results: number[], hits: number, seed: number) {
  const n = results.length;
  const gains = results.reduce((sum, r) => sum + Math.max(0, r), 0);
  const losses = results.reduce((sum, r) => sum - Math.min(0, r), 0);
  const isOne = results.every((r) => r === results[0]);
  const interval = isOne && n > 1 ? ([results[0], results[0]] as const) : bootstrapMean(results, seed);
  return {
    ...{ hitRate: hits / n, hitInterval: wilson(hits, n), mean: isOne ? results[0] : mean(results) },
    median: medianOf(results),
    ...(n > 1 ? { deviation: isOne ? 0 : sampleStandardDeviation(results) } : {}),
    ...(interval ? { interval } : {}),
    ...(losses > 0 ? { profitFactor: gains / losses } : {}),
    ambiguous: trades.filter(({ ambiguous }) => ambiguous).length / n,
  };
}

function curveOf(
  trades: readonly (Outcome & { r: number })[],
): Pick<RecordStatistics, "curve" | "drawdown" | "losingRun"> {
  const ended = trades.map((trade) => ({ r: trade.r, time: trade.end ?? trade.at })).sort((a, b) => a.time - b.time);
  let [sum, height, drawdown, run, losingRun] = [0, 0, 0, 0, 0];
  const curve = ended.map(({ r, time }) => {
    sum += r;
    height = Math.max(height, sum);
    drawdown = Math.max(drawdown, height - sum);
    run = r < 0 ? run + 1 : 0;
    losingRun = Math.max(losingRun, run);
    return { time, r: sum };
  });
  return { curve, drawdown, losingRun };
}
