import type { Random } from "./random.ts";

/** A planted wave: its pattern, where it starts and ends (trading days, log price) and what it is made of. */
export interface PlantedWave {
  pattern: "impulse" | "zigzag" | "leg";
  label: string;
  start: Point;
  end: Point;
  children: PlantedWave[];
}

interface Point {
  day: number;
  log: number;
}

/**
 * Divides a wave into waves of the next degree, `depth` degrees deep; odd waves of an impulse and A, C are impulses.
 */
export function plant(
  start: Point,
  end: Point,
  pattern: "impulse" | "zigzag",
  depth: number,
  random: Random,
  label = "0",
): PlantedWave {
  const turns = pattern === "impulse" ? impulseTurns(random) : zigzagTurns(random);
  const points = [
    start,
    ...turns.map(({ day, log }) => ({ day: mix(start.day, end.day, day), log: mix(start.log, end.log, log) })),
    end,
  ];
  const names = pattern === "impulse" ? ["1", "2", "3", "4", "5"] : ["A", "B", "C"];
  const children = names.map((name, i): PlantedWave => {
    const [from, to] = [points[i], points[i + 1]];
    if (depth <= 1 || to.day - from.day < 9) return { pattern: "leg", label: name, start: from, end: to, children: [] };
    return plant(from, to, i % 2 === 0 ? "impulse" : "zigzag", depth - 1, random, name);
  });
  return { pattern, label, start, end, children };
}

const mix = (a: number, b: number, share: number) => a + (b - a) * share;

/** Inner turns of an impulse as shares of its time and its height. Wave 4 keeps clear of wave 1 by construction. */
function impulseTurns(random: Random): Point[] {
  const two = random.between(0.45, 0.68);
  const three = random.between(1.5, 2.4);
  const four = random.between(0.25, 0.4);
  const five = random.between(0.7, 1.25);
  const heights = [1, -two, three, -four * three, five];
  const times = [
    random.between(0.8, 1.2),
    random.between(0.5, 0.9),
    random.between(1.4, 2.2),
    random.between(0.6, 1.1),
    random.between(0.7, 1.2),
  ];
  return accumulate(heights, times);
}

function zigzagTurns(random: Random): Point[] {
  const b = random.between(0.35, 0.65);
  const c = random.between(0.85, 1.3);
  const times = [random.between(0.8, 1.2), random.between(0.5, 0.9), random.between(0.8, 1.3)];
  return accumulate([1, -b, c], times);
}

function accumulate(heights: readonly number[], times: readonly number[]): Point[] {
  const sum = (values: readonly number[], to = values.length) =>
    values.slice(0, to).reduce((total, value) => total + value, 0);
  return heights
    .slice(1)
    .map((_, i) => ({ day: sum(times, i + 1) / sum(times), log: sum(heights, i + 1) / sum(heights) }));
}

/** The turns of the finest waves in order: the skeleton of the price. */
export function skeleton(wave: PlantedWave): Point[] {
  const legs = (one: PlantedWave): PlantedWave[] => (one.children.length === 0 ? [one] : one.children.flatMap(legs));
  const all = legs(wave);
  return [all[0].start, ...all.map(({ end }) => end)];
}
