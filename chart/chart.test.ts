import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { drawCandles, fitPrices } from "./candles.ts";
import { declutter } from "./declutter.ts";
import { distanceTo, hits } from "./hit.ts";
import { hatch } from "./marks/hatch.ts";
import { labelText } from "#core/waves/notation";
import { LAMP, PAPER, type Palette } from "./palette.ts";
import { buildPyramid, visible } from "./pyramid.ts";
import { makeScale } from "./scale.ts";
import { toTick } from "#core/series/tick";
import { snap } from "./snap.ts";
import { priceTicks, timeTicks } from "./ticks.ts";

const plot = { left: 0, top: 0, width: 800, height: 400 };
const series = fromBars(
  Array.from({ length: 5000 }, (_, i) => ({
    time: i * 86_400_000,
    open: 100 + (i % 7),
    high: 110 + (i % 11),
    low: 90 - (i % 5),
    close: 100 + (i % 3),
    volume: 1,
  })),
);

describe("the pyramid", () => {
  const pyramid = buildPyramid(series);
  it("keeps every extreme, first open and last close at each level", () => {
    for (const level of pyramid.levels) {
      expect(Math.max(...level.high)).toBe(Math.max(...series.high));
      expect(Math.min(...level.low)).toBe(Math.min(...series.low));
      expect([level.open[0], level.close[level.length - 1]]).toEqual([series.open[0], series.close[series.length - 1]]);
    }
  });
  it("never gives more bars than asked for, and covers the view", () => {
    fc.assert(
      fc.property(fc.nat(4999), fc.integer({ min: 1, max: 5000 }), (from, width) => {
        const part = visible(pyramid, from, from + width, 600);
        expect(part.series.length).toBeLessThanOrEqual(603);
        expect(part.start).toBeLessThanOrEqual(from);
      }),
    );
  });
  it("fits prices with air above and below, also where all are equal", () => {
    const flat = buildPyramid(fromBars([{ time: 0, open: 5, high: 5, low: 5, close: 5, volume: 0 }]));
    const { bottom, top } = fitPrices(flat, 0, 1);
    expect(bottom).toBeLessThan(5);
    expect(top).toBeGreaterThan(5);
  });
});

describe("candles", () => {
  const shapes = (open: number, close: number) => {
    const pyramid = buildPyramid(fromBars([{ time: 0, open, high: 12, low: 8, close, volume: 1 }]));
    return drawCandles(pyramid, makeScale({ from: -5, to: 5, bottom: 5, top: 15 }, plot)).map((shape) =>
      shape.kind === "path" ? shape.paths.length : 0,
    );
  };
  it("are hollow when they close higher, filled when lower, a bar when equal", () => {
    expect(shapes(9, 11)).toEqual([2, 1, 0]);
    expect(shapes(11, 9)).toEqual([2, 0, 1]);
    expect(shapes(10, 10)).toEqual([3, 0, 0]);
  });
});

describe("scales and snapping", () => {
  const scale = makeScale({ from: 0, to: 100, bottom: 80, top: 130 }, plot);
  it("pixels and prices are each other's inverse", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 800, noNaN: true }),
        fc.double({ min: 0, max: 400, noNaN: true }),
        (x, y) => {
          expect(scale.x(scale.index(x))).toBeCloseTo(x, 6);
          expect(scale.y(scale.price(y))).toBeCloseTo(y, 6);
        },
      ),
    );
  });
  const options = { bars: 2, pixels: 12, tick: 0.05, decimals: 2 };
  it("a pointer near a high takes the high, bar and price", () => {
    expect(snap(scale.x(20) + 3, scale.y(series.high[20]) - 4, series, [], scale, options)).toEqual({
      time: series.time[20],
      price: series.high[20],
      on: "high",
    });
  });
  it("far from any price it takes the tick under it; in the future's room the date to come", () => {
    const near = makeScale({ from: 4990, to: 5010, bottom: 80, top: 130 }, plot);
    const future = [5000, 5001, 5002].map((day) => day * 86_400_000);
    expect(snap(near.x(5001), near.y(127.113), series, future, near, options)).toEqual({
      time: future[1],
      price: 127.1,
    });
  });
  it("ticks are free of binary noise", () =>
    expect([toTick(0.30000000000000004, 0.1, 1), toTick(412.63, 0.05, 2)]).toEqual([0.3, 412.65]));
});

describe("hitting", () => {
  it("measures to the segment, not to the line beyond it", () => {
    expect(distanceTo(0, 0, 10, 0, 5, 3)).toBe(3);
    expect(distanceTo(0, 0, 10, 0, 14, 3)).toBe(5);
  });
  it("finds lines and texts", () => {
    expect(hits([{ kind: "path", paths: [[0, 0, 10, 10]] }], 5, 6, 2)).toBe(true);
    expect(
      hits(
        [{ kind: "text", x: 100, y: 50, text: "demand", color: "ink", align: "right", baseline: "bottom" }],
        80,
        45,
        2,
      ),
    ).toBe(true);
    expect(
      hits(
        [{ kind: "text", x: 100, y: 50, text: "demand", color: "ink", align: "right", baseline: "bottom" }],
        120,
        45,
        2,
      ),
    ).toBe(false);
  });
});

describe("axes", () => {
  it("price ticks are round and apart", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-6, max: 1e6, noNaN: true }),
        fc.double({ min: 1e-3, max: 10, noNaN: true }),
        (bottom, span) => {
          const top = bottom * (1 + span);
          const ticks = priceTicks(bottom, top, 400);
          expect(ticks.length).toBeLessThanOrEqual(9);
          for (let i = 1; i < ticks.length; i++)
            expect(((ticks[i] - ticks[i - 1]) / (top - bottom)) * 400).toBeGreaterThan(51);
        },
      ),
    );
  });
  it("days are labelled by months and years that begin in view, never crowded", () => {
    const ticks = timeTicks((i) => ({ clock: series.time[i], date: series.time[i] }), 1, 400, 2);
    expect(ticks.filter(({ strong }) => strong).map(({ label }) => label)).toContain("1971");
    for (let i = 1; i < ticks.length; i++) expect((ticks[i].index - ticks[i - 1].index) * 2).toBeGreaterThanOrEqual(37);
  });
});

describe("labels", () => {
  it("never overlap, stay within, and keep their order", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 1, maxLength: 15 }), (wanted) => {
        const placed = declutter(wanted, 20, 0, 400);
        const sorted = [...placed].sort((a, b) => a - b);
        for (let i = 1; i < sorted.length; i++) expect(sorted[i] - sorted[i - 1]).toBeGreaterThanOrEqual(20 - 1e-9);
        expect(sorted[0]).toBeGreaterThanOrEqual(10 - 1e-9);
        expect(sorted[sorted.length - 1]).toBeLessThanOrEqual(390 + 1e-9);
      }),
    );
  });
  it("that do not touch are left alone", () => expect(declutter([100, 200], 20, 0, 400)).toEqual([100, 200]));
  // Notation: Frost and Prechter (1978), chapter 1, "Degree"; from memory.
  it("waves are written by degree", () => {
    expect([
      labelText("5", "Cycle"),
      labelText("3", "Primary"),
      labelText("5", "Intermediate"),
      labelText("1", "Minor"),
    ]).toEqual(["V", "\u2462", "(5)", "1"]);
    expect([
      labelText("B", "Cycle"),
      labelText("B", "Intermediate"),
      labelText("4", "Minute"),
      labelText("Y", "Subminuette"),
    ]).toEqual(["b", "(B)", "[iv]", "y"]);
  });
  it("hatches lean as they should and stay in their box", () => {
    for (const [x1, y1, x2, y2] of hatch({ left: 10, right: 60, top: 20, bottom: 40 }, "rising", 7)) {
      expect(x2).toBeGreaterThan(x1);
      expect(y2).toBeLessThan(y1);
      for (const x of [x1, x2]) expect(x >= 10 && x <= 60).toBe(true);
      for (const y of [y1, y2]) expect(y >= 20 - 1e-9 && y <= 40 + 1e-9).toBe(true);
    }
  });
});

// WCAG 2.2, success criterion 1.4.3 and the definition of relative luminance.
describe("contrast", () => {
  const luminance = (hex: string) => {
    const [r, g, b] = [1, 3, 5]
      .map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255)
      .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
    return 0.2126 * r + 0.7152 * g + 0.0722 * b;
  };
  const contrast = (a: string, b: string) => {
    const [dark, light] = [luminance(a), luminance(b)].sort((x, y) => x - y);
    return (light + 0.05) / (dark + 0.05);
  };
  const inks: (keyof Palette)[] = [
    "ink",
    "ink2",
    "ink3",
    "indigo",
    "ochre",
    "slate",
    "plum",
    "verdigris",
    "carmine",
    "umber",
  ];
  it.each(inks)("%s reads on paper and sheet by day and by lamp", (name) => {
    for (const palette of [PAPER, LAMP])
      for (const ground of [palette.paper, palette.sheet])
        expect(contrast(palette[name], ground)).toBeGreaterThanOrEqual(4.5);
  });
});
