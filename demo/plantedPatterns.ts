import { PatternDetector, type PatternFound } from "#core/patterns/detector";
import { isOver } from "#core/patterns/life";
import { PATTERN_NAMES, PATTERNS, type PatternName } from "#core/patterns/registry";
import type { PatternShape } from "#core/patterns/shape";
import { allocate, setBar, type Series } from "#core/series/series";
import { run, Track } from "#core/series/track";
import { drawsOf } from "#core/statistics/intervals";
import { DAY } from "#core/time/dates";

const TICK = 0.01;
/**
 * Where each pattern's textbook turns stand, in bars and in tenths of its height; before it price comes from `from`.
 */
const TEXTBOOK: Readonly<Record<PatternName, readonly (readonly [bar: number, price: number])[]>> = {
  flag: [
    [0, 0],
    [8, 10],
    [12, 7],
    [16, 9.2],
    [20, 6.4],
  ],
  pennant: [
    [0, 0],
    [8, 10],
    [12, 6],
    [16, 9.2],
    [20, 7.2],
  ],
  symmetricalTriangle: [
    [0, 0],
    [6, 10],
    [12, 2],
    [18, 8],
    [24, 4],
  ],
  ascendingTriangle: [
    [0, 0],
    [6, 10],
    [12, 3],
    [18, 10],
    [24, 6],
  ],
  wedge: [
    [0, 1],
    [6, 9],
    [12, -1],
    [18, 3],
    [24, -3],
  ],
  rectangle: [
    [0, 0],
    [6, 10],
    [12, 0],
    [18, 10],
    [24, 0],
  ],
  channelBreak: [
    [0, 0],
    [6, 8],
    [12, -4],
    [18, 4],
    [24, -8],
  ],
  doubleBottom: [
    [0, 14],
    [12, 0],
    [20, 8],
    [28, 0.3],
  ],
  tripleBottom: [
    [0, 14],
    [12, 0],
    [18, 8],
    [24, 0.4],
    [30, 8.2],
    [36, 0],
  ],
  headAndShoulders: [
    [0, 14],
    [8, 4],
    [14, 9],
    [22, 0],
    [30, 9.4],
    [36, 4.2],
  ],
  cup: [
    [0, 10],
    [16, 0],
    [32, 10],
    [38, 7],
  ],
  fivePoints786: [
    [0, 0],
    [12, 14],
    [18, 5.35],
    [24, 11],
    [34, 3],
  ],
  fivePoints886: [
    [0, 0],
    [12, 14],
    [18, 8],
    [24, 12],
    [34, 1.6],
  ],
  fivePoints1272: [
    [0, 0],
    [12, 14],
    [18, 3],
    [24, 9.5],
    [36, -3.8],
  ],
  fivePoints1618: [
    [0, 0],
    [12, 14],
    [18, 7],
    [24, 12],
    [38, -8.65],
  ],
};

/** Between turns a cup is round: its path spends most of its time low. */
const ROUND: ReadonlySet<PatternName> = new Set(["cup"]);

export interface Planted {
  name: PatternName;
  sign: 1 | -1;
  series: Series;
  /** Bars of its turns. */
  turns: number[];
}

/**
 * A pattern within a longer series: 60 bars of noise, a move into it, its turns with noise between them, and 40 bars on
 * from its last turn the way it points. Noise is drawn from `residuals` (a market's returns in units of its ATR), so it
 * has that market's tails; turns stand up to `shake` ATR and one bar in six from the textbook's.
 */
export function plantPattern(name: PatternName, seed: number, residuals: readonly number[], shake = 0.4): Planted {
  const draw = drawsOf(seed);
  const share = () => draw(2 ** 20) / 2 ** 20;
  const noise = () => residuals[draw(residuals.length)];
  const sign = draw(2) === 0 ? 1 : -1;
  const book = TEXTBOOK[name];
  const lead = 60;
  const [, start] = book[0];
  const before = book[1][1] > start ? start + 8 : start - 8;
  const path: [bar: number, price: number][] = [[lead - 15, before]];
  let bar = lead;
  book.forEach(([at, price], n) => {
    if (n > 0) bar += Math.max(3, Math.round((at - book[n - 1][0]) * (0.85 + 0.3 * share())));
    path.push([bar, price + (2 * share() - 1) * shake]);
  });
  const turns = path.slice(1).map(([at]) => at);
  const end = path[path.length - 1][1];
  path.push([bar + 20, end + 14]);
  const length = bar + 45;
  const closes = closesOf(path, length, noise, ROUND.has(name) ? turns : undefined);
  return {
    name,
    sign,
    turns,
    series: barsOf(
      closes.map((at) => 1_000 + sign * at),
      noise,
    ),
  };
}

/** Closes along a path: a bridge of noise over each leg, a free walk before the first and after the last. */
function closesOf(path: readonly [number, number][], length: number, noise: () => number, round?: number[]): number[] {
  const out = new Array<number>(length).fill(0);
  out[path[0][0]] = path[0][1];
  for (let i = path[0][0] - 1; i >= 0; i--) out[i] = out[i + 1] + 0.4 * noise();
  for (let n = 1; n < path.length; n++) {
    const [[from, a], [to, b]] = [path[n - 1], path[n]];
    const steps = Array.from({ length: to - from }, () => 0.45 * noise());
    const sum = steps.reduce((total, step) => total + step, 0);
    let drift = 0;
    for (let i = from + 1; i <= to; i++) {
      drift += steps[i - from - 1] - sum / (to - from);
      const share = (i - from) / (to - from);
      const isRound = round && (n === 2 || n === 3);
      // Down fast and slowly along the bottom, and up the same way.
      const way = isRound ? (n === 2 ? 1 - (1 - share) ** 2.5 : share ** 2.5) : share;
      out[i] = a + (b - a) * way + (i === to ? 0 : drift);
    }
  }
  const last = path[path.length - 1][0];
  for (let i = last + 1; i < length; i++) out[i] = out[i - 1] + 0.4 * noise();
  return out;
}

/** Bars that end where they began, of noise alone: whatever is found in them is chance. */
export function plantBridge(length: number, seed: number, residuals: readonly number[]): Series {
  const draw = drawsOf(seed);
  const noise = () => residuals[draw(residuals.length)];
  const closes = closesOf(
    [
      [0, 0],
      [length - 1, 0],
    ],
    length,
    noise,
  );
  return barsOf(
    closes.map((at) => 1_000 + at),
    noise,
  );
}

/** Bars of an ATR near 1 about closes. */
function barsOf(closes: readonly number[], noise: () => number): Series {
  const series = allocate(closes.length);
  const whole = (price: number) => Number((Math.round(price / TICK) * TICK).toFixed(2));
  closes.forEach((at, i) => {
    const close = whole(at);
    const open = i === 0 ? close : series.close[i - 1];
    const [above, below] = [Math.min(0.5, 0.3 * Math.abs(noise())), Math.min(0.5, 0.3 * Math.abs(noise()))];
    setBar(series, i, {
      ...{ time: Date.UTC(2020, 0, 6) + i * DAY, open, close, volume: 1_000 },
      high: whole(Math.max(open, close) + above),
      low: whole(Math.min(open, close) - below),
    });
  });
  return series;
}

/** Returns of a series in units of its ATR, mean and deviation made 0 and 1: what noise is drawn from. */
export function residualsOf(series: Series): number[] {
  const track = new Track(series, TICK);
  const moves = Array.from({ length: series.length - 15 }, (_, n) => {
    const i = n + 15;
    return (series.close[i] - series.close[i - 1]) / track.atr[i - 1];
  });
  const mean = moves.reduce((sum, one) => sum + one, 0) / moves.length;
  const deviation = Math.sqrt(moves.reduce((sum, one) => sum + (one - mean) ** 2, 0) / moves.length);
  return moves.map((one) => (one - mean) / deviation);
}

export function foundIn(series: Series, names: readonly PatternName[] = PATTERN_NAMES): PatternFound[] {
  const track = new Track(series, TICK);
  const detector = new PatternDetector(track, names);
  run(track, [detector]);
  return detector.found;
}

/** Bars a turn may be found from where it was planted. */
const NEAR = 3;

/** Found where it was planted: all of its turns but one at most, for a turn before may belong to it as well. */
function isPlanted({ sign, turns }: Planted, { name, sign: own, turns: found }: PatternFound): boolean {
  const shape: PatternShape = PATTERNS[name];
  if (!shape.isEither && own !== sign) return false;
  const met = turns.filter((turn) => found.some(({ index }) => Math.abs(index - turn) <= NEAR));
  return met.length >= turns.length - 1;
}

export interface PatternScore {
  planted: number;
  /** Planted ones that were found at their turns. */
  recalled: number;
  /** Of those, confirmed before they were over otherwise. */
  confirmed: number;
  /** Everything found under that name, and what of it was planted. */
  found: number;
  right: number;
}

/** How many of `n` planted patterns of a name are found, and how much of what is found was planted. */
export function judgePatterns(name: PatternName, n: number, residuals: readonly number[], seed = 1): PatternScore {
  const score: PatternScore = { planted: n, recalled: 0, confirmed: 0, found: 0, right: 0 };
  for (let k = 0; k < n; k++) {
    const planted = plantPattern(name, seed * 10_000 + k, residuals);
    const found = foundIn(planted.series, [name]);
    const own = found.filter((one) => isPlanted(planted, one));
    score.found += found.length;
    score.right += own.length;
    if (own.length > 0) score.recalled++;
    if (own.some(({ life }) => life.confirmedAt !== undefined && (isOver(life) || life.state === "confirmed")))
      score.confirmed++;
  }
  return score;
}
