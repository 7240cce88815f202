import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { BoxSize } from "#core/columns/grid";
import { PointAndFigure, pointAndFigureOf } from "#core/columns/pointAndFigure";
import { fromBars, slice, type Series } from "#core/series/series";
import { turned } from "#core/testing/mirror";
import { sp500, walk } from "#core/testing/openData";
import { plainColumns, plainTargets } from "#core/testing/plainColumns";

/** Bars whose highs and lows are given; a day apart. */
const ranges = (...bars: [high: number, low: number][]): Series =>
  fromBars(
    bars.map(([high, low], i) => ({ time: Date.UTC(2024, 0, 1 + i), open: low, high, low, close: high, volume: 1 })),
  );
/** Closes alone. */
const closes = (...prices: number[]) => ranges(...prices.map((price): [number, number] => [price, price]));
const chart = (series: Series, box: BoxSize = 1, reversal = 3, least?: number) =>
  pointAndFigureOf(series, { box, reversal, method: "highLow" }, 0.01, least);
const told = ({ columns }: PointAndFigure) =>
  columns.map(({ isRising, bottom, top, start, end }) => `${isRising ? "X" : "O"}${bottom}-${top} @${start}-${end}`);
const counts = (one: PointAndFigure) =>
  one.targets.map(({ kind, isUp, from, count, target, state }) =>
    [kind, isUp ? "up" : "down", one.priceOf(from), count, one.priceOf(target), state].join(" "),
  );

describe("columns", () => {
  // Cohen (1947), from memory: what goes on is looked at before what comes back; three boxes turn a column.
  it.each([
    ["three boxes back begin a column one box below the top", closes(10, 14, 11), ["X11-14 @1-1", "O11-13 @2-2"]],
    ["two boxes back do not", closes(10, 14, 12), ["X11-14 @1-1"]],
    ["a bar that goes on is not looked at for its low", ranges([10, 10], [14, 14], [15, 9]), ["X11-15 @1-2"]],
    [
      "and the next one that comes back turns it",
      ranges([10, 10], [14, 14], [15, 9], [14, 12]),
      ["X11-15 @1-2", "O12-14 @3-3"],
    ],
    ["a price short of the next box adds none", closes(10, 14, 14.99), ["X11-14 @1-1"]],
    ["a price on it adds it", closes(10, 14, 15), ["X11-15 @1-2"]],
    ["falling first", closes(10, 6, 9), ["O6-9 @1-1", "X7-9 @2-2"]],
    ["a first bar that goes both ways begins nothing", ranges([12, 12], [16, 8], [17, 16]), ["X9-17 @2-2"]],
    ["no bars, no columns", closes(), []],
  ])("%s", (_, series, expected) => expect(told(chart(series))).toEqual(expected));

  it("with a reversal of one every box back begins a column", () =>
    expect(told(chart(closes(10, 12, 11, 12), 1, 1))).toEqual(["X11-12 @1-1", "O11-11 @2-2", "X12-12 @3-3"]));
  it("by closes wicks make nothing", () => {
    const one = pointAndFigureOf(ranges([10, 5], [14, 5], [11, 2]), { box: 1, reversal: 3, method: "close" }, 0.01);
    expect(told(one)).toEqual(["X11-14 @1-1", "O11-13 @2-2"]);
  });
});

describe("boxes", () => {
  it("of one percent stand at powers of 1.01: worked by hand", () => {
    const one = chart(closes(100, 104, 100.5), { percent: 1 });
    const [{ bottom, top }] = one.columns;
    // 1.01^463 = e^(463 x 0.00995033) = 100.183 and 1.01^466 = 103.219; 100 comes down to box 463.
    expect([bottom, top, one.box]).toEqual([464, 466, 0.01]);
    expect(one.priceOf(463)).toBeCloseTo(100.1835, 3);
  });
  it("of ATR are whole ticks of the first there is, and the chart begins with that bar", () => {
    const series = ranges([10, 8], [10, 8.01], [10, 8], [20, 19], [20, 10]);
    const one = chart(series, { atr: 2, multiple: 0.5 });
    expect(one.box).toBeCloseTo(1, 9);
    expect(one.columns[0].start).toBe(3);
    expect(chart(slice(series, 0, 2), { atr: 2, multiple: 0.5 }).box).toBeUndefined();
  });
  it("a price counts as a box within a thousandth of a tick: 0.3 is three boxes of 0.1", () =>
    expect(chart(closes(0.1, 0.1 + 0.2 + 0.1 + 0.1), 0.1).columns[0].top).toBe(5));
  it("below one tick are refused, and percent of prices not above 0", () => {
    expect(() => chart(closes(10), 0.009)).toThrow("at least one tick, which is 0.01");
    expect(() => chart(closes(0), { percent: 1 })).toThrow("above 0");
    expect(() => chart(closes(10, -1), { percent: 1 })).toThrow("above 0");
  });
  it("in percent may be smaller than a tick: a price passes several at once", () =>
    expect(chart(closes(0.5, 0.53), { percent: 1 }).columns[0]).toMatchObject({ isRising: true }));
  it("may be many: a fall of ten million boxes costs what a short one does", () =>
    expect(
      chart(ranges([100_000, 100_000], [100_001, 100_000], [100_001, 100_000], [1, 0.01]), 0.01).columns,
    ).toHaveLength(2));
});

describe("counts", () => {
  // Vertical: boxes of the thrust x box x reversal from the low (Cohen, 1947, from memory): 90 + 6 x 3 = 108.
  const thrust = closes(100, 90, 95.5, 92);
  it("vertical: known when the next column begins, waiting until price stands above the thrust", () => {
    expect(counts(chart(thrust))).toEqual(["vertical up 90 5 105 waiting"]);
    expect(chart(thrust).targets[0]).toMatchObject({ knownAt: 3, start: 2 });
  });
  it.each([
    ["in force", [96], "in force", { forceAt: 4 }],
    ["met", [96, 105], "met", { forceAt: 4, metAt: 5 }],
    ["met by the bar that puts it in force", [107], "met", { forceAt: 4, metAt: 4 }],
    ["negated below its low while it waits", [89], "negated", { negatedAt: 4 }],
    ["at its low not", [90], "waiting", {}],
    ["negated after it was in force", [96, 89], "negated", { forceAt: 4, negatedAt: 5 }],
    ["met is met", [107, 80], "met", { metAt: 4 }],
  ])("%s", (_, prices, state, more) => {
    const [target] = chart(closes(100, 90, 95.5, 92, ...prices)).targets;
    expect(target).toMatchObject({ state, ...more });
    expect(Object.keys(target).filter((name) => /forceAt|metAt|negatedAt/.test(name))).toEqual(
      ["forceAt", "metAt", "negatedAt"].filter((name) => name in more || (name === "forceAt" && state === "met")),
    );
  });
  it("no vertical off a low that held above the one before", () =>
    expect(counts(chart(closes(100, 90, 95, 91, 96, 92))).filter((one) => one.includes("vertical up"))).toEqual([
      "vertical up 90 5 105 in force",
    ]));
  // Horizontal: columns of the base x box x reversal from its low (de Villiers and Taylor, 1933, from memory).
  const base = closes(110, 90, 95, 91, 95, 91, 96);
  it("horizontal: a base of five columns, counted from its low when its tops are passed", () => {
    const one = chart(base);
    expect(counts(one).filter((line) => line.startsWith("horizontal"))).toEqual(["horizontal up 91 5 106 in force"]);
  });
  it("a base that begins with the first column is none: where it began is not known", () =>
    expect(
      counts(chart(closes(92, 95, 91, 95, 91, 95, 91, 120))).filter((one) => one.startsWith("horizontal")),
    ).toEqual([]));
  it("fewer columns than asked for make no base", () =>
    expect(counts(chart(base, 1, 3, 7)).filter((one) => one.startsWith("horizontal"))).toEqual([]));
  it("no target at or below 0", () =>
    expect(
      chart(closes(8, 14, 3, 7))
        .targets.map(({ target }) => target)
        .filter((price) => price <= 0),
    ).toEqual([]));
});

const bars = fc.array(fc.tuple(fc.integer({ min: -5, max: 5 }), fc.nat(2), fc.nat(2)), {
  minLength: 40,
  maxLength: 160,
});

describe("laws", () => {
  it("a second way by hand says the same of every column and count, with either reversal", () => {
    let targets = 0;
    fc.assert(
      fc.property(bars, fc.constantFrom(1, 3), (drawn, reversal) => {
        const series = walk(drawn, 60);
        const one = chart(series, 1, reversal);
        const { boxes, rising } = plainColumns(series, 1, reversal);
        expect(one.columns.map(({ isRising }) => isRising)).toEqual(rising);
        expect(one.columns.reduce((sum, { bottom, top }) => sum + top - bottom + 1, 0)).toBe(boxes.length);
        const found = one.targets.map(({ isUp, start: _, ...target }) => ({
          ...target,
          direction: isUp ? "up" : "down",
        }));
        expect(found).toEqual(plainTargets(series, 1, reversal));
        targets += found.length;
      }),
      { numRuns: 60, seed: 7 },
    );
    expect(targets).toBeGreaterThan(300);
  });
  it("later bars change nothing that was known; bar by bar is the same as at once", () => {
    const series = slice(sp500(), 0, 900);
    const rules = { box: { percent: 1 }, reversal: 3, method: "highLow" } as const;
    const grown = new PointAndFigure(rules, 0.01);
    for (let i = 0; i < series.length; i++) {
      grown.next(series, i);
      if (i % 90 !== 89) continue;
      const cut = pointAndFigureOf(slice(series, 0, i + 1), rules, 0.01);
      expect(grown.columns).toEqual(cut.columns);
      expect(grown.targets).toEqual(cut.targets);
    }
    expect(grown.targets.length).toBeGreaterThan(50);
  });
  it("mirrored prices mirror fixed boxes", () =>
    fc.assert(
      fc.property(bars, (drawn) => {
        const series = walk(drawn, 400);
        const mirrored = turned(series, (price) => 800 - price);
        const [up, down] = [chart(series), chart(mirrored)];
        const flip = ({ isUp, from, target, ...one }: (typeof up.targets)[number]) => ({
          ...{ ...one, isUp: !isUp },
          ...{ from: 800 - from, target: 800 - target },
        });
        expect(down.targets.map(flip)).toEqual(up.targets);
        expect(down.columns.map(({ top }) => 800 - top)).toEqual(up.columns.map(({ bottom }) => bottom));
      }),
      { numRuns: 60, seed: 7 },
    ));
  it("prices, box and tick times 1024 change no column", () => {
    const series = slice(sp500(), 0, 600);
    const large = turned(series, (price) => price * 1024);
    const [one, other] = [10, 10240].map((box, i) =>
      pointAndFigureOf([series, large][i], { box, reversal: 3, method: "close" }, i === 0 ? 0.01 : 10.24),
    );
    expect(other.columns).toEqual(one.columns);
    expect(other.targets).toEqual(one.targets);
  });
});
