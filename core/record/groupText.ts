import { percentText } from "#core/marks/wording";
import { FEW, verdictOf } from "#core/measure/verdict";
import { VERDICTS } from "#core/measure/worthText";
import type { RecordGroup } from "#core/record/groups";
import { rText } from "#core/scenarios/say";

/** "12 of 31, 39 % (24 to 56 %)"; of few trades their number alone. */
export function hitsText({ n, hits, hitRate, hitInterval }: RecordGroup): string {
  if (n === 0) return "none over";
  if (n < FEW || hitRate === undefined || !hitInterval) return `${hits} of ${n}`;
  const [low, high] = hitInterval.map((share) => Math.round(share * 100));
  return `${hits} of ${n}, ${percentText(hitRate, 0)} (${low} to ${high} %)`;
}

/**
 * "+0.31 R (-0.10 R to +0.72 R): no better than chance". Chance is a price without drift: there every such trade makes
 * 0 R on average, wherever its stop and its targets stand (a stopped martingale; J. L. Doob, 1953, from memory).
 */
export function meanText({ n, mean, interval }: RecordGroup): string {
  if (n < FEW || mean === undefined || !interval) return n === 0 ? "" : VERDICTS.few;
  return `${rText(mean)} (${interval.map(rText).join(" to ")}): ${VERDICTS[verdictOf(n, interval)]}`;
}

/** "1.4" of gains for each R lost; nothing of few trades or without a loss. */
export function factorText({ n, profitFactor }: RecordGroup): string {
  return n < FEW || profitFactor === undefined ? "" : profitFactor.toFixed(2);
}

/** How deep and how long it went against whoever took every trade; nothing without a trade. */
export function fallText({ n, curve, drawdown, losingRun }: RecordGroup): string {
  if (n === 0) return "";
  const sum = `One after the other they come to ${rText(curve[curve.length - 1].r)}`;
  if (drawdown === 0) return `${sum} and never fell on the way.`;
  return `${sum}; the deepest fall on the way was ${rText(-drawdown)}, at most ${losingRun} lost in a row.`;
}
