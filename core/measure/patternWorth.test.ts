import { describe, expect, it } from "vitest";
import { patternWorthOf, raceOf } from "#core/measure/patternWorth";
import { shuffledBars } from "#core/measure/shuffled";
import { patternText } from "#core/measure/worthText";
import { PatternDetector } from "#core/patterns/detector";
import { slice, type Series } from "#core/series/series";
import { run, Track } from "#core/series/track";
import { days, sp500 } from "#core/testing/openData";
import { turned } from "#core/testing/mirror";

function worth(series: Series, tick = 0.01) {
  const track = new Track(series, tick);
  const detector = new PatternDetector(track);
  run(track, [detector]);
  return { rows: patternWorthOf(track, detector.found), found: detector.found };
}

describe("a race to target or stop, worked by hand", () => {
  // In at 100 where the ATR is 2; target 2 ATR away at 104, stop 1 ATR away beyond 98.
  const race = { at: 0, way: 1, target: 2, stop: 1 } as const;
  const bars = (...rest: [number, number, number, number][]) => {
    const { high, low, close, length } = days([100, 101, 99, 100], ...rest);
    return { high, low, close, length, atr: new Float64Array(length).fill(2) };
  };
  it.each<[string, [number, number, number, number][], boolean | undefined]>([
    ["a wick at the target", [[100, 104, 99, 101]], true],
    ["a cent short of it", [[100, 103.99, 99, 101]], undefined],
    ["a close beyond the stop", [[100, 101, 97, 97.99]], false],
    ["a wick beyond it is none", [[100, 101, 97, 98]], undefined],
    ["a bar that does both failed", [[100, 104, 97, 97]], false],
    [
      "what comes first counts",
      [
        [100, 104, 99, 101],
        [101, 101, 90, 90],
      ],
      true,
    ],
    ["nothing came", [], undefined],
  ])("%s", (_, rest, expected) => expect(raceOf(race, bars(...rest))).toBe(expected));
  it("downwards alike", () => {
    expect(raceOf({ ...race, way: -1 }, bars([100, 101, 96, 99]))).toBe(true);
    expect(raceOf({ ...race, way: -1 }, bars([100, 103, 99, 102.01]))).toBe(false);
  });
  it("beyond the horizon nothing is waited for", () =>
    expect(raceOf(race, bars([100, 101, 99, 100], [100, 104, 99, 101]), 1)).toBeUndefined());
});

describe("the worth of patterns on open data (S&P 500, vega-datasets, npm)", () => {
  const { rows, found } = worth(sp500());
  it("counts what was found, and decides by the life of each where that is short", () => {
    expect(rows.reduce((sum, row) => sum + row.found, 0)).toBe(found.length);
    for (const { name, n, share = 0, confirmed } of rows) {
      const ended = found.filter(
        ({ name: own, life }) =>
          own === name &&
          life.confirmedAt !== undefined &&
          life.endedAt !== undefined &&
          life.endedAt - life.confirmedAt <= 250,
      );
      expect(n).toBeLessThanOrEqual(confirmed);
      // Those that had passed their target when they were confirmed are in `ended` alone.
      expect(Math.abs(n - ended.length)).toBeLessThanOrEqual(
        found.filter((one) => one.name === name).length - confirmed + 1,
      );
      expect(share).toBeGreaterThanOrEqual(0);
      expect(share).toBeLessThanOrEqual(1);
    }
  });
  it("is the same twice, and whatever unit prices are in", () => {
    expect(worth(slice(sp500(), 0, 1_500)).rows).toEqual(worth(slice(sp500(), 0, 1_500)).rows);
    const large = worth(
      turned(slice(sp500(), 0, 1_500), (price) => price * 1024),
      10.24,
    ).rows;
    const small = worth(slice(sp500(), 0, 1_500)).rows;
    expect(large.map(({ name, n, share, chance }) => [name, n, share, chance])).toEqual(
      small.map(({ name, n, share, chance }) => [name, n, share, chance]),
    );
  });
  it("chance is drawn by as many random bars as are decided, twenty a pattern at most", () => {
    for (const { chance, confirmed } of rows) {
      expect(chance.n).toBeLessThanOrEqual(20 * confirmed);
      if (confirmed > 0) expect(chance.n).toBeGreaterThan(15 * confirmed);
    }
  });
  it("on shuffled bars nearly none differs from chance: 14 of 15 names or more", () => {
    const verdicts = worth(shuffledBars(sp500(), 9, 0.01)).rows.map(({ verdict }) => verdict);
    expect(verdicts.filter((verdict) => verdict === "better" || verdict === "worse").length).toBeLessThanOrEqual(1);
  });
});

describe("shuffled bars", () => {
  const series = sp500();
  it("keep every bar's own shape, the first bar and nearly the last close", () => {
    const shuffled = shuffledBars(series, 1, 0.01);
    const shapes = (one: Series) =>
      Array.from({ length: one.length - 1 }, (_, i) => Math.log(one.high[i + 1] / one.low[i + 1])).sort(
        (a, b) => a - b,
      );
    const [own, other] = [shapes(series), shapes(shuffled)];
    own.forEach((shape, i) => expect(Math.abs(other[i] - shape)).toBeLessThan(2e-4));
    expect(shuffled.close[0]).toBe(series.close[0]);
    expect(shuffled.close[series.length - 1] / series.close[series.length - 1]).toBeCloseTo(1, 3);
    expect(shuffled.close[10]).not.toBe(series.close[10]);
    expect(shuffledBars(series, 1, 0.01)).toEqual(shuffled);
  });
  it("of prices below zero are shuffled by differences", () => {
    const below = turned(slice(series, 0, 60), (price) => price - 2_000);
    const shuffled = shuffledBars(below, 1, 0.01);
    expect(shuffled.close[59]).toBeCloseTo(below.close[59], 2);
  });
  it("hold as many patterns as real ones: they are chance", () => {
    const track = new Track(shuffledBars(series, 1, 0.01), 0.01);
    const detector = new PatternDetector(track);
    run(track, [detector]);
    expect(detector.found.length).toBeGreaterThan(100);
  });
});

it("says what a pattern was worth, and that few cases say nothing", () => {
  const row = { name: "flag", found: 23, byChance: 35.7, confirmed: 21, verdict: "same" } as const;
  expect(patternText({ ...row, n: 20, share: 0.45, chance: { n: 400, share: 0.48 } })).toBe(
    "Target before stop 9 times of 20; at random bars 48 %: no better than chance. " +
      "Found 23 times; shuffled bars hold 36",
  );
  expect(patternText({ ...row, found: 1, n: 1, share: 1, chance: { n: 20, share: 0.4 } })).toBe(
    "Decided once so far: too few to tell. Found once; shuffled bars hold 36",
  );
});
