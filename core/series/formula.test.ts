import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { checkFormula, deriveSeries, formulaText, type Form, type Formula } from "#core/series/formula";
import { resample } from "#core/series/resample";
import { allocate, barAt, fromBars, type Bar, type Series } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

const FINE = { tick: 1e-9, decimals: 9 };
const bars = (series: Series) => Array.from({ length: series.length }, (_, i) => barAt(series, i));
const flat = (time: number, price: number): Bar => ({
  time,
  open: price,
  high: price,
  low: price,
  close: price,
  volume: 3,
});
const formula = (form: Form, units: number[], scale = 1): Formula => ({
  form,
  scale,
  legs: units.map((one, i) => ({ market: `m${i}`, units: one })),
});

/** Minute bars of two markets that are seen at the same instants, a dozen a minute. */
function ticks(steps: readonly [number, number][]): { legs: [Series, Series]; seen: [number, number][] } {
  let [a, b] = [50, 20];
  const seen = steps.map(([up, side]): [number, number] => [(a = Math.max(1, a + up)), (b = Math.max(1, b + side))]);
  const minutes = (k: 0 | 1) =>
    fromBars(
      Array.from({ length: Math.floor(seen.length / 12) }, (_, m) => {
        const prices = seen.slice(m * 12, m * 12 + 12).map((one) => one[k]);
        return {
          time: m * 60_000,
          open: prices[0],
          high: Math.max(...prices),
          low: Math.min(...prices),
          close: prices[11],
          volume: 1,
        };
      }),
    );
  return { legs: [minutes(0), minutes(1)], seen };
}
const STEPS = fc.array(fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -2, max: 2 })), {
  minLength: 48,
  maxLength: 240,
});
const VALUE: [Formula, (a: number, b: number) => number][] = [
  [formula("product", [1, 1]), (a, b) => a * b],
  [formula("quotient", [1, -1]), (a, b) => a / b],
  [formula("ratio", [1, -1], 100), (a, b) => (100 * a) / b],
  [formula("spread", [2, -3]), (a, b) => 2 * a - 3 * b],
  [formula("basket", [0.5, 1.5]), (a, b) => 0.5 * a + 1.5 * b],
];

describe.each(VALUE)("$form of two markets", (definition, value) => {
  it("opens and closes at the value of that instant, and was never beyond its high and low", () => {
    fc.assert(
      fc.property(STEPS, (steps) => {
        const { legs, seen } = ticks(steps);
        bars(deriveSeries(legs, definition, FINE)).forEach((bar, m) => {
          const values = seen.slice(m * 12, m * 12 + 12).map(([a, b]) => value(a, b));
          expect(bar.open).toBeCloseTo(values[0], 7);
          expect(bar.close).toBeCloseTo(values[11], 7);
          expect(bar.high).toBeGreaterThan(Math.max(...values) - 1e-8);
          expect(bar.low).toBeLessThan(Math.min(...values) + 1e-8);
        });
      }),
      { numRuns: 40 },
    );
  });
  it(
    "a longer bar made of fine ones is bounded no wider than one made of long legs, and still holds what was " +
      "traded",
    () => {
      fc.assert(
        fc.property(STEPS, (steps) => {
          const { legs, seen } = ticks(steps);
          const [minute, day, calendar] = [
            { count: 1, unit: "minute" } as const,
            { count: 1, unit: "day" } as const,
            new Calendar(ALL_HOURS),
          ];
          const whole = (series: Series) => resample(series, minute, day, calendar);
          const [fine] = bars(whole(deriveSeries(legs, definition, FINE)));
          const [coarse] = bars(deriveSeries(legs.map(whole), definition, FINE));
          const values = seen.slice(0, legs[0].length * 12).map(([a, b]) => value(a, b));
          expect(fine.high).toBeLessThanOrEqual(coarse.high + 1e-8);
          expect(fine.low).toBeGreaterThanOrEqual(coarse.low - 1e-8);
          expect(fine.high).toBeGreaterThan(Math.max(...values) - 1e-8);
          expect(fine.low).toBeLessThan(Math.min(...values) + 1e-8);
          expect([fine.open, fine.close]).toEqual([coarse.open, coarse.close]);
        }),
        { numRuns: 40 },
      );
    },
  );
});

describe("deriving", () => {
  it("takes only the times all legs have", () => {
    const legs = [
      [1, 2, 4, 6, 7],
      [2, 3, 4, 7],
      [0, 2, 4, 5, 7],
    ].map((times) => fromBars(times.map((time) => flat(time, time))));
    expect([...deriveSeries(legs, formula("basket", [1, 1, 1]), FINE).time]).toEqual([2, 4, 7]);
    expect(deriveSeries([legs[0], fromBars([flat(5, 1)])], formula("spread", [1, -1]), FINE).length).toBe(0);
    expect(deriveSeries([legs[0], allocate(0)], formula("product", [1, 1]), FINE).length).toBe(0);
  });
  it(
    "a cross rate is what a handbook says: USD/JPY 110.00 x EUR/USD 1.2000 = EUR/JPY 132.00 (cross rates by " +
      "the chain rule, common practice, no source)",
    () => {
      const cross = deriveSeries([fromBars([flat(0, 110)]), fromBars([flat(0, 1.2)])], formula("product", [1, 1]), {
        tick: 0.01,
        decimals: 2,
      });
      expect(cross.close[0]).toBe(132);
    },
  );
  it("stands on the grid: nearest for open and close, outwards for the bounds, and exact decimals stay so", () => {
    const leg = fromBars([{ time: 0, open: 1.1, high: 1.26, low: 1.04, close: 1.2, volume: 1 }]);
    const spread = deriveSeries([leg, fromBars([flat(0, 0.9)])], formula("spread", [1, -1]), {
      tick: 0.05,
      decimals: 2,
    });
    expect(barAt(spread, 0)).toEqual({ time: 0, open: 0.2, high: 0.4, low: 0.1, close: 0.3, volume: 0 });
    const ten = deriveSeries([leg, leg], formula("basket", [1, 1]), { tick: 0.1, decimals: 1 });
    expect([ten.open[0], ten.close[0], ten.high[0], ten.low[0]]).toEqual([2.2, 2.4, 2.6, 2]);
  });
  it("a bar without a value does not exist: a range that holds zero below the line, an overflow", () => {
    const through = fromBars([{ time: 0, open: 1, high: 2, low: -1, close: 1, volume: 0 }, flat(1, 4)]);
    const legs = [fromBars([flat(0, 8), flat(1, 8)]), through];
    expect(bars(deriveSeries(legs, formula("ratio", [1, -1]), FINE)).map(({ time, close }) => [time, close])).toEqual([
      [1, 2],
    ]);
    const huge = fromBars([flat(0, 1e300)]);
    expect(deriveSeries([huge, huge], formula("product", [1, 1]), FINE).length).toBe(0);
  });
  it("prices from 1e-8 to 1e9 keep their digits", () => {
    const small = fromBars([flat(0, 1e-8)]);
    const large = fromBars([flat(0, 1e9)]);
    expect(deriveSeries([small, large], formula("product", [1, 1]), { tick: 1e-8, decimals: 8 }).close[0]).toBe(10);
    expect(deriveSeries([large, small], formula("spread", [1, -1]), { tick: 1e-8, decimals: 8 }).close[0]).toBeCloseTo(
      1e9,
      6,
    );
  });
});

describe("a formula", () => {
  it.each([
    ["one market", formula("product", [1]), /At least two/],
    ["three in a quotient", formula("quotient", [1, -1, -1]), /two markets/],
    [
      "the same twice",
      {
        form: "spread",
        scale: 1,
        legs: [
          { market: "a", units: 1 },
          { market: "a", units: -1 },
        ],
      } as Formula,
      /stand in it once/,
    ],
    ["no weight", formula("basket", [1, 0]), /weight/],
    ["sold in a basket", formula("basket", [1, -1]), /above zero/],
    ["a square", formula("product", [1, 2]), /above or below the line/],
    ["no scale", formula("ratio", [1, -1], 0), /scale/],
    [
      "a crowd",
      formula(
        "basket",
        Array.from({ length: 31 }, () => 1),
      ),
      /At most 30/,
    ],
  ])("with %s is refused in words", (_name, bad, words) => expect(checkFormula(bad).join(" ")).toMatch(words));
  it("is said in words", () => {
    const name = (market: string) => ({ m0: "Tin", m1: "Silver" })[market] ?? market;
    expect(checkFormula(formula("spread", [2, -1]))).toEqual([]);
    expect(formulaText(formula("spread", [2, -1]), name)).toBe("2 Tin \u2212 Silver");
    expect(formulaText(formula("ratio", [1, -1], 100), name)).toBe("100 \u00d7 ((Tin) \u00f7 (Silver))");
    expect(formulaText(formula("basket", [1, 1]), name)).toBe("basket of Tin, Silver");
  });
});
