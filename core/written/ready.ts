import { flag } from "#core/written/ready/flag";
import type { ReadyGround } from "#core/written/ready/ground";
import { equalsRun, sweepAndShift, yesterdaySwept } from "#core/written/ready/sweeps";
import { insideWeek } from "#core/written/ready/insideWeek";
import { rangeReturn, retest } from "#core/written/ready/levels";
import { patternBreak, patternRetest } from "#core/written/ready/pattern";
import { secondTouch } from "#core/written/ready/secondTouch";
import { waveEnd } from "#core/written/ready/waveEnd";
import type { WrittenTerms } from "#core/written/written";

/** A ready-made sentence, filled from what a rung shows. */
export interface ReadySentence {
  name: string;
  title: string;
  says: string;
  /** What it makes of what is there, or, in a sentence, what is missing for it. */
  fill(ground: ReadyGround): Filled | string;
}

export interface Filled {
  title: string;
  terms: Omit<WrittenTerms, "expires">;
  restsOn?: string;
  /** The other side of one level, where the sentence is a pair. */
  other?: Omit<WrittenTerms, "expires">;
}

/** The ready-made sentences, in the order in which they are offered. */
export const READY: readonly ReadySentence[] = [
  secondTouch,
  sweepAndShift,
  retest,
  rangeReturn,
  flag,
  insideWeek,
  waveEnd,
  equalsRun,
  yesterdaySwept,
  patternBreak,
  patternRetest,
];
