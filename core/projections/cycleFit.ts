import { drawsOf } from "#core/statistics/intervals";
import { medianOf } from "#core/statistics/median";

/** How even the spans between lows are, and how often lows that were shuffled came out as even. */
export interface CycleFit {
  /** Mean distance of a span from the usual one, as a share of that. */
  unevenness: number;
  /** Share of the shuffles that were as even or more so. */
  p: number;
  shuffles: number;
}

const SHUFFLES = 500;

/** Mean distance from the median, as a share of it. */
function unevennessOf(spans: readonly number[]): number {
  const usual = medianOf(spans);
  return spans.reduce((sum, span) => sum + Math.abs(span - usual), 0) / spans.length / usual;
}

/**
 * Spans between lows against as many lows dealt out at random over the same bars, each at least `least` bars after the
 * one before as swings of that many bars must be (a permutation test; E. J. G. Pitman, 1937, from memory). The seed is
 * the spans' own, so that the same lows always say the same.
 */
export function cycleFit(spans: readonly number[], least: number): CycleFit {
  const unevenness = unevennessOf(spans);
  const whole = spans.reduce((sum, span) => sum + span, 0);
  const free = Math.max(0, whole - spans.length * least);
  const draw = drawsOf(spans.reduce((seed, span) => (Math.imul(seed, 31) + span) | 0, 7));
  let as = 0;
  for (let n = 0; n < SHUFFLES; n++) {
    // Cuts of what is free beyond the least spans, in order: every place of each is as likely.
    const cuts = Array.from({ length: spans.length - 1 }, () => draw(free + 1)).sort((a, b) => a - b);
    const dealt = spans.map((_, i) => least + (cuts[i] ?? free) - (i === 0 ? 0 : cuts[i - 1]));
    if (unevennessOf(dealt) <= unevenness) as++;
  }
  return { unevenness, p: (as + 1) / (SHUFFLES + 1), shuffles: SHUFFLES };
}
