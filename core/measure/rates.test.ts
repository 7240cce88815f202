import { describe, expect, it } from "vitest";
import { RungReader } from "#core/finding/reader";
import { OUTCOME_RULES } from "#core/measure/measured";
import { occurrencesOf, type RateKind } from "#core/measure/occurrences";
import { baseRatesOf } from "#core/measure/rates";
import { verdictOf } from "#core/measure/verdict";
import { fromBars, slice, type Series } from "#core/series/series";
import { days, sp500 } from "#core/testing/openData";
import { plantedEffects } from "#core/testing/plantedEffects";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

const DAILY = { count: 1, unit: "day" } as const;
const read = (series: Series) => new RungReader(series, DAILY, new Calendar(ALL_HOURS), 0.01);
const of = (series: Series, kind: RateKind) =>
  occurrencesOf(read(series))
    .filter((one) => one.kind === kind)
    .map(({ at, way }) => [at, way]);
/** Bars that say nothing, so that what follows has something before it. */
const quiet = Array.from({ length: 20 }, (): [number, number, number, number] => [100, 101, 99, 100]);

describe("what the trade goes by, on bars by hand (common practice, no source)", () => {
  it("a long wick counts at an extreme of twenty bars alone, in the way it points", () => {
    // Bar 20: low 95, body 99 to 100: a wick of 4 in a range of 5.
    expect(of(days(...quiet, [100, 100, 95, 99]), "rejection")).toEqual([[20, 1]]);
    expect(of(days(...quiet, [100, 105, 100, 101]), "rejection")).toEqual([[20, -1]]);
    expect(of(days(...quiet, [100, 100.2, 99.1, 100]), "rejection")).toEqual([]);
  });
  it("an inside bar is left by the first close beyond the bar that held it", () => {
    const series = days([100, 110, 90, 100], [100, 105, 95, 101], [101, 111, 96, 104], [104, 113, 103, 112]);
    // The wick of bar 2 to 111 leaves nothing; the close of bar 3 at 112 does.
    expect(of(series, "insideBreak")).toEqual([[3, 1]]);
    expect(of(days([100, 110, 90, 100], [100, 105, 95, 101], [101, 102, 85, 89]), "insideBreak")).toEqual([[2, -1]]);
  });
  it("closes one way count at the third and the fifth, and an equal close begins anew", () => {
    const closes = [10, 11, 12, 13, 14, 15, 16, 16, 15, 14, 13];
    const series = fromBars(
      closes.map((close, i) => ({ time: i * 864e5, open: close, high: close + 1, low: close - 1, close, volume: 1 })),
    );
    expect(of(series, "threeCloses")).toEqual([
      [3, 1],
      [10, -1],
    ]);
    expect(of(series, "fiveCloses")).toEqual([[5, 1]]);
  });
  it("a break and a shift point the way they went, a sweep the way it came back", () => {
    const reader = read(sp500());
    const { events } = reader.structure;
    for (const kind of ["break", "shift", "sweep"] as const) {
      const own = events.filter(({ event, inner }) => event === kind && !(event === "break" && inner));
      expect(own.length).toBeGreaterThan(20);
      const pointed = new Set(
        own.map(({ at, direction }) => `${at} ${(direction === "up") === (kind !== "sweep") ? 1 : -1}`),
      );
      expect(new Set(of(sp500(), kind).map(([at, way]) => `${at} ${way}`))).toEqual(pointed);
    }
  });
  it("half of a leg with the trend that is given back points on with it", () => {
    // Up from 100 to 120, three bars on each side of the turn; bar 12 comes back to 110.
    const rise: [number, number, number, number][] = Array.from({ length: 8 }, (_, i) => [
      ...([100 + 2.5 * i, 102.5 + 2.5 * i, 100 + 2.5 * i, 102.5 + 2.5 * i] as const),
    ]);
    const series = days(
      [104, 105, 102, 103],
      [103, 104, 101, 102],
      [102, 103, 100.5, 101],
      ...rise,
      [120, 119, 116, 117],
      [117, 118, 114, 115],
      [115, 116, 112, 113],
      [113, 114, 109, 110],
      [110, 112, 109.5, 111],
    );
    expect(of(series, "halfBack")).toEqual([[14, 1]]);
  });
  it("all are known at their bar: what comes later changes none", () => {
    const series = sp500();
    const all = occurrencesOf(read(series));
    for (const cut of [400, 1000, 2000]) {
      const before = all.filter(({ at }) => at < cut);
      const seen = new Set(occurrencesOf(read(slice(series, 0, cut))).map((one) => JSON.stringify(one)));
      expect(before.filter((one) => !seen.has(JSON.stringify(one)))).toEqual([]);
      expect(seen.size).toBe(before.length);
    }
  });
  it("turned upside down everything is the same the other way", () => {
    const series = slice(sp500(), 0, 900);
    const turn = (price: number) => 4000 - price;
    const turned = fromBars(
      Array.from({ length: series.length }, (_, i) => ({
        ...{ time: series.time[i], open: turn(series.open[i]), close: turn(series.close[i]), volume: 1 },
        ...{ high: turn(series.low[i]), low: turn(series.high[i]) },
      })),
    );
    const told = (list: ReturnType<typeof occurrencesOf>, sign: number) =>
      list.map(({ kind, at, way }) => `${kind} ${at} ${sign * way}`).sort();
    expect(told(occurrencesOf(read(turned)), -1)).toEqual(told(occurrencesOf(read(series)), 1));
  });
});

describe("base rates", () => {
  it("are counted as a plain count by hand does, and chance is the share of all bars", () => {
    const series = sp500();
    const reader = read(series);
    const { close, atr } = reader.track;
    const race = (at: number, way: number): number | undefined => {
      for (let i = at + 1; i <= Math.min(series.length - 1, at + OUTCOME_RULES.horizon); i++) {
        if (way * (close[i] - close[at]) >= atr[at]) return 1;
        if (way * (close[at] - close[i]) >= atr[at]) return 0;
      }
      return undefined;
    };
    const every = (way: number) => {
      const told = Array.from({ length: series.length }, (_, i) => (atr[i] > 0 ? race(i, way) : undefined)).filter(
        (one) => one !== undefined,
      );
      return told.reduce((sum: number, one) => sum + one, 0) / told.length;
    };
    const rates = baseRatesOf(reader);
    expect(rates.length).toBeGreaterThan(8);
    for (const { kind, n, open, share, chance } of rates) {
      const own = occurrencesOf(reader).filter((one) => one.kind === kind && atr[one.at] > 0);
      const told = own.map(({ at, way }) => ({ way, went: race(at, way) }));
      const decided = told.filter(({ went }) => went !== undefined);
      expect([n, open]).toEqual([decided.length, told.length - decided.length]);
      expect(share).toBeCloseTo(decided.filter(({ went }) => went === 1).length / decided.length, 12);
      const ups = decided.filter(({ way }) => way > 0).length / decided.length;
      expect(chance).toBeCloseTo(ups * every(1) + (1 - ups) * every(-1), 12);
    }
  });
  it("of a walk without drift differ from chance about as often as one in twenty", () => {
    const verdicts = Array.from({ length: 12 }, (_, seed) =>
      baseRatesOf(read(plantedEffects(seed + 1, 1500, 0))),
    ).flat();
    const told = verdicts.filter(({ verdict }) => verdict !== "few");
    const differ = told.filter(({ verdict }) => verdict !== "same");
    expect(told.length).toBeGreaterThan(80);
    // Of about 110 figures 5.5 by chance; more than 14 would come about once in a thousand.
    expect(differ.length).toBeLessThan(15);
  });
  it("say nothing below twenty cases, nor where the interval holds no difference", () => {
    expect(verdictOf(19, [0.1, 0.5])).toBe("few");
    expect(verdictOf(20, [0.1, 0.5])).toBe("better");
    expect(verdictOf(20, [-0.5, -0.1])).toBe("worse");
    expect(verdictOf(20, [-0.1, 0.1])).toBe("same");
    expect(verdictOf(20, [0, 0.1])).toBe("same");
    expect(verdictOf(20, undefined)).toBe("few");
  });
});
