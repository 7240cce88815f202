import { PatternDetector, type PatternFound } from "#core/patterns/detector";
import { PATTERN_FAMILIES, PATTERN_NAMES, type PatternName } from "#core/patterns/registry";
import { patternWorthOf } from "#core/measure/patternWorth";
import { shuffledBars } from "#core/measure/shuffled";
import { patternText } from "#core/measure/worthText";
import { barAt, slice, type Series } from "#core/series/series";
import { run, Track } from "#core/series/track";
import { wilson } from "#core/statistics/intervals";
import { tickOf } from "#core/series/tick";
import { sp500 } from "#core/testing/openData";
import { judgePatterns, plantBridge, residualsOf } from "../demo/plantedPatterns.ts";
import type { Named } from "./truth.ts";
import { millionBars, scan } from "./core.ts";
import type { Side } from "./side.ts";
import { sized } from "./size.ts";

function detectorOver(series: Series, tick: number): { track: Track; detector: PatternDetector } {
  const track = new Track(series, tick);
  const detector = new PatternDetector(track);
  run(track, [detector]);
  return { track, detector };
}

/** Every pattern over a million bars, and one bar more on ten rungs, against reading the bars once. */
export function patternSides(): Side[] {
  const minutes = millionBars();
  const scanned = { other: () => scan(minutes), otherName: "a plain scan of 1,000,000 minutes", pairs: 3 };
  const rungs = Array.from({ length: 10 }, (_, i) =>
    detectorOver(slice(minutes, i * 1_000, i * 1_000 + sized(4_000, 500)), 1),
  );
  const newBar = () => {
    for (const { track, detector } of rungs) {
      track.push({ ...barAt(track.series, track.length - 1), time: track.time[track.length - 1] + 60_000 });
      detector.next(track.length - 1);
    }
  };
  const all = slice(minutes, 0, sized(minutes.length, 2_000));
  return [
    { name: "every pattern of 1,000,000 bars", ours: () => detectorOver(all, 1).detector.found.length, ...scanned },
    { name: "a new bar on 10 rungs, every pattern", ours: newBar, ...scanned },
  ];
}

const percent = (share: number) => `${(100 * share).toFixed(0)} %`;
const within = (hits: number, n: number) => {
  const [low, high] = wilson(hits, n);
  return `${percent(hits / n)} (${percent(low)} to ${percent(high)}) of ${n}`;
};

/** Planted patterns, finds where there is nothing to find, and what those of real bars were worth. */
export function* patternLines(given: readonly Named[]): Generator<string> {
  const real = [{ name: "S&P 500, days (vega-datasets)", series: sp500() }, ...given];
  const residuals = residualsOf(real[0].series);
  yield "Planted in noise of real residuals, turns up to 0.4 ATR and a sixth of their time off: found at their turns";
  const n = sized(200, 3);
  for (const name of PATTERN_NAMES) {
    const { recalled, found, right } = judgePatterns(name, n, residuals, 1);
    yield (
      `  ${PATTERN_FAMILIES[name].padEnd(34)} recall ${within(recalled, n)}` +
      (found > 0 ? `, precision ${within(right, found)}` : "")
    );
  }
  yield "Found a thousand bars where there is nothing to find: the same bars shuffled, and bridges of shuffled returns";
  for (const { name, series } of real) {
    const tick = tickOf(series);
    const own = detectorOver(series, tick).detector.found;
    const runs = Array.from({ length: sized(20, 1) }, (_, k) => k + 1);
    const shuffled = runs.map((seed) => detectorOver(shuffledBars(series, seed, tick), tick).detector.found);
    const bridges = runs.map((seed) => detectorOver(plantBridge(series.length, seed, residuals), 0.01).detector.found);
    yield (
      `  ${name}: ${rate(own.length, series.length)}; shuffled ${rates(shuffled, series.length)}; ` +
      `bridges ${rates(bridges, series.length)}`
    );
    for (const pattern of PATTERN_NAMES)
      yield (
        `    ${PATTERN_FAMILIES[pattern].padEnd(34)} ${counted(own, pattern)} here, ` +
        `${meanOf(shuffled, pattern).toFixed(1)} shuffled, ${meanOf(bridges, pattern).toFixed(1)} on bridges`
      );
    yield "  What became of them:";
    const { track, detector } = detectorOver(series, tick);
    for (const row of patternWorthOf(track, detector.found))
      yield `    ${PATTERN_FAMILIES[row.name].padEnd(34)} ${patternText(row)}`;
  }
}

const counted = (found: readonly PatternFound[], name: PatternName) => found.filter((one) => one.name === name).length;
const meanOf = (runs: readonly (readonly PatternFound[])[], name: PatternName) =>
  runs.reduce((sum, found) => sum + counted(found, name), 0) / runs.length;
const rate = (found: number, bars: number) => `${((1_000 * found) / bars).toFixed(1)}`;

/** The mean of runs, with the 95 % interval of that mean by how the runs differ. */
function rates(runs: readonly (readonly PatternFound[])[], bars: number): string {
  const each = runs.map((found) => (1_000 * found.length) / bars);
  const mean = each.reduce((sum, one) => sum + one, 0) / each.length;
  if (each.length < 2) return mean.toFixed(1);
  const deviation = Math.sqrt(each.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (each.length - 1));
  const half = (2.093 * deviation) / Math.sqrt(each.length);
  return `${mean.toFixed(1)} (${(mean - half).toFixed(1)} to ${(mean + half).toFixed(1)}, ${each.length} runs)`;
}
