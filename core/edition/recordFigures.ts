import { mean } from "simple-statistics";
import { rText } from "#core/scenarios/say";
import { bootstrapMean, wilson, type Interval } from "#core/statistics/intervals";

/**
 * A published call: whether it is over, and what it came to so far, in R, where it was entered: its legs together, each
 * by its share of the risk, for a call is one trade.
 */
export interface CallSoFar {
  isOver: boolean;
  result?: number;
}

/** What stands in the record, in R of the planned risk; every call counts once. Figures of none are absent. */
export interface RecordFigures {
  /** Calls published, and how many of them are not over. */
  published: number;
  open: number;
  /** Over without an entry. */
  notEntered: number;
  /** Trades that are over: what the figures are of. */
  n: number;
  /** Of them, those that made more than nothing, and the 95 % interval of their share (Wilson 1927). */
  hits: number;
  share: Interval;
  /** Mean result, with its 95 % interval by bootstrap. */
  mean?: number;
  meanInterval?: Interval;
}

/** The interval is drawn by one seed: the same record says the same. */
const SEED = 20_000;

export function recordFigures(calls: readonly CallSoFar[]): RecordFigures {
  const over = calls.filter(({ isOver }) => isOver);
  const results = over.flatMap(({ result }) => result ?? []);
  const hits = results.filter((r) => r > 0).length;
  const meanInterval = bootstrapMean(results, SEED);
  return {
    published: calls.length,
    open: calls.length - over.length,
    notEntered: over.length - results.length,
    n: results.length,
    hits,
    share: wilson(hits, results.length),
    ...(results.length > 0 ? { mean: mean(results) } : {}),
    ...(meanInterval ? { meanInterval } : {}),
  };
}

const percent = (share: number) => `${Math.round(share * 100)}`;

/** The same in sentences: how many, and how sure. */
export function sayRecord({ published, open, notEntered, n, hits, share, ...of }: RecordFigures): string[] {
  if (published === 0) return ["No call was published yet."];
  const calls = published === 1 ? "1 call was published" : `${published} calls were published`;
  const trades = `${n} ${n === 1 ? "trade" : "trades"} over`;
  const ended = `${calls}: ${open} not over, ${notEntered} over without an entry, ${trades}.`;
  if (n === 0 || of.mean === undefined) return [ended];
  const range = `${percent(share[0])} to ${percent(share[1])} %`;
  const interval = of.meanInterval ? ` (95 %: ${of.meanInterval.map(rText).join(" to ")})` : "";
  return [
    ended,
    `${hits} of ${n} made more than nothing: ${percent(hits / n)} % (95 %: ${range}). ` +
      `On average a trade made ${rText(of.mean)}${interval}, before costs.`,
  ];
}
