import { drawBand, firstScaled, shapeOf } from "#core/measure/matched";
import type { BandAtBirth, Born, Outcome, OutcomeRules, Share } from "#core/measure/measured";
import { outcomesOf, type JudgedBars } from "#core/measure/outcomes";
import { drawsOf, newcombe, wilson, type Interval } from "#core/statistics/intervals";

/** What findings of one kind were worth, against bands drawn at random. */
export interface Lift {
  /** Decided: respected or broken. */
  n: number;
  /** Touched and not decided, those that still run among them. */
  open: number;
  untouched: number;
  share?: number;
  interval?: Interval;
  /** How many independent cases the decided ones are worth: outcomes that overlap in time are not. */
  effective?: number;
  chance: { n: number; share?: number; interval?: Interval };
  /** Share less chance's share. */
  lift?: number;
  liftInterval?: Interval;
}

export interface LiftRules {
  outcome: OutcomeRules;
  /** Random bands for each finding. */
  draws: number;
  seed: number;
}

export const LIFT_DRAWS = { draws: 20, seed: 1 };

/** Random bands that are followed together. */
const TOGETHER = 50_000;

/**
 * How often findings of one kind were respected when price first came back, against as many times `draws` random bands
 * of the same side, width and distance in ATR on the same bars (drawn uniformly, with replacement, from bars with an
 * ATR and `horizon` bars after them). The share has Wilson's interval; the lift Newcombe's, with the findings counted
 * as `effective` cases. `born` in order of `knownAt`. Cost: O(log) for each band that is touched, and its judged bars.
 */
export function liftOf(born: readonly Born[], bars: JudgedBars, length: number, rules: LiftRules): Lift {
  const outcomes = outcomesOf(born, bars, length, rules.outcome);
  const decided = outcomes.filter(isDecided);
  const counted = {
    n: decided.length,
    open: outcomes.filter(({ result }) => result === "open").length,
    untouched: outcomes.filter(({ result }) => result === "untouched").length,
  };
  const chance = chanceOf(born, bars, length, rules);
  if (counted.n === 0) return { ...counted, chance };
  const own = shareOf(decided.filter(({ result }) => result === "respected").length, counted.n);
  const effective = effectiveOf(
    decided.map(({ touchedAt = 0, result }) => ({ at: touchedAt, hit: result === "respected" })),
    rules.outcome.horizon,
  );
  const { share, interval } = own;
  if (chance.share === undefined || !chance.interval) return { ...counted, share, interval, effective, chance };
  const shrunk = { share, interval: wilson(share * effective, effective) };
  return {
    ...counted,
    ...{ share, interval, effective, chance, lift: share - chance.share },
    liftInterval: newcombe(shrunk, { share: chance.share, interval: chance.interval }),
  };
}

export const isDecided = ({ result }: Outcome): boolean => result === "respected" || result === "broken";

function shareOf(hits: number, n: number): Share {
  return { n, share: hits / n, interval: wilson(hits, n) };
}

/** How random bands of the same shapes fared on the same bars. */
function chanceOf(
  born: readonly Born[],
  bars: JudgedBars,
  length: number,
  { outcome, draws, seed }: LiftRules,
): Lift["chance"] {
  const draw = drawsOf(seed);
  const first = firstScaled(bars, length);
  const from = { first, count: length - outcome.horizon - first };
  let [hits, n] = [0, 0];
  let bands: BandAtBirth[] = [];
  const settle = () => {
    bands.sort((a, b) => a.knownAt - b.knownAt);
    const decided = outcomesOf(bands, bars, length, outcome).filter(isDecided);
    n += decided.length;
    hits += decided.filter(({ result }) => result === "respected").length;
    bands = [];
  };
  if (from.count > 0)
    for (const one of born) {
      for (let d = 0; d < draws; d++) {
        const band = drawBand(shapeOf(one), from, bars, draw);
        if (band) bands.push(band);
      }
      if (bands.length >= TOGETHER) settle();
    }
  settle();
  return n === 0 ? { n } : shareOf(hits, n);
}

/**
 * Cases the decided ones are worth. They are put into stretches of `horizon` bars by their bar; the variance of their
 * share between stretches against that of independent cases says how many of them there are in effect, never more than
 * there are (cluster-robust variance of a share, W. G. Cochran, Sampling Techniques, 1977, from memory).
 */
export function effectiveOf(cases: readonly { at: number; hit: boolean }[], horizon: number): number {
  const n = cases.length;
  const share = cases.filter(({ hit }) => hit).length / n;
  const stretches = new Map<number, number>();
  for (const { at, hit } of cases) {
    const stretch = Math.floor(at / horizon);
    stretches.set(stretch, (stretches.get(stretch) ?? 0) + (hit ? 1 : 0) - share);
  }
  const k = stretches.size;
  if (k < 2 || share === 0 || share === 1) return n;
  let squares = 0;
  for (const sum of stretches.values()) squares += sum * sum;
  const variance = ((k / (k - 1)) * squares) / (n * n);
  return variance === 0 ? n : n * Math.min(1, (share * (1 - share)) / n / variance);
}
