import type { Side } from "./side.ts";
import { sized } from "./size.ts";
import { sp500 } from "#core/testing/openData";
import { bestCounts, COUNTING, type CountProposal } from "#core/waves/proposals";
import { checkTree, STRICT } from "#core/waves/rules";
import { allWaves, isComplete } from "#core/waves/wave";
import { brokenRules } from "#core/testing/waveRules";
import { NOISES, PLAN, plantCount, SHARES, type PlantedCount } from "../demo/plantedCounts.ts";
import { scan } from "./core.ts";

interface Found {
  planted: PlantedCount;
  proposals: CountProposal[];
  /** Place of the planted root among the distinct roots proposed, from 1; 0 when it is not among them. */
  place: number;
  ms: number;
}

/** Same pattern, every root turn within one finest swing of the planted one, and the same wave in progress. */
export function isPlanted(
  { root: { pattern, pivots } }: CountProposal,
  { root, finished, finest, complete, series }: PlantedCount,
): boolean {
  if (pattern !== root.pattern || isComplete({ pattern, pivots }) !== complete || pivots.length !== finished + 1)
    return false;
  const timeOf = (bar: number) => series.time[Math.max(0, Math.min(series.length - 1, bar))];
  return pivots.every(({ time }, i) => {
    const at = finest.indexOf(root.turns[i].bar);
    return time >= timeOf(finest[at - 1] ?? 0) && time <= timeOf(finest[at + 1] ?? Infinity);
  });
}

export function findPlanted(planted: PlantedCount): Found {
  const began = performance.now();
  const proposals = bestCounts(planted.series, COUNTING);
  const ms = performance.now() - began;
  return { planted, proposals, ms, place: proposals.findIndex((proposal) => isPlanted(proposal, planted)) + 1 };
}

export function runPlanted(seed: string, count: number): Found[] {
  return Array.from({ length: count }, (_, i) => findPlanted(plantCount(`${seed} ${i}`, NOISES[i % NOISES.length])));
}

export function reportLines(all: readonly Found[]): string[] {
  const line = (name: string, some: readonly Found[]) => {
    const share = (most: number) =>
      `${percentOf(some.filter(({ place }) => place >= 1 && place <= most).length / some.length)} %`;
    return (
      `${name.padEnd(30)} ${String(some.length).padStart(4)}   first ${share(1)}   of 3 ${share(3)}   of 5 ` +
      `${share(5)}   of 10 ${share(10)}`
    );
  };
  const group = (name: (one: Found) => string) =>
    [...new Set(all.map(name))].sort().map((key) =>
      line(
        key,
        all.filter((one) => name(one) === key),
      ),
    );
  const times = all.map(({ ms }) => ms).sort((a, b) => a - b);
  const proposals = all.flatMap((one) => one.proposals);
  const invalid = proposals.filter(({ root }) => brokenRules(root).length > 0).length;
  return [
    line("all", all),
    ...group(({ planted }) => `noise ${100 * planted.noise} %`),
    ...group(({ planted }) => (planted.complete ? "ended" : "in progress")),
    ...group(({ planted }) => planted.root.pattern),
    `${proposals.length} proposals, ${invalid} of them invalid by the second rule checker`,
    `machine time a series: median ${times[Math.floor(times.length / 2)].toFixed(0)} ms, longest ` +
      `${times[times.length - 1].toFixed(0)} ms`,
  ];
}

const SEED = "reported";

/** Planted counts: what was fixed beforehand, and how often they come back. */
export function waveLines(count = sized(500, 6)): string[] {
  const shares = Object.entries(SHARES)
    .map(([name, share]) => `${name} ${share}`)
    .join(", ");
  return [
    `seed "${SEED}", ${count} series`,
    `shares: ${shares}`,
    PLAN,
    "ratios of waves: the table RATIOS in demo/plantedCounts.ts",
    "",
    ...reportLines(runPlanted(SEED, count)),
  ];
}

/** The machine against a plain scan of the same bars; the open data is 23 years of days. */
export function waveSides(): Side[] {
  const series = sp500();
  const counted = (swings: number, degrees: number) => () =>
    bestCounts(series, { ...COUNTING, swings, degrees, scale: "log" });
  const deep = bestCounts(series, { ...COUNTING, swings: 200, degrees: 4, scale: "log" })
    .map(({ root }) => root)
    .sort((a, b) => allWaves(b).length - allWaves(a).length)[0];
  const against = { other: () => scan(series), otherName: `a plain scan of ${series.length} bars`, pairs: 3 };
  return [
    { name: "ten counts of 60 swings, two degrees", ours: counted(60, 2), ...against },
    { name: "ten counts of 200 swings, three degrees", ours: counted(200, 3), ...against },
    {
      name: `rules of a count of ${allWaves(deep).length} waves, as at each move of a drag`,
      ours: () => checkTree(deep, { ...STRICT, scale: "log" }),
      ...against,
      pairs: 9,
    },
  ];
}

function percentOf(share: number): string {
  return (100 * share).toFixed(0).padStart(3);
}
