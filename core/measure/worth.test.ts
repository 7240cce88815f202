import { describe, expect, it } from "vitest";
import { findingsOf } from "#core/finding/findings";
import { RungReader } from "#core/finding/reader";
import { birthsOf } from "#core/measure/births";
import { liftOf, LIFT_DRAWS } from "#core/measure/lift";
import { OUTCOME_RULES } from "#core/measure/measured";
import { worthOf, type KindWorth } from "#core/measure/worth";
import { estimateText, rateOfFound, rateText, worthOfFound, worthSays, worthText } from "#core/measure/worthText";
import { slice } from "#core/series/series";
import { sp500 } from "#core/testing/openData";
import { plantedEffects } from "#core/testing/plantedEffects";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

const DAILY = { count: 1, unit: "day" } as const;
const calendar = new Calendar(ALL_HOURS);

describe("what findings of a rung were worth", () => {
  const series = slice(sp500(), 0, 1200);
  const worth = worthOf(series, DAILY, calendar, 0.01)!;
  it("is what each kind alone is measured at, as of the last bar", () => {
    const { born, bars } = birthsOf(series, DAILY, calendar, 0.01);
    const zones = born.filter(({ kind }) => kind === "zone");
    const lift = liftOf(zones, bars, series.length, { outcome: OUTCOME_RULES, ...LIFT_DRAWS });
    expect(worth.kinds.find(({ kind }) => kind === "zone")).toMatchObject(lift);
    expect([worth.rung, worth.to, worth.bars]).toEqual(["P1D", series.time[1199], 1200]);
    expect(worthOf(slice(series, 0, 0), DAILY, calendar, 0.01)).toBeUndefined();
  });
  it("stands beside what is found: every measured kind finds its own, a round number finds none", () => {
    const found = findingsOf(new RungReader(series, DAILY, calendar, 0.01));
    const kinds = new Set(found.flatMap(({ measured }) => measured ?? []));
    expect([...kinds].sort()).toEqual(
      expect.arrayContaining(["equalLevel", "gap", "periodExtreme", "pivot", "zone"]) as string[],
    );
    for (const fact of found) {
      const known = worthOfFound(fact, [worth]);
      expect(known?.worth.kind, fact.name).toBe(fact.measured);
      expect(worthOfFound({ ...fact, rung: "P1W" }, [worth])).toBeUndefined();
      if (fact.rate) expect(rateOfFound(fact, [worth])?.kind).toBe(fact.rate);
    }
    expect(found.find(({ name }) => name === "Round number")?.measured).toBeUndefined();
    expect(found.filter(({ name }) => name.startsWith("Previous day"))[0]?.measured).toBeUndefined();
  });
  it("has estimates of single findings only where something was planted that tells them apart", () => {
    expect(worth.kinds.every(({ weights }) => weights.length === 0)).toBe(true);
    expect(worth.estimates).toEqual([]);
    const planted = worthOf(plantedEffects(7, 3000, 0.6), DAILY, calendar, 0.01)!;
    expect(planted.kinds.find(({ kind }) => kind === "zone")?.weights.length).toBeGreaterThan(0);
    const [first] = planted.estimates;
    const fact = { measured: first.kind, rung: "P1D", ...first };
    expect(worthOfFound(fact, [planted])?.grade).toBe(first.grade);
  });
});

describe("worth in words", () => {
  it("of any finding: what is known, that it is being measured, that it is not, or nothing where it never is", () => {
    const series = slice(sp500(), 0, 1200);
    const found = findingsOf(new RungReader(series, DAILY, calendar, 0.01));
    const rungs = [worthOf(series, DAILY, calendar, 0.01)!];
    const zone = found.find(({ measured }) => measured === "zone")!;
    expect(worthSays(zone, { rungs, measuring: ["P1D"] })).toMatch(/^(Respected|Met|Never met) /);
    const rate = found.find((fact) => fact.rate !== undefined && fact.measured === undefined);
    if (rate) expect(worthSays(rate, { rungs, measuring: [] })).toMatch(/^After /);
    const pattern = { ...zone, kind: "pattern", measured: undefined, props: { pattern: rungs[0].patterns[0].name } };
    expect(worthSays(pattern, { rungs, measuring: [] })).toMatch(/Found .*; shuffled bars hold \d+$/);
    for (const fact of [zone, pattern]) {
      expect(worthSays(fact, { rungs: [], measuring: ["P1D"] })).toBe("What its kind was worth here is being measured");
      expect(worthSays(fact, { rungs: [], measuring: ["P1W"] })).toBe("What its kind was worth here is not measured");
    }
    const round = found.find(({ name }) => name === "Round number")!;
    expect(worthSays(round, { rungs, measuring: ["P1D"] })).toBeUndefined();
  });
  const kind: KindWorth = {
    ...{ kind: "zone", n: 58, open: 0, untouched: 1, share: 31 / 58, chance: { n: 100, share: 0.5 } },
    ...{ verdict: "same", weights: [] },
  };
  it("tells the cases, chance and what that comes to; of few cases their number alone", () => {
    expect(worthText(kind)).toBe("Respected 31 times of 58; random bands 50 %: no better than chance");
    expect(worthText({ ...kind, n: 19 })).toBe("Met 19 times so far: too few to tell");
    expect(worthText({ ...kind, n: 1 })).toBe("Met once so far: too few to tell");
    expect(worthText({ ...kind, n: 0 })).toBe("Never met so far: too few to tell");
    expect(rateText({ kind: "sweep", n: 61, open: 2, share: 34 / 61, chance: 0.51, verdict: "same" })).toBe(
      "After a sweep taken back price went on first 34 times of 61; after any bar 51 %: no better than chance",
    );
    expect(rateText({ kind: "sweep", n: 1, open: 2, share: 1, verdict: "few" })).toBe(
      "After a sweep taken back: one case, too few to tell",
    );
    expect([estimateText(0.061), estimateText(-0.02), estimateText(0.001)]).toEqual([
      "ones like it 6 of 100 more often than random bands",
      "ones like it 2 of 100 less often than random bands",
      "ones like it as often as random bands",
    ]);
  });
});
