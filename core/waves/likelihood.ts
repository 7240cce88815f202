import { PATTERN_NAMES, type Pattern } from "#core/waves/patterns";

/**
 * How likely the turns of a count are, as natural logs of densities over their prices and times, so that counts which
 * explain the same turns in different ways compare: a turn that ends a wave by the ratio its pattern makes likely, a
 * turn that is left inside a leg as noise by how small it is against the leg. Centres: Frost and Prechter, chapter 2
 * (guidelines) and chapter 4 (ratios), from memory; weights and spreads are our own, set on planted counts of another
 * seed than the one reported.
 */
interface Bump {
  ratio: number;
  /** Standard deviation of its natural log. */
  spread: number;
  weight: number;
}

/** One ratio a pattern is judged by: length of wave `of` (from 1) to that of wave `to`. */
export interface RatioFit {
  of: number;
  to: number;
  bumps: readonly Bump[];
  /** Above it the machine does not propose the pattern, though no rule forbids it (common practice, no source). */
  most?: number;
}

const bumps = (spread: number, ...pairs: readonly [ratio: number, weight: number][]): readonly Bump[] =>
  pairs.map(([ratio, weight]) => ({ ratio, spread, weight }));
const fit = (
  of: number,
  to: number,
  spread: number,
  ...pairs: readonly [ratio: number, weight: number][]
): RatioFit => ({ of, to, bumps: bumps(spread, ...pairs) });

const atMost = (most: number, one: RatioFit): RatioFit => ({ ...one, most });

const CONVERGING = [
  fit(2, 1, 0.17, [0.66, 1], [0.81, 1]),
  fit(3, 1, 0.22, [0.618, 1], [0.8, 1]),
  fit(4, 3, 0.17, [0.66, 1], [0.81, 1]),
  fit(5, 3, 0.22, [0.618, 1], [0.8, 1]),
];
const DIVERGING = [
  fit(2, 1, 0.19, [0.66, 1], [0.81, 1]),
  fit(3, 1, 0.24, [1.236, 1], [1.5, 1]),
  fit(4, 3, 0.19, [0.66, 1], [0.81, 1]),
  fit(5, 3, 0.24, [1.236, 1], [1.5, 1]),
];
const THREES = [
  atMost(1.382, fit(2, 1, 0.24, [0.618, 1], [0.9, 1])),
  atMost(1.618, fit(3, 1, 0.24, [0.8, 0.7], [1, 1])),
  atMost(1.382, fit(4, 3, 0.24, [0.618, 1], [0.9, 1])),
  atMost(1.618, fit(5, 3, 0.24, [0.8, 0.7], [1, 1])),
];
const NARROWING = [2, 3, 4, 5].map((of) => atMost(1.382, fit(of, of - 1, 0.19, [0.618, 1], [0.8, 1])));
const WIDENING = [2, 3, 4, 5].map((of) => atMost(1.618, fit(of, of - 1, 0.17, [1.1, 1], [1.3, 1])));

export const FITS: Readonly<Record<Pattern, readonly RatioFit[]>> = {
  impulse: [
    fit(2, 1, 0.17, [0.5, 1], [0.618, 1.2], [0.75, 0.5]),
    fit(3, 1, 0.24, [1, 0.3], [1.618, 1.5], [2.618, 0.6]),
    fit(4, 3, 0.24, [0.236, 0.5], [0.382, 1.2], [0.5, 0.4]),
    fit(5, 1, 0.26, [0.618, 0.7], [1, 1.2], [1.618, 0.5]),
  ],
  leadingDiagonal: CONVERGING,
  endingDiagonal: CONVERGING,
  leadingDiagonalExpanding: DIVERGING,
  endingDiagonalExpanding: DIVERGING,
  zigzag: [
    fit(2, 1, 0.22, [0.382, 0.7], [0.5, 1], [0.618, 1]),
    atMost(4.236, fit(3, 1, 0.22, [0.618, 0.5], [1, 1.5], [1.618, 0.7])),
  ],
  flat: [
    atMost(1.618, fit(2, 1, 0.1, [0.97, 1], [1.1, 0.7], [1.236, 0.7], [1.382, 0.3])),
    atMost(2.618, fit(3, 1, 0.19, [1, 1], [1.236, 0.7], [1.618, 0.7])),
  ],
  triangle: NARROWING,
  triangleExpanding: WIDENING,
  doubleZigzag: [
    fit(2, 1, 0.24, [0.382, 0.7], [0.5, 1], [0.618, 1]),
    fit(3, 1, 0.24, [0.8, 0.7], [1, 1.2], [1.618, 0.5]),
  ],
  tripleZigzag: [
    fit(2, 1, 0.24, [0.382, 0.7], [0.5, 1], [0.618, 1]),
    fit(3, 1, 0.24, [0.8, 0.7], [1, 1.2], [1.618, 0.5]),
    fit(4, 3, 0.24, [0.382, 0.7], [0.5, 1], [0.618, 1]),
    fit(5, 3, 0.24, [0.8, 0.7], [1, 1.2], [1.618, 0.5]),
  ],
  doubleThree: THREES.slice(0, 2),
  tripleThree: THREES,
};

/** How usual each pattern is where several may stand; only shares among those that may matter. */
export const USUAL: Readonly<Record<Pattern, number>> = {
  impulse: 1,
  leadingDiagonal: 0.08,
  leadingDiagonalExpanding: 0.025,
  endingDiagonal: 0.12,
  endingDiagonalExpanding: 0.03,
  zigzag: 0.6,
  flat: 0.3,
  triangle: 0.12,
  triangleExpanding: 0.02,
  doubleZigzag: 0.1,
  tripleZigzag: 0.015,
  doubleThree: 0.06,
  tripleThree: 0.01,
};

/** Of two waves in a row, spread of the natural log of the ratio of their times. */
const TIME_SPREAD = 0.46;
/** A share of every ratio is left to chance: one off the usual ones weakens a count, it does not forbid it. */
const LENGTHS_BY_CHANCE: Chance = { share: 0.05, spread: 0.6 };
const TIMES_BY_CHANCE: Chance = { share: 0.15, spread: 1.3 };

/** Natural logs of ratios are looked up within plus and minus this, in steps of 1 / STEPS. */
const REACH = 5;
const STEPS = 64;
const SIZE = 2 * REACH * STEPS + 1;

const normal = (x: number, spread: number) => Math.exp(-0.5 * (x / spread) ** 2) / (spread * Math.sqrt(2 * Math.PI));

/** Error function to 1.5e-7 (Abramowitz and Stegun 1964, 7.1.26). */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const tail =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) *
    Math.exp(-x * x);
  return x < 0 ? tail - 1 : 1 - tail;
}

interface Chance {
  share: number;
  /** Spread of the natural log of the ratio. */
  spread: number;
}

interface Table {
  /** ln density of the natural log of a finished ratio. */
  done: Float64Array;
  /** ln probability that it still grows past it, for the wave in progress. */
  open: Float64Array;
}

function tableOf(all: readonly Bump[], chance: Chance, most = Infinity): Table {
  const total = all.reduce((sum, { weight }) => sum + weight, 0);
  const middle = all.reduce((sum, { ratio, weight }) => sum + (weight / total) * Math.log(ratio), 0);
  const parts = [
    ...all.map(({ ratio, spread, weight }) => ({
      at: Math.log(ratio),
      spread,
      share: ((1 - chance.share) * weight) / total,
    })),
    { at: middle, ...chance },
  ];
  const table: Table = { done: new Float64Array(SIZE), open: new Float64Array(SIZE) };
  for (let i = 0; i < SIZE; i++) {
    const x = (i - REACH * STEPS) / STEPS;
    if (x > Math.log(most)) {
      table.done[i] = table.open[i] = -Infinity;
      continue;
    }
    table.done[i] = Math.log(
      Math.max(
        1e-12,
        parts.reduce((sum, { at, spread, share }) => sum + share * normal(x - at, spread), 0),
      ),
    );
    table.open[i] = Math.log(
      Math.max(
        1e-9,
        parts.reduce((sum, { at, spread, share }) => sum + share * 0.5 * (1 - erf((x - at) / spread / Math.SQRT2)), 0),
      ),
    );
  }
  return table;
}

const TABLES = Object.fromEntries(
  PATTERN_NAMES.map((pattern) => [
    pattern,
    FITS[pattern].map(({ bumps: all, most }) => tableOf(all, LENGTHS_BY_CHANCE, most)),
  ]),
) as unknown as Record<Pattern, Table[]>;
const TIME_TABLE = tableOf([{ ratio: 1, spread: TIME_SPREAD, weight: 1 }], TIMES_BY_CHANCE);

function slot(logRatio: number): number {
  const i = Math.round(logRatio * STEPS) + REACH * STEPS;
  return i < 0 ? 0 : i >= SIZE ? SIZE - 1 : i;
}

/**
 * What wave `wave` (from 2) of a pattern says by the log of its length to that of the wave the fit compares it with.
 */
export function ratioLikelihood(pattern: Pattern, wave: number, logRatio: number, finished: boolean): number {
  const table = TABLES[pattern][wave - 2];
  return (finished ? table.done : table.open)[slot(logRatio)];
}

/** What a wave says by the log of its time to that of the wave before it. */
export function timeLikelihood(logRatio: number, finished: boolean): number {
  return (finished ? TIME_TABLE.done : TIME_TABLE.open)[slot(logRatio)];
}

/** Wave (from 1) the length of wave `wave` is compared with. */
export function comparedWith(pattern: Pattern, wave: number): number {
  return FITS[pattern][wave - 2].to;
}

/**
 * Noise inside a leg comes in pairs of turns. Small ones are more: as many in each e-fold of size, until the size comes
 * near a share of the leg that is not known beforehand.
 */
const NOISE_REACH = [0.04, 0.08, 0.16];
/** Pairs expected in one e-fold of size, and e-folds of time a pair of some size may take. */
const NOISE_PAIRS = 0.86;
const NOISE_TIME = 5;

const NOISE_SIZE = 512;
const NOISE_TABLE = Float64Array.from({ length: NOISE_SIZE + 1 }, (_, i) => {
  const within = NOISE_REACH.reduce((sum, reach) => sum + Math.exp(-i / NOISE_SIZE / reach), 0) / NOISE_REACH.length;
  return 0.5 * Math.log((NOISE_PAIRS * within) / NOISE_TIME);
});

/** What one turn of a noise pair says, half of what both do, by their `share` of the leg's height. */
export function noiseLikelihood(share: number): number {
  return NOISE_TABLE[Math.min(NOISE_SIZE, Math.round(share * NOISE_SIZE))];
}

/** ln probability that a leg has no more noise pairs of at least `share` of its height than it has. */
export function quietLikelihood(share: number): number {
  return (
    (-NOISE_PAIRS * NOISE_REACH.reduce((sum, reach) => sum + exponentialIntegral(share / reach), 0)) /
    NOISE_REACH.length
  );
}

/** E1(x), x > 0, to 5e-5 (Abramowitz and Stegun 1964, 5.1.53 and 5.1.54). */
export function exponentialIntegral(x: number): number {
  if (x < 1)
    return (
      -Math.log(x) -
      0.57721566 +
      x * (0.99999193 + x * (-0.24991055 + x * (0.05519968 + x * (-0.00976004 + x * 0.00107857))))
    );
  return (Math.exp(-x) / x) * ((x * x + 2.334733 * x + 0.250621) / (x * x + 3.330657 * x + 1.681534));
}

/** ln of the share of a pattern among those that may stand in a place. */
export function placeLikelihood(pattern: Pattern, among: readonly Pattern[]): number {
  return Math.log(USUAL[pattern] / among.reduce((sum, one) => sum + USUAL[one], 0));
}

/**
 * Height of a leg, as a share of all there is, of which half have waves that are seen inside; and how fast that
 * changes.
 */
const HALF_SEEN = 0.12;
const SEEN_POWER = 2;

/** ln probability that the waves inside a leg are seen as such; `share` is its height to that of the whole. */
export function seenLikelihood(share: number): number {
  return -Math.log(1 + (HALF_SEEN / Math.max(1e-9, share)) ** SEEN_POWER);
}

/** The same that they are not: a bare leg. */
export function bareLikelihood(share: number): number {
  return -Math.log(1 + (Math.max(1e-9, share) / HALF_SEEN) ** SEEN_POWER);
}

/** A fifth that does not pass the third, and a C that does not pass A. */
export const TRUNCATED = -1.5;
/** ln density of a length of which nothing is known before but its scale. */
export const FREE = Math.log(0.25);
