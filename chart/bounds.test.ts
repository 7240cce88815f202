import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { followMark } from "#core/marks/follow";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { isSilent, kindOf, markKinds } from "#core/marks/registry";
import { fromBars } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { bounded, REACH } from "./bounds.ts";
import { boxOf } from "./labels.ts";
import { layOut, type Picture } from "./picture.ts";
import { buildPyramid } from "./pyramid.ts";
import { makeScale, plotOf, type View } from "./scale.ts";
import type { PathShape, Shape } from "./shapes.ts";

const plot = { left: 0, top: 10, width: 600, height: 400 };
const path = (points: number[], more: Partial<PathShape> = {}): Shape => ({
  kind: "path",
  paths: [points],
  stroke: "ink",
  ...more,
});
const pathsOf = (shapes: readonly Shape[]) => shapes.flatMap((shape) => (shape.kind === "path" ? shape.paths : []));

describe("shapes cut to the plot", () => {
  it("inside are the very same", () => {
    const shape = path([10, 20, 300, 400]);
    expect(bounded([shape], plot)[0]).toBe(shape);
  });
  it("a line from far left to far right keeps its slope and ends a little over the edges", () => {
    expect(pathsOf(bounded([path([-1e9, 210, 1e9, 210])], plot))).toEqual([[-REACH, 210, 600 + REACH, 210]]);
    const [[ax, ay, bx, by]] = pathsOf(bounded([path([-1000, -790, 2000, 1010])], plot));
    expect((by - ay) / (bx - ax)).toBeCloseTo(1800 / 3000, 9);
  });
  it("a line that leaves and comes back is two lines; one that passes by is none", () => {
    expect(pathsOf(bounded([path([100, 100, 100, -5000, 200, -5000, 200, 100])], plot))).toEqual([
      [100, 100, 100, 10 - REACH],
      [200, 10 - REACH, 200, 100],
    ]);
    expect(bounded([path([-900, 100, -10, -900])], plot)).toEqual([]);
  });
  it("a figure that covers the plot becomes the plot and stays one figure", () => {
    const cut = pathsOf(
      bounded([path([-1e6, -1e6, 1e6, -1e6, 1e6, 1e6, -1e6, 1e6], { closed: true, fill: "sheet" })], plot),
    );
    expect(cut).toHaveLength(1);
    expect(new Set(cut[0])).toEqual(new Set([-REACH, 600 + REACH, 10 - REACH, 410 + REACH]));
  });
  it("what is no number is not drawn, and does not take the rest with it", () => {
    expect(pathsOf(bounded([path([10, 20, NaN, 30, 40, 50, 60, 70])], plot))).toEqual([[40, 50, 60, 70]]);
    expect(bounded([{ kind: "text", x: NaN, y: 5, text: "here", color: "ink" }], plot)).toEqual([]);
  });
  it("a text stays while a part of it is in sight, and one without end is cut", () => {
    const text = (x: number, words = "some words"): Shape => ({ kind: "text", x, y: 100, text: words, color: "ink" });
    expect(bounded([text(-40), text(-400), text(700)], plot)).toEqual([text(-40)]);
    const [long] = bounded([text(10, "x".repeat(5000))], plot);
    expect(long.kind === "text" && long.text.length).toBe(241);
  });
});

const DAY = 86_400_000;
const market: MarketFacts = { id: "m", name: "M", tick: 0.01, pip: 0.01, pipName: "pip", decimals: 2 };
const calendar = new Calendar(ALL_HOURS);
const series = fromBars(
  Array.from({ length: 60 }, (_, i) => ({
    time: i * DAY,
    open: 100 + Math.sin(i),
    high: 104 + Math.sin(i),
    low: 96 + Math.sin(i),
    close: 101 + Math.sin(i),
    volume: i,
  })),
);

/** A mark of every kind that draws, far and near. */
const marks = markKinds
  .filter(({ kind }) => !isSilent({ kind }))
  .map(({ kind }, n) => {
    const { least, most } = kindOf({ kind }).anchors;
    const count = kind === "count" ? 4 : Math.min(most, Math.max(least, kindOf({ kind }).complete ? 2 : least));
    const anchors = Array.from({ length: count }, (_, i) => ({
      time: (4 + i * 7) * DAY,
      price: (i % 2 === 0 ? 97 : 104) * (n % 3 === 0 ? 1.5 : 1),
    }));
    const own =
      kind === "note"
        ? { text: "w ".repeat(90) }
        : kind === "zone"
          ? { side: "demand", own: true }
          : kind === "structure"
            ? { event: "shift", direction: "up" }
            : kind === "pool"
              ? { side: "high", of: "equal" }
              : kind === "gap"
                ? { of: "fair" }
                : kind === "count"
                  ? kindOf({ kind }).readProps({ degree: "Minor" }, 4)
                  : {};
    const mark: Mark = {
      id: String(n),
      kind,
      market: "m",
      rung: "P1D",
      anchors,
      props: (kindOf({ kind }).readProps(own ?? {}, count) ?? {}) as Record<string, unknown>,
      note: "",
      author: "",
      version: 1,
    };
    return { mark, life: { ...followMark(mark, { series, market, calendar }), dead: n % 4 === 3 } };
  });
const picture: Picture = {
  pyramid: buildPyramid(series),
  market,
  timeframe: { count: 1, unit: "day" },
  calendar,
  future: Array.from({ length: 20 }, (_, i) => (60 + i) * DAY),
  marks,
  scenarios: [
    {
      direction: "long",
      path: [105, 105, 1e6],
      prices: [
        { field: "orders[0].stop", what: "stop", price: 90, about: false },
        { field: "orders[0].targets[0].price", what: "target", price: 1e6, about: true },
        { field: "wrong", what: "wrong", price: 80, about: false },
      ],
      alternate: true,
      held: true,
    },
    { direction: "short", path: [90, -1e6], prices: [], alternate: true, beside: "Another, 30 %" },
  ],
  selected: ["0"],
  unfinished: true,
};

/** Anything a view can be, from all of a market to a hair, near and far off its bars and prices. */
const views: fc.Arbitrary<View> = fc
  .record({
    from: fc.oneof(
      fc.double({ min: -3000, max: 3000, noNaN: true }),
      fc.double({ min: -1e300, max: 1e300, noNaN: true }),
    ),
    width: fc.oneof(fc.double({ min: 1e-9, max: 4000, noNaN: true }), fc.constant(0)),
    bottom: fc.oneof(
      fc.double({ min: -1000, max: 1000, noNaN: true }),
      fc.double({ min: -1e300, max: 1e300, noNaN: true }),
    ),
    height: fc.oneof(fc.double({ min: 1e-12, max: 2000, noNaN: true }), fc.constant(0), fc.constant(1e300)),
    log: fc.boolean(),
  })
  .map(({ from, width, bottom, height, log }) => ({ from, to: from + width, bottom, top: bottom + height, log }));

describe("a laid out picture of any view", () => {
  it("never leaves the canvas, in 10,000 of them", { timeout: 120_000 }, () => {
    let [drawn, empty] = [0, 0];
    const scaleOf = (view: View) => makeScale(view, plotOf(700, 440));
    fc.assert(
      fc.property(views, (view) => {
        const scale = scaleOf(view);
        const { left, top, width, height } = scale.plot;
        const { ground, candles, marks: own, tags, priceTicks } = layOut(picture, scale);
        const shapes = [...ground, ...candles, ...own];
        if (shapes.length > 0) drawn++;
        else empty++;
        for (const points of pathsOf([...shapes, ...tags]))
          for (let i = 0; i < points.length; i += 2)
            if (!(
              points[i] >= left - REACH &&
              points[i] <= left + width + REACH &&
              points[i + 1] >= top - REACH &&
              points[i + 1] <= top + height + REACH
            ))
              throw new Error(`${points[i]}, ${points[i + 1]} lies outside`);
        for (const shape of [...shapes, ...tags])
          if (shape.kind === "text") {
            const box = boxOf(shape);
            if (!(
              box.right >= left - REACH &&
              box.left <= left + width + 70 + REACH &&
              box.bottom >= top - REACH &&
              box.top <= top + height + REACH
            ))
              throw new Error(`"${shape.text}" lies outside`);
          }
        expect(priceTicks.length).toBeLessThanOrEqual(height);
      }),
      { numRuns: 10_000, seed: 7 },
    );
    // Otherwise nothing was looked at.
    expect(drawn).toBeGreaterThan(5000);
    expect(empty).toBeLessThan(5000);
  });
});
