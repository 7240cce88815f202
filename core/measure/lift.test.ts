import { sampleRankCorrelation } from "simple-statistics";
import { describe, expect, it } from "vitest";
import { birthsOf } from "#core/measure/births";
import { gradesOf } from "#core/measure/grade";
import { liftOf } from "#core/measure/lift";
import { bandAt, firstScaled } from "#core/measure/matched";
import { OUTCOME_RULES, type Born } from "#core/measure/measured";
import { outcomesOf } from "#core/measure/outcomes";
import { newcombe, wilson } from "#core/statistics/intervals";
import { slice } from "#core/series/series";
import { fitLogistic, logistic } from "#core/statistics/logistic";
import { sp500 } from "#core/testing/openData";
import { plainOutcome } from "#core/testing/plainMeasure";
import { plantedEffects } from "#core/testing/plantedEffects";
import { allHours } from "#core/testing/told";

const DAILY = { count: 1, unit: "day" } as const;
const RULES = { outcome: OUTCOME_RULES, draws: 20, seed: 1 };

/** Decided outcomes by hand: [touching bar, respected]. */
function bandsBy(list: readonly [number, boolean][]) {
  const length = 400;
  const of = (price: number) => new Float64Array(length).fill(price);
  const bars = { high: of(110), low: of(105), close: of(108), atr: of(1), tick: 0.01 };
  const born = list.map(([t, held], n): Born => {
    const top = 50 - n / 10;
    bars.low[t] = Math.min(bars.low[t], top);
    bars.close[t] = held ? 108 : 1;
    return { kind: "zone", side: "demand", bottom: top - 1, top, knownAt: t - 1, features: { width: 1, distance: 1 } };
  });
  return { born, bars, length };
}

describe("lift", () => {
  it("counts what overlaps in time as fewer cases: ten in one stretch that went one way say little", () => {
    // Two stretches of 40 bars, all held in the first, none in the second: as much as two independent cases.
    const pairs = Array.from({ length: 10 }, (_, n): [number, boolean] => [(n < 5 ? 41 : 81) + 2 * (n % 5), n < 5]);
    const { born, bars, length } = bandsBy(pairs);
    const { n, share, effective } = liftOf(born, bars, length, RULES);
    expect([n, share]).toEqual([10, 0.5]);
    // V = 2/1 x (2.5^2 + 2.5^2) / 100 = 0.25; 10 x (0.25 / 10) / 0.25 = 1.
    expect(effective).toBeCloseTo(1, 12);
  });

  it("is never more than the cases there are, and all of them where every one went the same way", () => {
    const { born, bars, length } = bandsBy([
      [45, true],
      [85, true],
      [125, true],
    ]);
    expect(liftOf(born, bars, length, RULES)).toMatchObject({ n: 3, share: 1, effective: 3, untouched: 0, open: 0 });
  });

  it("takes the cases for what they are where all lie in one stretch: nothing says how they hang together", () => {
    const { born, bars, length } = bandsBy([
      [41, true],
      [43, false],
      [45, true],
    ]);
    expect(liftOf(born, bars, length, RULES)).toMatchObject({ n: 3, effective: 3 });
  });

  it("says nothing of nothing", () => {
    const { bars, length } = bandsBy([]);
    expect(liftOf([], bars, length, RULES)).toEqual({ n: 0, open: 0, untouched: 0, chance: { n: 0 } });
  });

  it("is held against bands of the same shape: chance agrees with a second count (open data)", () => {
    const series = slice(sp500(), 0, 1200);
    const { born, bars } = birthsOf(series, DAILY, allHours, 0.01);
    const zones = born.filter(({ kind }) => kind === "zone");
    const found = liftOf(zones, bars, series.length, { ...RULES, draws: 100 });
    let [hits, decided] = [0, 0];
    for (const { side, features } of zones)
      for (let u = firstScaled(bars, series.length); u < series.length - OUTCOME_RULES.horizon; u += 5) {
        const band = bandAt({ side, width: features.width, distance: features.distance }, u, bars);
        const { result } = band
          ? plainOutcome(band, bars, series.length, OUTCOME_RULES, 0.01)
          : { result: "open" as const };
        if (result === "respected") hits++;
        if (result === "respected" || result === "broken") decided++;
      }
    expect(found.chance.n).toBeGreaterThan(1_000);
    expect(Math.abs((found.chance.share ?? 0) - hits / decided)).toBeLessThan(0.02);
    expect(found.lift).toBeCloseTo((found.share ?? 0) - (found.chance.share ?? 0), 12);
    expect(liftOf(zones, bars, series.length, { ...RULES, draws: 100 })).toEqual(found);
  });
});

describe("the interval of a difference", () => {
  // Newcombe 1998, table II, method 10 without continuity correction; from memory.
  it.each([
    [56, 70, 48, 80, 0.0524, 0.3339],
    [9, 10, 3, 10, 0.1705, 0.809],
    [6, 7, 2, 7, 0.0582, 0.8062],
  ])("of %i of %i less %i of %i is the published one", (a, m, b, n, low, high) => {
    const shareOf = (hits: number, of: number) => ({ share: hits / of, interval: wilson(hits, of) });
    const [from, to] = newcombe(shareOf(a, m), shareOf(b, n));
    expect(from).toBeCloseTo(low, 4);
    expect(to).toBeCloseTo(high, 4);
  });
});

describe("weights", () => {
  it("of one yes or no without a ridge are the log odds of the four-fold table", () => {
    const cases = (x: number, hits: number, n: number) =>
      Array.from({ length: n }, (_, i) => ({ x: [1, x], y: i < hits ? (1 as const) : (0 as const) }));
    const [base, more] = fitLogistic([...cases(0, 3, 10), ...cases(1, 8, 12)], [0, 0]);
    expect(logistic(base)).toBeCloseTo(0.3, 8);
    expect(more).toBeCloseTo(Math.log(8 / 4) - Math.log(3 / 7), 8);
  });
});

describe("a measured grade", () => {
  const graded = (seed: number, length: number, effect: number) => {
    const series = plantedEffects(seed, length, effect);
    const { born, bars } = birthsOf(series, DAILY, allHours, 0.01);
    const outcomes = outcomesOf(born, bars, series.length, OUTCOME_RULES);
    return { series, born, outcomes, ...gradesOf(born, outcomes, bars, series.length, OUTCOME_RULES) };
  };
  const planted = graded(7, 3000, 0.6);

  it("tells zones that hold from those that do not, where that was planted, on zones it had not seen", () => {
    const rows = planted.born.flatMap(({ kind }, i) => {
      const [grade, { result }] = [planted.grades[i], planted.outcomes[i]];
      const decided = result === "respected" || result === "broken";
      return kind === "zone" && grade !== undefined && decided ? [[grade, result === "respected" ? 1 : 0]] : [];
    });
    expect(rows.length).toBeGreaterThan(50);
    expect(sampleRankCorrelation(...(transposed(rows) as [number[], number[]]))).toBeGreaterThan(0.1);
    const { weights } = planted.models.zone!;
    expect(weights.find(({ feature }) => feature === "departure")!.weight).toBeGreaterThan(0);
  });

  it("has no weights where nothing is to be told: a walk", () => {
    const { grades, models } = graded(3, 2500, 0);
    expect(Object.values(models).every(({ weights }) => weights.length === 0)).toBe(true);
    expect(new Set(grades)).toEqual(new Set([undefined, 0]));
  });

  it("is of what was decided by then: later bars do not change it", () => {
    const { series, grades } = planted;
    for (const length of [1200, 1700, 2200, 2850]) {
      const cut = slice(series, 0, length);
      const { born, bars } = birthsOf(cut, DAILY, allHours, 0.01);
      const before = gradesOf(born, outcomesOf(born, bars, length, OUTCOME_RULES), bars, length, OUTCOME_RULES);
      expect(before.grades).toEqual(grades.slice(0, born.length));
    }
    expect(grades.some((grade) => grade !== undefined && grade !== 0)).toBe(true);
    for (const [kind, { at, n }] of Object.entries(planted.models)) {
      const decided = planted.born.filter((one, i) => one.kind === kind && (planted.outcomes[i].at ?? Infinity) <= at);
      expect(n).toBeLessThanOrEqual(decided.length);
    }
  });
});

const transposed = (rows: number[][]) => [0, 1].map((n) => rows.map((row) => row[n]));
