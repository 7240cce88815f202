import { FITS } from "#core/waves/likelihood";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import { directionOf, isComplete, SCALES, type LengthScale, type Wave } from "#core/waves/wave";

/**
 * One guideline applied to one wave: how well it is met, and what it was judged by. Guidelines rank counts, they never
 * end one.
 */
export interface GuidelineLine {
  guideline: string;
  /** 0 not met, 1 met. */
  score: number;
  /** What was measured: a ratio of two waves unless its name says otherwise. */
  numbers: Record<string, number>;
  /** What is usual, in words. */
  usual: string;
  /** Wave (from 1) it speaks of. */
  wave: number;
}

/** What bars add to a guideline; both optional, by pivot and wave of the pattern. */
export interface Momentum {
  /** RSI(14) at the bar of each pivot. */
  rsi?: readonly (number | undefined)[];
  /** Mean volume a bar of each wave. */
  volume?: readonly (number | undefined)[];
}

const SHARP: readonly Pattern[] = ["zigzag", "doubleZigzag", "tripleZigzag"];

/**
 * Guidelines a wave has come far enough to be judged by. Sources: Frost and Prechter, Elliott Wave Principle (1978),
 * chapter 2 (alternation, equality, depth of corrections, channels, momentum, volume) and chapter 4 (ratios), from
 * memory;
 * how far from the usual a value loses its score is our own.
 */
export function guidelinesOf(wave: Wave, scale: LengthScale = "arithmetic", momentum: Momentum = {}): GuidelineLine[] {
  const { on } = SCALES[scale];
  const v = wave.pivots.map(({ price }) => on(price));
  const length = (n: number) => Math.abs(v[n] - v[n - 1]);
  const lines = ratioLines(wave, length);
  if (wave.pattern === "impulse") lines.push(...impulseLines(wave, v, length, momentum));
  if (wave.pattern === "flat") lines.push(...flatLines(wave, momentum));
  lines.push(...timeLines(wave));
  return lines;
}

/** Whether a guideline is met rather than not. */
export const isKept = ({ score }: Pick<GuidelineLine, "score">): boolean => score > 0.5;

/** How many guidelines are kept, of those that can be judged. A count of lines, and nothing held against outcomes. */
export function keptOf(lines: readonly GuidelineLine[]): { kept: number; of: number } {
  return { kept: lines.filter(isKept).length, of: lines.length };
}

/** How near each finished wave is to a ratio that is usual for it. */
function ratioLines({ pattern, pivots }: Wave, length: (n: number) => number): GuidelineLine[] {
  const { labels } = PATTERNS[pattern];
  return FITS[pattern]
    .filter(({ of, to }) => of < pivots.length && length(to) > 0 && length(of) > 0)
    .map(({ of, to, bumps }) => {
      const ratio = length(of) / length(to);
      const nearness = Math.max(...bumps.map((bump) => bell(Math.log(ratio / bump.ratio), bump.spread)));
      const usual = bumps.map((bump) => bump.ratio).join(", ");
      return {
        guideline: `length of wave ${labels[of - 1]} to wave ${labels[to - 1]}`,
        score: nearness,
        numbers: { ratio },
        usual,
        wave: of,
      };
    });
}

function impulseLines(
  wave: Wave,
  v: readonly number[],
  length: (n: number) => number,
  { rsi = [], volume = [] }: Momentum,
): GuidelineLine[] {
  const { pivots, inner } = wave;
  const sign = directionOf(pivots);
  const out: GuidelineLine[] = [];
  if (pivots.length > 4) {
    const [two, four] = [length(2) / length(1), length(4) / length(3)];
    out.push({
      guideline: "2 and 4 alternate in depth",
      score: Math.min(1, Math.abs(two - four) / 0.2),
      numbers: { two, four },
      usual: "one deep, the other shallow",
      wave: 4,
    });
    const [second, fourth] = [inner[1], inner[3]];
    if (second && fourth) {
      const differ = SHARP.includes(second.pattern) !== SHARP.includes(fourth.pattern);
      out.push({
        guideline: "2 and 4 alternate in form",
        score: differ ? 1 : 0,
        numbers: {},
        usual: "one sharp, the other sideways",
        wave: 4,
      });
    }
    const third = inner[2];
    if (third?.pattern === "impulse" && isComplete(third)) {
      const [from, to] = [third.pivots[3].price, third.pivots[4].price];
      const off =
        Math.max(0, Math.min(from, to) - pivots[4].price, pivots[4].price - Math.max(from, to)) /
        Math.abs(to - from || 1);
      out.push({
        guideline: "4 ends in the span of the fourth wave one degree lower",
        score: bell(off, 0.5),
        numbers: { endOf4: pivots[4].price, lowerFrom: from, lowerTo: to },
        usual: "inside it",
        wave: 4,
      });
    }
  }
  if (pivots.length > 5) {
    const ranked = [1, 3, 5].map((n) => ({ n, length: length(n) })).sort((a, b) => b.length - a.length);
    const extension = ranked[0].length / ranked[1].length;
    out.push({
      guideline: "one of 1, 3 and 5 is extended",
      score: Math.min(1, Math.max(0, (extension - 1) / 0.6)),
      numbers: { longest: ranked[0].n, toNext: extension },
      usual: "1.618 times the next and more, most often 3",
      wave: ranked[0].n,
    });
    if (ranked[0].n === 3) {
      const ratio = length(5) / length(1);
      out.push({
        guideline: "5 equals 1 when 3 is extended",
        score: Math.max(...[0.618, 1].map((usual) => bell(Math.log(ratio / usual), 0.15))),
        numbers: { ratio },
        usual: "1 or 0.618",
        wave: 5,
      });
    }
    // The line through the ends of 2 and 4, laid through the end of 3.
    const slope = (v[4] - v[2]) / (pivots[4].time - pivots[2].time);
    const line = v[3] + slope * (pivots[5].time - pivots[3].time);
    const off = Math.abs(v[5] - line) / Math.max(1e-300, Math.abs(v[3] - v[2]));
    out.push({
      guideline: "5 ends near the channel",
      score: bell(off, 0.25),
      numbers: { offShareOf3: off },
      usual: "at the parallel to 2 and 4 through 3",
      wave: 5,
    });
    if (rsi[3] !== undefined && rsi[5] !== undefined) {
      const weaker = sign * (rsi[3] - rsi[5]);
      out.push({
        guideline: "momentum is weaker at 5 than at 3",
        score: weaker > 0 ? 1 : 0,
        numbers: { rsiAt3: rsi[3], rsiAt5: rsi[5] },
        usual: "RSI(14) further from 50 at 3",
        wave: 5,
      });
    }
    if (volume[2] !== undefined && volume[4] !== undefined && volume[2] + volume[4] > 0)
      out.push({
        guideline: "volume is lighter in 5 than in 3",
        score: volume[4] < volume[2] ? 1 : 0,
        numbers: { meanIn3: volume[2], meanIn5: volume[4] },
        usual: "highest in 3, unless 5 is extended",
        wave: 5,
      });
  }
  return out;
}

/** B comes back to where a fifth had ended: there momentum is to be weaker than it was at the fifth. */
function flatLines({ pivots }: Wave, { rsi = [] }: Momentum): GuidelineLine[] {
  const [at5, , atB] = rsi;
  if (pivots.length < 3 || at5 === undefined || atB === undefined) return [];
  return [
    {
      guideline: "momentum is weaker at B than where A began",
      score: directionOf(pivots) * (atB - at5) > 0 ? 1 : 0,
      numbers: { rsiAtStart: at5, rsiAtB: atB },
      usual: "RSI(14) nearer to 50 at B",
      wave: 2,
    },
  ];
}

/** Waves in a row that take very different times are of different degrees. */
function timeLines({ pattern, pivots }: Wave): GuidelineLine[] {
  const { labels } = PATTERNS[pattern];
  return labels.slice(1).flatMap((label, i) => {
    if (pivots.length < i + 3) return [];
    const [before, own] = [pivots[i + 1].time - pivots[i].time, pivots[i + 2].time - pivots[i + 1].time];
    if (!(before > 0) || !(own > 0)) return [];
    const ratio = own / before;
    return [
      {
        guideline: `time of wave ${label} to wave ${labels[i]}`,
        score: bell(Math.max(0, Math.abs(Math.log(ratio)) - Math.log(1.618)), 0.7),
        numbers: { ratio },
        usual: "0.618 to 1.618",
        wave: i + 2,
      },
    ];
  });
}

function bell(off: number, spread: number): number {
  return Math.exp(-0.5 * (off / spread) ** 2);
}
