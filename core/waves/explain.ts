import { comparedWith, placeLikelihood, ratioLikelihood, timeLikelihood } from "#core/waves/likelihood";
import type { Turns } from "#core/waves/cells";
import type { FoundWave } from "#core/waves/machine";
import type { FoundRoot } from "#core/waves/roots";
import { PATTERNS, PATTERN_NAMES, type Pattern } from "#core/waves/patterns";

/** What a count's score is made of; natural logs of likelihoods, so that differences between two counts are odds. */
export interface ScoreParts {
  /** How usual its patterns are where they stand. */
  patterns: number;
  /** Lengths of waves by the ratios that are usual for them. */
  lengths: number;
  /** Times of waves to those before them. */
  times: number;
  /** The rest: which turns it leaves as noise, where it begins and what it leaves uncounted. */
  coverage: number;
}

export const PART_NAMES: Readonly<Record<keyof ScoreParts, string>> = {
  patterns: "usual patterns",
  lengths: "lengths of waves",
  times: "times of waves",
  coverage: "turns accounted for",
};

/** The parts of a root's score, by its whole inside; they sum to the score. */
export function partsOf(root: FoundRoot, tree: FoundWave, { value, time }: Turns): ScoreParts {
  const sum = { patterns: 0, lengths: 0, times: 0 };
  const walk = ({ pattern, turns, inner }: FoundWave, among: readonly Pattern[]) => {
    sum.patterns += placeLikelihood(pattern, among);
    const length = (wave: number) => Math.log(Math.abs(value[turns[wave]] - value[turns[wave - 1]]));
    const lasted = (wave: number) => Math.log(time[turns[wave]] - time[turns[wave - 1]]);
    for (let wave = 2; wave < turns.length; wave++) {
      sum.lengths += ratioLikelihood(pattern, wave, length(wave) - length(comparedWith(pattern, wave)), true);
      sum.times += timeLikelihood(lasted(wave) - lasted(wave - 1), true);
    }
    inner.forEach((child, i) => child && walk(child, PATTERNS[pattern].children[i]));
  };
  walk(tree, PATTERN_NAMES);
  return { ...sum, coverage: root.score - sum.patterns - sum.lengths - sum.times };
}
