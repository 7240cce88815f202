import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { advanceBand, FRESH, type Band, type BandEvent } from "#core/levels/band";
import { Bands } from "#core/levels/bands";
import { Clusters } from "#core/levels/clusters";
import { EqualLevels } from "#core/levels/equal";
import { EXPECTED_FORMULA, expectedAfter, expectedNext } from "#core/levels/expected";
import { RestingPrices } from "#core/levels/resting";
import { roundNumbers } from "#core/levels/round";
import { atr } from "#core/studies/atr";
import { resample } from "#core/series/resample";
import { barAt, type Series } from "#core/series/series";
import { FurthestSince } from "#core/series/furthest";
import { run, Track } from "#core/series/track";
import { SwingDetector } from "#core/structure/swingDetector";
import { days, sp500, walk } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

const steps = fc.array(
  fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
  { minLength: 1, maxLength: 120 },
);

describe("many bands at once", () => {
  it("fare as each would alone, bar for bar and event for event", () => {
    const band = fc
      .tuple(fc.boolean(), fc.integer({ min: 70, max: 130 }), fc.integer({ min: 1, max: 8 }), fc.nat(100))
      .map(([up, bottom, height, from]) => ({
        band: { side: up ? "demand" : "supply", bottom, top: bottom + height, leave: height } as Band,
        from,
      }));
    fc.assert(
      fc.property(steps, fc.array(band, { maxLength: 12 }), (drawn, given) => {
        const series = walk(drawn);
        const bands = new Bands(new Track(series, 0.25));
        const followed = given.map(({ band: one, from }) => ({
          one,
          from,
          at: undefined as ReturnType<Bands["add"]> | undefined,
        }));
        for (let i = 0; i < series.length; i++) {
          bands.next(i);
          for (const entry of followed) if (entry.from === i) entry.at = bands.add(entry.one, i + 1, i);
        }
        for (const { one, from, at } of followed) {
          if (!at) continue;
          const events: BandEvent[] = [];
          let state = FRESH;
          for (let i = from + 1; i < series.length; i++)
            state = advanceBand(one, state, barAt(series, i), (event) => events.push(event));
          expect(at.events).toEqual(events);
          expect(at.state).toEqual(state);
        }
      }),
      { numRuns: 200 },
    );
  });
});

describe("resting prices", () => {
  it("are swept by a wick and taken by a close, as looking at every bar says", () => {
    fc.assert(
      fc.property(
        steps,
        fc.integer({ min: 80, max: 120 }),
        fc.constantFrom("high" as const, "low" as const),
        (drawn, price, side) => {
          const series = walk(drawn);
          const resting = new RestingPrices(series);
          const one = resting.add({ side, price, state: "untouched" as const });
          for (let i = 0; i < series.length; i++) resting.next(i);
          const index = (list: Float64Array) =>
            [...list].findIndex((value) => (side === "high" ? value > price : value < price));
          const [wick, close] = [index(series[side]), index(series.close)];
          expect(one).toEqual({
            side,
            price,
            state: close >= 0 ? "taken" : wick >= 0 ? "swept" : "untouched",
            ...(wick >= 0 ? { sweptAt: wick } : {}),
            ...(close >= 0 ? { takenAt: close } : {}),
          });
        },
      ),
    );
  });
});

it("the furthest price since a bar is that of looking at all of them", () => {
  fc.assert(
    fc.property(steps, fc.nat(119), (drawn, at) => {
      const series = walk(drawn);
      const from = Math.min(at, series.length - 1);
      const since = new FurthestSince(series, "low");
      for (let i = 0; i < series.length; i++) since.next(i);
      expect(since.since(from)).toBe(Math.min(...series.low.slice(from)));
    }),
  );
});

/** Closes with tall bars about them, so that the ATR is known: 4. */
function zigzag(...turns: number[]): Series {
  const path = turns.flatMap((turn, n) =>
    n === 0 ? [turn] : [0.25, 0.5, 0.75, 1].map((share) => turns[n - 1] + (turn - turns[n - 1]) * share),
  );
  return days(
    ...path.map((close, i): [number, number, number, number] => [
      i > 0 ? path[i - 1] : close,
      Math.max(close, i > 0 ? path[i - 1] : close),
      Math.min(close, i > 0 ? path[i - 1] : close),
      close,
    ]),
  );
}
function levels(series: Series, tolerance = 0.1) {
  const track = new Track(series, 0.01);
  const swings = new SwingDetector(track, { k: 2, ties: "last" });
  const equal = new EqualLevels(track, swings, tolerance);
  const clusters = new Clusters(track, swings);
  run(track, [swings, equal, clusters]);
  return { track, equal, clusters };
}

// Common practice, no source.
describe("equal highs and lows", () => {
  it("two highs within a tenth of an ATR rest as one, at the outermost price; a third joins", () => {
    const { equal } = levels(zigzag(90, 110, 100, 110.1, 95, 110.05, 96, 105));
    expect(equal.found.filter(({ side }) => side === "high")).toMatchObject([
      { price: 110.1, state: "untouched", swings: [{ price: 110 }, { price: 110.1 }, { price: 110.05 }] },
    ]);
  });
  it("further apart they are not equal", () => {
    const { equal, track } = levels(zigzag(90, 110, 100, 111, 95, 105));
    expect(equal.found.filter(({ side }) => side === "high")).toEqual([]);
    expect(track.atr[track.length - 1] * 0.1).toBeLessThan(1);
  });
  it("a high that was run in between is no partner any more", () => {
    expect(
      levels(zigzag(90, 110, 100, 120, 95, 110, 96, 100)).equal.found.filter(({ side }) => side === "high"),
    ).toEqual([]);
  });
  it("are swept and taken by what comes later", () => {
    expect(
      levels(zigzag(90, 110, 100, 110, 95, 115, 100, 90)).equal.found.find(({ side }) => side === "high"),
    ).toMatchObject({ state: "taken" });
  });
  it("three rising lows make a row, which rests on its first", () => {
    const { equal } = levels(zigzag(100, 120, 101, 122, 104, 125, 107, 128, 110, 120));
    expect(equal.rows.find(({ side }) => side === "low")).toMatchObject({
      price: 101,
      state: "untouched",
      swings: [{ price: 101 }, { price: 104 }, { price: 107 }, { price: 110 }],
    });
  });
});

describe("support and resistance by touches", () => {
  it("counts swings about a price, and knows that it has served both ways", () => {
    const { clusters } = levels(zigzag(90, 100, 92, 100.2, 93, 110, 100.1, 112, 99.9, 115));
    const cluster = clusters.found.find(({ price }) => Math.abs(price - 100) < 1);
    expect(cluster).toMatchObject({ highs: 2, lows: 2 });
    expect(clusters.found.map(({ price }) => price)).toEqual(
      clusters.found.map(({ price }) => price).sort((a, b) => a - b),
    );
  });
});

describe("round numbers", () => {
  it.each<[number, number, number, number[]]>([
    [1.0873, 0.008, 0.02, [1.07, 1.08, 1.09, 1.1]],
    [1432, 30, 60, [1400, 1450]],
    [99, 0.9, 1.2, [98, 99, 100]],
    [0.31, 0.1, 0.11, [0.2, 0.3, 0.4]],
    [3, 7, 9, [10]],
    [10, 0, 5, []],
  ])("about %d, at least %d apart, within %d: %j", (price, apart, reach, found) =>
    expect(roundNumbers(price, apart, reach)).toEqual(found),
  );
});

describe("the range expected of the next period", () => {
  const weeks = resample(sp500(), { count: 1, unit: "day" }, { count: 1, unit: "week" }, new Calendar(ALL_HOURS));
  it("is halfway between the pivots and one ATR about the close", () => {
    const series = days([10, 12, 8, 11]);
    // P = 31/3; R1 = 2P - 8, S1 = 2P - 12.
    const { low, high } = expectedAfter(series, Float64Array.of(3), 0);
    expect(high).toBeCloseTo((62 / 3 - 8 + 14) / 2, 12);
    expect(low).toBeCloseTo((62 / 3 - 12 + 8) / 2, 12);
    expect(EXPECTED_FORMULA).toContain("R1");
  });
  it("tells how often past weeks stayed within it, counted one by one, and never peeks", () => {
    const range = atr(weeks);
    let within = 0;
    let n = 0;
    for (let i = 15; i < weeks.length; i++) {
      const [h, l, c] = [weeks.high[i - 1], weeks.low[i - 1], weeks.close[i - 1]];
      const p = (h + l + c) / 3;
      n++;
      if (weeks.high[i] <= (2 * p - l + c + range[i - 1]) / 2 && weeks.low[i] >= (2 * p - h + c - range[i - 1]) / 2)
        within++;
    }
    const next = expectedNext(weeks)!;
    expect([next.n, next.within]).toEqual([n, within / n]);
    expect(next.within).toBeGreaterThan(0.2);
    expect(next.within).toBeLessThan(0.95);
    expect(expectedNext(walk([[1, 1, 1]]))).toBeUndefined();
  });
});
