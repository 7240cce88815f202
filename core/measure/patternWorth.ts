import { effectiveOf } from "#core/measure/lift";
import { firstScaled } from "#core/measure/matched";
import { shuffledBars } from "#core/measure/shuffled";
import { verdictOf, type Verdict } from "#core/measure/verdict";
import { PatternDetector, type PatternFound } from "#core/patterns/detector";
import { PATTERN_NAMES, type PatternName } from "#core/patterns/registry";
import { run, Track } from "#core/series/track";
import { drawsOf, newcombe, wilson, type Interval } from "#core/statistics/intervals";

/** What patterns of one name were worth on one rung. */
export interface PatternWorth {
  name: PatternName;
  /** Found in these bars, and in as many bars shuffled, in the mean. */
  found: number;
  byChance: number;
  /** Confirmed, and of these decided: the target was met, or a close went beyond the stop, whichever came first. */
  confirmed: number;
  n: number;
  share?: number;
  interval?: Interval;
  /** The same question asked at random bars, with target and stop as far away in ATR. */
  chance: { n: number; share?: number };
  lift?: number;
  liftInterval?: Interval;
  verdict: Verdict;
}

/** Bars after which nothing is waited for any more. */
export const PATTERN_HORIZON = 250;
const DRAWS = 20;
const SHUFFLES = 3;

/** A trade of the plainest kind: in at a close, out at a target by a wick or beyond a stop by a close. */
interface Race {
  at: number;
  way: 1 | -1;
  /** Distances from that close, in ATR of its bar. */
  target: number;
  stop: number;
}

type Bars = Pick<Track, "high" | "low" | "close" | "atr" | "length">;

/** Whether the target came first; nothing where neither came within the horizon. A bar that does both failed. */
export function raceOf({ at, way, target, stop }: Race, bars: Bars, horizon = PATTERN_HORIZON): boolean | undefined {
  const { high, low, close, atr } = bars;
  const [from, unit] = [close[at], atr[at]];
  const last = Math.min(bars.length - 1, at + horizon);
  for (let i = at + 1; i <= last; i++) {
    if (way * (close[i] - from) < -stop * unit - 1e-9 * unit) return false;
    if (way * ((way > 0 ? high[i] : low[i]) - from) >= target * unit - 1e-9 * unit) return true;
  }
  return undefined;
}

/**
 * Confirmed patterns by name, each followed from the close that confirmed it, against twenty random bars with target
 * and stop as far away in ATR (seed 1); and how many as good are found where the same bars are shuffled. What had
 * passed its target when it was confirmed is left out. Cost: O(patterns x horizon).
 */
export function patternWorthOf(track: Track, found: readonly PatternFound[]): PatternWorth[] {
  const shuffled = countShuffled(track);
  const draw = drawsOf(1);
  const first = firstScaled(track, track.length);
  return PATTERN_NAMES.flatMap((name): PatternWorth[] => {
    const own = found.filter((one) => one.name === name);
    const byChance = (shuffled.get(name) ?? 0) / SHUFFLES;
    if (own.length === 0) return [];
    const races = own.flatMap(({ life }) => raceFrom(life, track));
    const counted = { name, found: own.length, byChance, confirmed: races.length };
    const cases = races.flatMap((race) => {
      const hit = raceOf(race, track);
      return hit === undefined ? [] : [{ at: race.at, hit }];
    });
    const chance = chanceOf(races, track, first, draw);
    if (cases.length === 0) return [{ ...counted, n: 0, chance, verdict: "few" }];
    const share = cases.filter(({ hit }) => hit).length / cases.length;
    const effective = effectiveOf(cases, PATTERN_HORIZON);
    const interval = wilson(share * effective, effective);
    if (chance.share === undefined) return [{ ...counted, n: cases.length, share, interval, chance, verdict: "few" }];
    const drawn = { share: chance.share, interval: wilson(chance.share * chance.n, chance.n) };
    const liftInterval = newcombe({ share, interval }, drawn);
    return [
      {
        ...{ ...counted, n: cases.length, share, interval, chance, lift: share - chance.share, liftInterval },
        verdict: verdictOf(cases.length, liftInterval),
      },
    ];
  });
}

function raceFrom(life: PatternFound["life"], { close, atr }: Bars): Race[] {
  const { way, confirmedAt, target, stop } = life;
  if (way === undefined || confirmedAt === undefined || target === undefined || stop === undefined) return [];
  const unit = atr[confirmedAt];
  const [ahead, back] = [(way * (target - close[confirmedAt])) / unit, (way * (close[confirmedAt] - stop)) / unit];
  return ahead > 0 && back > 0 ? [{ at: confirmedAt, way, target: ahead, stop: back }] : [];
}

function chanceOf(
  races: readonly Race[],
  bars: Bars,
  first: number,
  draw: (below: number) => number,
): PatternWorth["chance"] {
  const count = bars.length - PATTERN_HORIZON - first;
  if (count <= 0) return { n: 0 };
  let [hits, n] = [0, 0];
  for (const race of races)
    for (let k = 0; k < DRAWS; k++) {
      const hit = raceOf({ ...race, at: first + draw(count) }, bars);
      if (hit === undefined) continue;
      n++;
      if (hit) hits++;
    }
  return n === 0 ? { n } : { n, share: hits / n };
}

/** How many of each name the same bars hold in another order, over all shuffles. */
function countShuffled({ series, tick }: Track): Map<PatternName, number> {
  const counts = new Map<PatternName, number>();
  for (let seed = 1; seed <= SHUFFLES; seed++) {
    const track = new Track(shuffledBars(series, seed, tick), tick);
    const detector = new PatternDetector(track);
    run(track, [detector]);
    for (const { name } of detector.found) counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return counts;
}
