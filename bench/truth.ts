import { sampleRankCorrelation } from "simple-statistics";
import { birthsOf } from "#core/measure/births";
import { gradesOf } from "#core/measure/grade";
import { isDecided, LIFT_DRAWS, liftOf } from "#core/measure/lift";
import { MEASURED_KINDS, OUTCOME_RULES, type MeasuredKind } from "#core/measure/measured";
import { outcomesOf } from "#core/measure/outcomes";
import type { Series } from "#core/series/series";
import { tickOf } from "#core/series/tick";
import { sp500 } from "#core/testing/openData";
import { plantedEffects } from "#core/testing/plantedEffects";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { runEmbedded, type SpanResult } from "./plantedSpans.ts";
import { sized } from "./size.ts";
import { lifeOf, upTo } from "./spanLife.ts";

const DAILY = { count: 1, unit: "day" } as const;
const calendar = new Calendar(ALL_HOURS);
const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

/** Daily bars with the name they are told under. */
export interface Named {
  name: string;
  series: Series;
}

/** What findings and counts are worth: on planted worlds, on open data, and on any bars given. */
export function* truthLines(given: readonly Named[]): Generator<string> {
  const real = [{ name: "S&P 500, days (vega-datasets)", series: sp500() }, ...given];
  yield "Findings: respected by a close 1 ATR away within 40 bars of the first touch, against 20 random bands each";
  for (const { name, series } of real) yield* liftLines(name, series);
  yield "Grades out of sample: rank correlation with what became of the finding (overlaps are not allowed for)";
  for (const effect of [0.6, 0]) yield* gradeLines(effect);
  yield* plantedLines("alone", () => 0);
  yield* plantedLines("after 30 to 60 % foreign bars", (i) => [0.3, 0.45, 0.6][i % 3]);
  yield "Counts of the whole view, bar by bar: how long the first one lives, and whether it covers the view";
  for (const { name, series } of real) yield* lifeLines(name, series);
}

function* liftLines(name: string, series: Series): Generator<string> {
  const { born, bars } = birthsOf(series, DAILY, calendar, tickOf(series));
  yield `  ${name}: ${series.length} bars, seed ${LIFT_DRAWS.seed}`;
  for (const kind of MEASURED_KINDS) {
    const own = born.filter((one) => one.kind === kind);
    const lift = liftOf(own, bars, series.length, { outcome: OUTCOME_RULES, ...LIFT_DRAWS, draws: sized(20, 2) });
    if (lift.share === undefined || lift.chance.share === undefined || !lift.liftInterval) continue;
    const [low, high] = lift.liftInterval;
    yield (
      `    ${kind.padEnd(14)} n ${String(lift.n).padStart(5)} (worth ${lift.effective?.toFixed(0)})  ` +
      `${percent(lift.share)} against ${percent(lift.chance.share)}, lift ${percent(low)} to ${percent(high)}`
    );
  }
}

/** Grades of zones on walks in which what tells them apart was planted, or nothing was. */
function* gradeLines(effect: number): Generator<string> {
  const rows: [number, number][] = [];
  for (let seed = 1; seed <= sized(12, 1); seed++) {
    const series = plantedEffects(seed, sized(4_000, 1_500), effect);
    const { born, bars } = birthsOf(series, DAILY, calendar, 0.01);
    const outcomes = outcomesOf(born, bars, series.length, OUTCOME_RULES);
    const { grades } = gradesOf(born, outcomes, bars, series.length, OUTCOME_RULES);
    const of: MeasuredKind = "zone";
    born.forEach(({ kind }, i) => {
      const grade = grades[i];
      if (kind === of && grade !== undefined && isDecided(outcomes[i]))
        rows.push([grade, outcomes[i].result === "respected" ? 1 : 0]);
    });
  }
  const name = effect > 0 ? `planted, ${effect} daily volatilities a bar` : "walks";
  const told = new Set(rows.map(([grade]) => grade)).size;
  if (told < 2) return yield `  zones, ${name}: n ${rows.length}, every grade 0: nothing told them apart`;
  const r = sampleRankCorrelation(
    rows.map(([grade]) => grade),
    rows.map(([, held]) => held),
  );
  const half = 1.96 / Math.sqrt(rows.length - 3);
  yield `  zones, ${name}: n ${rows.length}, ${r.toFixed(3)} (${(r - half).toFixed(3)} to ${(r + half).toFixed(3)})`;
}

function* plantedLines(name: string, share: (i: number) => number): Generator<string> {
  const all = runEmbedded("reported", sized(120, 1), share);
  const of = (some: readonly SpanResult[]) => percent(some.length / all.length);
  const begun = all.filter(({ span }) => span > 0);
  yield `Planted counts, ${name}: ${all.length} series, three degrees, seed "reported"`;
  yield (
    `  a span begins where it does ${of(begun)}; it stands in the counts of the spans ` +
    `${of(all.filter(({ place }) => place > 0))}, first ${of(all.filter(({ place }) => place === 1))}` +
    (begun.length > 0
      ? `; in five of its span ${percent(begun.filter(({ place }) => place > 0).length / begun.length)}`
      : "")
  );
  yield `  odds said and true: ${reliability(all.flatMap(({ told }) => told)).join(", ")}`;
}

/** In tenths: how many were told, the mean of what was said, and how many came true. */
function reliability(told: readonly { odds: number; holds: boolean }[]): string[] {
  return Array.from({ length: 10 }, (_, k) => told.filter(({ odds }) => Math.min(9, Math.floor(10 * odds)) === k))
    .filter((some) => some.length > 0)
    .map((some) => {
      const said = some.reduce((sum, { odds }) => sum + odds, 0) / some.length;
      return `${percent(said)} ${percent(some.filter(({ holds }) => holds).length / some.length)} (n ${some.length})`;
    });
}

function* lifeLines(name: string, series: Series): Generator<string> {
  for (const share of sized(3, 1) === 1 ? [1] : [0.3, 0.6, 1]) {
    const cut = upTo(series, Math.round(share * series.length));
    const { walked, changes, median, spans } = lifeOf(cut, sized(200, 4));
    const covered = spans.filter(({ why }) => why === undefined).length;
    yield (
      `  ${name}, to bar ${cut.length}: ${changes} changes in ${walked} bars without a price that forced them, ` +
      `median life ${median.toFixed(0)} bars${changes === 0 ? " or more" : ""}; covers ${percent(covered / walked)}`
    );
  }
}
