import { fromBars, type Bar, type Series } from "#core/series/series";
import { DAY } from "#core/time/dates";
import { priceRules } from "#core/waves/rules";
import { isSimple, PATTERNS, type Pattern } from "#core/waves/patterns";
import { seeded, type Random } from "./random.ts";

/** A wave that was laid out: its turns (bar and price, start first) and what each of its waves is made of. */
export interface LaidOut {
  pattern: Pattern;
  turns: { bar: number; price: number }[];
  inner: (LaidOut | undefined)[];
}

/** Bars grown from a count that is known. */
export interface PlantedCount {
  series: Series;
  root: LaidOut;
  /** Root turns that lie within the bars; fewer than the pattern has when the series ends inside it. */
  finished: number;
  complete: boolean;
  /** Bars of all turns of the finest waves, in order. */
  finest: number[];
  noise: number;
}

/** How often each pattern is planted as a root; inside, the same shares count among those that may stand in a place. */
export const SHARES: Readonly<Record<Pattern, number>> = {
  impulse: 0.4,
  leadingDiagonal: 0.03,
  leadingDiagonalExpanding: 0.01,
  endingDiagonal: 0.05,
  endingDiagonalExpanding: 0.01,
  zigzag: 0.18,
  flat: 0.12,
  triangle: 0.06,
  triangleExpanding: 0.01,
  doubleZigzag: 0.06,
  tripleZigzag: 0.01,
  doubleThree: 0.05,
  tripleThree: 0.01,
};

/** Ratio of a wave to one before it: usual values with their weights, and the spread of its natural log about them. */
interface Ratio {
  to: number;
  usual: readonly (readonly [ratio: number, weight: number])[];
  spread: number;
}
const ratio = (to: number, spread: number, ...usual: (readonly [number, number])[]): Ratio => ({ to, usual, spread });

const CONVERGING = [
  ratio(1, 0.1, [0.66, 1], [0.8, 1]),
  ratio(1, 0.1, [0.62, 1], [0.8, 1]),
  ratio(3, 0.1, [0.66, 1], [0.8, 1]),
  ratio(3, 0.1, [0.62, 1], [0.8, 1]),
];
const DIVERGING = [
  ratio(1, 0.1, [0.66, 1], [0.8, 1]),
  ratio(1, 0.1, [1.25, 1], [1.5, 1]),
  ratio(3, 0.1, [0.66, 1], [0.8, 1]),
  ratio(3, 0.1, [1.25, 1], [1.5, 1]),
];
const THREES = [
  ratio(1, 0.12, [0.62, 1], [0.9, 1]),
  ratio(1, 0.15, [0.8, 1], [1, 1]),
  ratio(3, 0.12, [0.62, 1], [0.9, 1]),
  ratio(3, 0.15, [0.8, 1], [1, 1]),
];
const ZIGZAGS = [
  ratio(1, 0.12, [0.382, 1], [0.5, 1], [0.618, 1]),
  ratio(1, 0.12, [0.8, 1], [1, 2], [1.618, 1]),
  ratio(3, 0.12, [0.382, 1], [0.5, 1], [0.618, 1]),
  ratio(3, 0.12, [0.8, 1], [1, 2], [1.618, 1]),
];

/**
 * Ratios of waves 2, 3, ... of each pattern. Centres by the guidelines of Frost and Prechter, chapters 2 and 4, from
 * memory.
 */
export const RATIOS: Readonly<Record<Pattern, readonly Ratio[]>> = {
  impulse: [
    ratio(1, 0.1, [0.5, 1], [0.618, 1.5], [0.75, 0.5]),
    ratio(1, 0.12, [1.2, 0.3], [1.618, 2], [2.618, 0.7]),
    ratio(3, 0.12, [0.236, 0.5], [0.382, 1.5], [0.5, 0.3]),
    ratio(1, 0.12, [0.618, 0.7], [1, 1.5], [1.618, 0.5]),
  ],
  leadingDiagonal: CONVERGING,
  leadingDiagonalExpanding: DIVERGING,
  endingDiagonal: CONVERGING,
  endingDiagonalExpanding: DIVERGING,
  zigzag: ZIGZAGS.slice(0, 2),
  flat: [
    ratio(1, 0.05, [0.97, 1], [1.1, 0.6], [1.236, 0.7], [1.382, 0.2]),
    ratio(1, 0.1, [1, 1], [1.236, 0.6], [1.618, 0.7]),
  ],
  triangle: [1, 2, 3, 4].map((to) => ratio(to, 0.08, [0.618, 1], [0.78, 1])),
  triangleExpanding: [1, 2, 3, 4].map((to) => ratio(to, 0.05, [1.15, 1], [1.3, 1])),
  doubleZigzag: ZIGZAGS.slice(0, 2),
  tripleZigzag: ZIGZAGS,
  doubleThree: THREES.slice(0, 2),
  tripleThree: THREES,
};

/**
 * How far a shape goes past its ends at the most, as a share of its height; and of shapes that fall short in the end
 * this share is kept.
 */
const WIDEST = 0.382;
const TRUNCATED = 0.1;
const TRUNCATES: readonly Pattern[] = ["impulse", "zigzag", "flat", "endingDiagonal"];
/** Spread of the natural log of a wave's time about that of its siblings; those against the whole take 0.7 of it. */
const TIME_SPREAD = 0.35;
/** Finest legs of a series, and bars of the shortest of them. */
const LEGS = { least: 18, most: 60 };
const SHORTEST = 6;
export const NOISES = [0.05, 0.1, 0.2] as const;

/** What was fixed before anything was drawn. */
export const PLAN =
  `noise: the largest departure from the straight line inside a finest leg, as a share of it ` +
  (`(${NOISES.join(", ")}); half of the series end inside the root; ${LEGS.least} to ${LEGS.most} finest ` +
    (`legs of at least ${SHORTEST} bars; prices arithmetic; no shape goes past its ends by more than ` +
      (`${WIDEST} of its height; one in ten of those that fall short in the end is kept; after a root that ` +
        `has ended price takes back 33 to 66 % of its last wave`)));

/** One series. Same seed, same series. */
export function plantCount(seed: string, noise: number): PlantedCount {
  const random = seeded(seed);
  const pattern = pick(
    Object.entries(SHARES).map(([name, share]) => [name as Pattern, share] as const),
    random,
  );
  const tree = grow(pattern, LEGS.least + Math.floor(random.next() * (LEGS.most - LEGS.least + 1)), random);
  const sign = random.next() < 0.5 ? 1 : -1;
  const root = place(tree, { at: 0, price: 1000 }, { at: 1, price: 1000 + sign * 300 }, random);
  const turns = finestOf(root);
  const shortest = Math.min(...turns.slice(1).map(({ at }, i) => at - turns[i].at));
  const scale = Math.min(SHORTEST / shortest, 4000);
  const complete = random.next() < 0.5;
  const bars: Bar[] = [];
  const at: number[] = [0];
  for (let i = 1; i < turns.length; i++) {
    const length = Math.max(SHORTEST, Math.round((turns[i].at - turns[i - 1].at) * scale));
    drawLeg(bars, turns[i - 1].price, turns[i].price, length, noise, random);
    at.push(bars.length - 1);
  }
  const barOf = (spot: Spot) => at[turns.indexOf(spot)];
  const laid = layOut(root, barOf);
  const waves = PATTERNS[pattern].labels.length;
  if (complete) {
    // The move after it has begun: a leg against it that takes back a third to two thirds of its last wave.
    const [before, end] = laid.turns.slice(-2);
    drawLeg(
      bars,
      end.price,
      end.price + random.between(0.33, 0.66) * (before.price - end.price),
      SHORTEST * 2,
      noise,
      random,
    );
    return { series: fromBars(bars), root: laid, finished: waves, complete, finest: at, noise };
  }
  const finished = 2 + Math.floor(random.next() * (waves - 2));
  const [from, to] = [laid.turns[finished].bar, laid.turns[finished + 1].bar];
  const cut = Math.max(from + SHORTEST, Math.round(from + random.between(0.35, 0.9) * (to - from)));
  return { series: fromBars(bars.slice(0, cut)), root: laid, finished, complete, finest: at, noise };
}

interface Grown {
  pattern: Pattern;
  /** Inner shape: time and height of each turn as shares of the whole. */
  turns: { at: number; height: number }[];
  inner: (Grown | undefined)[];
}

/** A tree with so many finest legs: of the legs there are the highest one is divided, as long as there is room. */
function grow(pattern: Pattern, legs: number, random: Random): Grown {
  const root = shapeOf(pattern, random);
  const leaves = leavesOf(root, 1);
  while (leaves.length < legs) {
    leaves.sort((a, b) => b.height - a.height);
    const leaf = leaves[0];
    const within = PATTERNS[leaf.parent.pattern].children[leaf.wave];
    const child = shapeOf(
      pick(
        within.map((name) => [name, SHARES[name]] as const),
        random,
      ),
      random,
    );
    leaf.parent.inner[leaf.wave] = child;
    leaves.splice(0, 1, ...leavesOf(child, leaf.height));
  }
  mendTogether(root, random);
  return root;
}

function leavesOf(parent: Grown, height: number): { parent: Grown; wave: number; height: number }[] {
  return parent.inner.map((_, wave) => ({
    parent,
    wave,
    height: height * Math.abs(parent.turns[wave + 1].height - parent.turns[wave].height),
  }));
}

/**
 * A combination that came out as zigzags alone gets a flat for its first wave; a triangle keeps one wave that is no
 * zigzag.
 */
function mendTogether(wave: Grown, random: Random): void {
  if (wave.pattern.endsWith("Three") && wave.inner.every((child, i) => i % 2 === 1 || child?.pattern === "zigzag"))
    wave.inner[0] = shapeOf("flat", random);
  if (wave.pattern.startsWith("triangle")) {
    let others = 0;
    wave.inner.forEach((child, i) => {
      if (child && !isSimple(child.pattern) && ++others > 1) wave.inner[i] = shapeOf("zigzag", random);
    });
  }
  for (const child of wave.inner) if (child) mendTogether(child, random);
}

/** Draws ratios and times until the rules of the pattern hold. */
function shapeOf(pattern: Pattern, random: Random): Grown {
  const { labels } = PATTERNS[pattern];
  for (;;) {
    const lengths = [1];
    for (const { to, usual, spread } of RATIOS[pattern].slice(0, labels.length - 1))
      lengths.push(lengths[to - 1] * pick(usual, random) * Math.exp(spread * random.normal()));
    const heights = lengths.reduce<number[]>(
      (out, length, i) => [...out, out[i] + (i % 2 === 0 ? length : -length)],
      [0],
    );
    const whole = heights[heights.length - 1];
    // Rules need prices above zero; so far up the lowest turn is one.
    if (
      whole <= 0 ||
      priceRules({ pattern, pivots: heights.map((height, i) => ({ time: i, price: 100 + height })) }).some(
        ({ holds }) => !holds,
      )
    )
      continue;
    if (heights.some((height) => height < -WIDEST * whole || height > (1 + WIDEST) * whole)) continue;
    if (
      heights[heights.length - 1] <= heights[heights.length - 3] &&
      TRUNCATES.includes(pattern) &&
      random.next() > TRUNCATED
    )
      continue;
    const times = labels.map((_, i) => (i % 2 === 0 ? 1 : 0.7) * Math.exp(TIME_SPREAD * random.normal()));
    const all = times.reduce((sum, time) => sum + time, 0);
    let at = 0;
    const turns = heights.map((height, i) => ({
      at: i === 0 ? 0 : (at += times[i - 1]) / all,
      height: height / whole,
    }));
    // Lines that converge do so in time: now that times are drawn, too.
    const pivots = turns.map(({ at: time, height }) => ({ time, price: 100 + height }));
    if (priceRules({ pattern, pivots }).some(({ holds }) => !holds)) continue;
    return { pattern, turns, inner: labels.map(() => undefined) };
  }
}

interface Spot {
  at: number;
  price: number;
}
interface Placed {
  pattern: Pattern;
  spots: Spot[];
  inner: (Placed | undefined)[];
}

function place({ pattern, turns, inner }: Grown, from: Spot, to: Spot, random: Random): Placed {
  const last = turns.length - 1;
  const spots = turns.map(({ at, height }, i): Spot =>
    i === 0
      ? from
      : i === last
        ? to
        : {
            at: from.at + at * (to.at - from.at),
            price: Math.round((from.price + height * (to.price - from.price)) * 100) / 100,
          },
  );
  return { pattern, spots, inner: inner.map((child, i) => child && place(child, spots[i], spots[i + 1], random)) };
}

function finestOf(wave: Placed): Spot[] {
  return wave.inner
    .flatMap((child, i) => (child ? finestOf(child) : [wave.spots[i], wave.spots[i + 1]]))
    .filter((spot, i, all) => spot !== all[i - 1]);
}

function layOut({ pattern, spots, inner }: Placed, barOf: (spot: Spot) => number): LaidOut {
  return {
    pattern,
    turns: spots.map((spot) => ({ bar: barOf(spot), price: spot.price })),
    inner: inner.map((child) => child && layOut(child, barOf)),
  };
}

/**
 * Bars from one turn to the next: a line with noise tied to both ends, never past them; the turn itself is the extreme
 * of its bar.
 */
function drawLeg(bars: Bar[], from: number, to: number, length: number, noise: number, random: Random): void {
  const walk = [0];
  for (let i = 1; i <= length; i++) walk.push(walk[i - 1] + random.normal());
  const tied = walk.map((value, i) => value - (i / length) * walk[length]);
  const widest = Math.max(1e-9, ...tied.map(Math.abs));
  const height = to - from;
  const within = (price: number, share: number) =>
    Math.round((from + Math.min(0.99, Math.max(0.01, (price - from) / height + share)) * height) * 100) / 100;
  let before = bars.length > 0 ? bars[bars.length - 1].close : from;
  for (let i = 1; i <= length; i++) {
    const line = from + (i / length) * height + (noise * tied[i] * height) / widest;
    const close = i === length ? to : within(line, 0);
    const [a, b] = [
      within(Math.max(before, close), 0.02 * random.next()),
      within(Math.min(before, close), -0.02 * random.next()),
    ];
    const first = bars.length === 0;
    bars.push({
      time: Date.UTC(2000, 0, 1) + bars.length * DAY,
      open: before,
      close,
      high: Math.max(before, close, first ? from : -Infinity, a, b),
      low: Math.min(before, close, first ? from : Infinity, a, b),
      volume: 1,
    });
    before = close;
  }
}

function pick<T>(weighted: readonly (readonly [T, number])[], random: Random): T {
  let left = random.next() * weighted.reduce((sum, [, weight]) => sum + weight, 0);
  for (const [value, weight] of weighted) if ((left -= weight) <= 0) return value;
  return weighted[weighted.length - 1][0];
}
