import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { followMark } from "#core/marks/follow";
import type { Anchor, Mark, MarketFacts } from "#core/marks/kind";
import { isSilent, kindOf, markKinds } from "#core/marks/registry";
import { fromBars } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { boxOf, separateLabels } from "./labels.ts";
import { indexOfTime, layOut, timeOf, type Picture } from "./picture.ts";
import { buildPyramid } from "./pyramid.ts";
import { makeScale } from "./scale.ts";
import type { Shape, TextShape } from "./shapes.ts";

const plot = { left: 0, top: 10, width: 600, height: 400 };
const DAY = 86_400_000;
const series = fromBars(
  Array.from({ length: 50 }, (_, i) => ({
    time: i * DAY,
    open: 100,
    high: 104 + (i % 3),
    low: 96,
    close: 101,
    volume: 1,
  })),
);
const future = Array.from({ length: 20 }, (_, i) => (50 + i) * DAY);
const market: MarketFacts = { id: "m", name: "M", tick: 0.01, pip: 0.01, pipName: "pip", decimals: 2 };
const calendar = new Calendar(ALL_HOURS);

describe("labels", () => {
  const label = (y: number, text = "a label of some length"): TextShape => ({
    kind: "text",
    x: 100,
    y,
    text,
    color: "ink",
    movable: true,
  });
  it("that are placed never cover each other and stay in the plot", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 420 }), { maxLength: 40 }), (ys) => {
        const boxes = separateLabels(
          ys.map((y) => label(y)),
          plot,
          200,
        ).map((shape) => boxOf(shape as TextShape));
        for (const [i, a] of boxes.entries()) {
          expect(a.top).toBeGreaterThanOrEqual(plot.top);
          expect(a.bottom).toBeLessThanOrEqual(plot.top + plot.height);
          for (const b of boxes.slice(i + 1)) expect(a.bottom <= b.top || b.bottom <= a.top).toBe(true);
        }
      }),
    );
  });
  it("of a higher price never stand below one of a lower price", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 420 }), { maxLength: 40 }), (ys) => {
        const placed = separateLabels(
          ys.map((y) => label(y, String(y).padStart(12))),
          plot,
          200,
        ) as TextShape[];
        const inOrder = placed.toSorted((a, b) => a.y - b.y).map(({ text }) => Number(text));
        for (const [i, y] of inOrder.entries())
          // Nearer than that they are one price to the eye.
          for (const below of inOrder.slice(i + 1)) expect(below).toBeGreaterThanOrEqual(y - 4);
      }),
    );
  });
  it("at lines close together move along their lines, not off them", () => {
    const line = (y: number): Shape[] => [
      { kind: "path", paths: [[100, y, 560, y]], stroke: "verdigris" },
      { ...label(y - 2, `61.8 %  ${y}.00`), baseline: "bottom", slides: 300 },
    ];
    const heights = [190, 194, 198, 203, 209];
    const placed = separateLabels(heights.flatMap(line), plot, 200).filter(
      (shape): shape is TextShape => shape.kind === "text",
    );
    expect(placed).toHaveLength(heights.length);
    for (const { text, y } of placed) expect(Math.abs(y + 2 - Number(text.slice(7)))).toBeLessThanOrEqual(20);
  });
  it("stand within 20 pixels of what they name, or nowhere", () => {
    const all = Array.from({ length: 12 }, (_, i) => label(200 + i, `price ${String(200 + i)}`));
    const placed = separateLabels(all, plot, 200) as TextShape[];
    expect(placed.length).toBeLessThan(all.length);
    for (const { text, y } of placed) expect(Math.abs(y - Number(text.slice(6)))).toBeLessThanOrEqual(20);
  });
  it("of what is called or chosen win their place first", () => {
    const near = Array.from({ length: 8 }, () => label(200));
    const chosen = { ...label(203, "chosen"), first: true };
    const placed = separateLabels([...near, chosen], plot, 200) as TextShape[];
    expect(placed.find(({ text }) => text === "chosen")?.y).toBe(203);
  });
  it("stand over whatever is drawn", () => {
    const path: Shape = { kind: "path", paths: [[0, 300, 600, 100]], stroke: "carmine" };
    expect(separateLabels([label(300), path], plot, 200).map(({ kind }) => kind)).toEqual(["path", "text"]);
  });
  it("are not struck through by a level line", () => {
    const line = { kind: "path" as const, paths: [[0, 195, 600, 195]], stroke: "slate" as const };
    const box = boxOf(separateLabels([line, label(197)], plot, 200)[1] as TextShape);
    expect(box.bottom <= 195 || box.top >= 195).toBe(true);
  });
  it("are not crossed by a path of the future where there is room beside it, and else stand on it", () => {
    const flat: Shape = { kind: "path", paths: [[80, 190, 300, 205, 320, 205]], stroke: "carmine" };
    const beside = boxOf(separateLabels([flat, label(197)], plot, 200)[1] as TextShape);
    const heightAt = (x: number) => 190 + ((x - 80) * 15) / 220;
    expect(beside.bottom <= heightAt(beside.left) || beside.top >= heightAt(beside.right)).toBe(true);
    expect(Math.abs((beside.top + beside.bottom) / 2 - 197)).toBeLessThan(25);
    const wall: Shape = { kind: "path", paths: [[110, 0, 112, 400]], stroke: "carmine" };
    expect((separateLabels([wall, label(197)], plot, 200)[1] as TextShape).y).toBe(197);
  });
  it("of a wave at the edge of the plot stand whole within it, on either side", () => {
    const wave = (y: number, baseline: "top" | "bottom"): TextShape => ({
      ...{ kind: "text", x: 100, y, text: "(4)", color: "ink" },
      ...{ align: "center", baseline, yields: true, climbs: true },
    });
    const bottom = plot.top + plot.height;
    for (const one of [wave(bottom - 4, "top"), wave(plot.top + 3, "bottom")]) {
      const [box] = separateLabels([one], plot, 200).map((shape) => boxOf(shape as TextShape));
      expect(box.top).toBeGreaterThanOrEqual(plot.top);
      expect(box.bottom).toBeLessThanOrEqual(bottom);
    }
    // Of a pivot that is out of sight nothing is said.
    expect(separateLabels([wave(bottom + 40, "top")], plot, 200)).toEqual([]);
  });
  it("with room stay where they are, and fixed ones are never moved", () => {
    const fixed: TextShape = { ...label(200), movable: false };
    const [kept, moved] = separateLabels([fixed, label(200)], plot, 200) as TextShape[];
    expect(kept).toBe(fixed);
    expect(Math.abs(moved.y - 200)).toBeGreaterThan(10);
    expect((separateLabels([label(100)], plot, 200)[0] as TextShape).y).toBe(100);
  });
});

describe("bars and times", () => {
  it("every bar and every place in the future has its time, and back", () => {
    for (let i = 0; i < 70; i++) expect(indexOfTime(series, future, timeOf(series, future, i))).toBe(i);
  });
  it("what began before the first bar comes from the left of it", () =>
    expect(indexOfTime(series, future, -5 * DAY)).toBe(-5));
  it("between two bars it is the one that holds the instant", () =>
    expect(indexOfTime(series, future, 7.5 * DAY)).toBe(7));
});

describe("a laid out picture", () => {
  const anchors = (n: number) =>
    Array.from({ length: n }, (_, i) => ({ time: (10 + i * 5) * DAY, price: i % 2 === 0 ? 97 : 104 }));
  const props: Record<string, Record<string, unknown>> = {
    level: { label: "here" },
    zone: { side: "demand", own: true },
    retracement: { ratios: [0.5] },
    count: { ...kindOf({ kind: "count" }).readProps({ degree: "Minor" }, 4) },
    trendLine: {},
    note: { text: "some words" },
    fittedLevel: { label: "shelf", touches: 4, through: 0 },
    channel: {},
    structure: { event: "shift", direction: "up" },
    pool: { side: "high", of: "equal" },
    gap: { of: "fair" },
  };
  // A path never dies, and bearings and dismissals are no figure of the chart.
  it.each(markKinds.map(({ kind }) => kind).filter((kind) => kind !== "path" && !isSilent({ kind })))(
    "draws a %s, and a dead one without its pigment",
    (kind) => {
      const { least } = kindOf({ kind }).anchors;
      const count = { zone: 2, fittedLevel: 2, count: 4, gap: 2, structure: 2 }[kind] ?? least;
      const mark: Mark = {
        id: "1",
        kind,
        market: "m",
        rung: "P1D",
        anchors: anchors(count),
        props: kindOf({ kind }).readProps(props[kind] ?? {}, count) ?? {},
        note: "",
        author: "",
        version: 1,
      };
      const life = followMark(mark, { series, market, calendar });
      const picture: Picture = {
        pyramid: buildPyramid(series),
        market,
        timeframe: { count: 1, unit: "day" },
        calendar,
        future,
        marks: [{ mark, life: { ...life, dead: false } }],
        scenarios: [],
        selected: [],
        unfinished: true,
      };
      const scale = makeScale({ from: 0, to: 60, bottom: 90, top: 115 }, plot);
      const alive = layOut(picture, scale).marks;
      expect(alive.length).toBeGreaterThan(1);
      const dead = layOut({ ...picture, marks: [{ mark, life: { ...life, dead: true } }] }, scale).marks;
      const pigments = dead
        .flatMap((shape) => (shape.kind === "text" ? [shape.color] : [shape.stroke, shape.fill]))
        .filter((pigment) => pigment !== undefined);
      expect(pigments.every((pigment) => pigment.startsWith("ink"))).toBe(true);
    },
  );
  const drawn = (
    mark: Mark,
    marks = [{ mark, life: followMark(mark, { series, market, calendar }) }],
    selected: string[] = [],
  ) =>
    layOut(
      {
        pyramid: buildPyramid(series),
        market,
        timeframe: { count: 1, unit: "day" },
        calendar,
        future,
        marks,
        scenarios: [],
        selected,
        unfinished: false,
      },
      makeScale({ from: 0, to: 60, bottom: 99, top: 101 }, plot),
    ).marks;
  const made = (kind: string, at: Anchor[], own: Record<string, unknown>): Mark => ({
    id: kind,
    kind,
    market: "m",
    rung: "P1D",
    anchors: at,
    props: own,
    note: "",
    author: "",
    version: 1,
  });
  it("words of what is chosen stand at their line, whatever is nearer to price", () => {
    const level = (i: number) => made("level", [{ time: 60 * DAY, price: 100.9 + i / 100 }], { label: `level ${i}` });
    const levels = [0, 1, 2, 3].map((i) => ({ ...level(i), id: String(i) }));
    const lived = levels.map((mark) => ({ mark, life: followMark(mark, { series, market, calendar }) }));
    // All of them want the end of their lines, where there is no room for all.
    const ends = (selected: string[]) =>
      drawn(levels[0], lived, selected).flatMap((shape) =>
        shape.kind === "text" && shape.text.startsWith("level ") && shape.x === plot.width - 6
          ? [shape.text.slice(6, 7)]
          : [],
      );
    expect(ends([]).length).toBeLessThan(levels.length);
    for (const { id } of levels) expect(ends([id])).toContain(id);
  });
  it("a bearing draws nothing, a path a head at its end and a price at each turn ahead", () => {
    expect(drawn(made("bearing", anchors(1), { direction: "up", reasons: "" }))).toEqual([]);
    const last = series.time[series.length - 1];
    const path = made(
      "path",
      [
        { time: last, price: 100 },
        { time: future[5], price: 100.8 },
        { time: future[9], price: 99.4 },
      ],
      { label: "" },
    );
    const shapes = drawn(path);
    expect(shapes.filter((shape) => shape.kind === "path" && shape.fill === "carmine")).toHaveLength(1);
    expect(shapes.flatMap((shape) => (shape.kind === "text" ? [shape.text] : []))).toEqual(["100.80", "path 99.40"]);
  });
  it(
    "an offer is a dotted outline with its name; areas stand as brackets in the margin; the next " +
      "shift says which close",
    () => {
      const zone = made(
        "zone",
        [
          { time: 5 * DAY, price: 100.5 },
          { time: 6 * DAY, price: 99.5 },
        ],
        props.zone,
      );
      const offer = {
        mark: zone,
        life: followMark(zone, { series, market, calendar }),
        name: "Demand, drop-base-rally",
        current: false,
      };
      const area = { bottom: 99.8, top: 100.2, weight: 4, reasons: [], rungs: ["P1W", "P1D"] };
      const shapes = layOut(
        {
          pyramid: buildPyramid(series),
          market,
          timeframe: { count: 1, unit: "day" },
          calendar,
          future,
          marks: [],
          scenarios: [],
          selected: [],
          unfinished: false,
          offers: [offer],
          swingNames: [{ time: 20 * DAY, price: 100.6, side: "high", label: "HH" }],
          areas: [area, { ...area, bottom: 200, top: 201 }],
          nextShift: { direction: "up", price: 100.9, time: 3 * DAY },
        },
        makeScale({ from: 0, to: 60, bottom: 99, top: 101 }, plot),
      ).marks;
      const paths = shapes.filter((shape) => shape.kind === "path");
      expect(
        paths
          .filter(({ stroke }) => stroke === "indigo")
          .every(({ dash, fill }) => dash !== undefined && fill === undefined),
      ).toBe(true);
      expect(paths.filter(({ stroke }) => stroke === "umber").flatMap((shape) => shape.paths)).toHaveLength(1);
      expect(shapes.flatMap((shape) => (shape.kind === "text" ? [shape.text] : [])).sort()).toEqual([
        "Demand, drop-base-rally",
        "HH",
        "up-shift: day close above 100.90",
      ]);
    },
  );
  it(
    "next shifts of longer rungs are lighter lines with their rung's name; out of sight only the own one is " +
      "told at the edge",
    () => {
      const picture = (price: number): Picture => ({
        pyramid: buildPyramid(series),
        market,
        timeframe: { count: 1, unit: "day" },
        calendar,
        future,
        marks: [],
        scenarios: [],
        selected: [],
        unfinished: false,
        nextShift: { direction: "up", price, time: 3 * DAY },
        longerShifts: [{ rung: "P1W", direction: "down", price: price - 0.8, time: 3 * DAY }],
      });
      const texts = (price: number) =>
        layOut(picture(price), makeScale({ from: 0, to: 60, bottom: 99, top: 101 }, plot)).marks.flatMap((shape) =>
          shape.kind === "text" ? [shape.text] : [],
        );
      expect(texts(100.4).sort()).toEqual(["down-shift: week close below 99.60", "up-shift: day close above 100.40"]);
      expect(texts(105)).toEqual(["\u2191 up-shift: day close above 105.00"]);
      const lines = layOut(picture(100.4), makeScale({ from: 0, to: 60, bottom: 99, top: 101 }, plot)).marks.filter(
        (shape) => shape.kind === "path" && shape.stroke === "slate",
      );
      expect(
        lines.flatMap((shape) => (shape.kind === "path" && shape.width !== undefined ? [shape.width] : [])).sort(),
      ).toEqual([1, 1.4]);
    },
  );
  it("a channel draws two parallels and a line between, straight in bars", () => {
    const [a, b] = anchors(2);
    const channel = made("channel", [a, b, { time: a.time, price: a.price + 0.5 }], {});
    const [lines] = drawn(channel).filter((shape) => shape.kind === "path");
    const [first, second] = lines.kind === "path" ? lines.paths : [];
    expect(second[1] - first[1]).toBeCloseTo(second[3] - first[3], 6);
  });
  it("levels out of sight are named at the edges, the nearest ones, with their price and distance", () => {
    const level = (price: number, label: string) => {
      const mark = made("level", [{ time: series.time[5], price }], { label });
      return {
        mark: { ...mark, id: label },
        life: {
          status: "fresh",
          dead: false,
          events: [],
          state: { band: { side: "demand", bottom: price, top: price, leave: 0 }, life: {} },
        },
      };
    };
    const marks = [
      level(104, "shelf"),
      level(103, "ledge"),
      level(110, "far"),
      level(120, "farther"),
      level(90, "floor"),
    ];
    const names = drawn(marks[0].mark, marks as never).flatMap((shape) =>
      shape.kind === "text" && shape.baseline === "middle" ? [shape.text] : [],
    );
    const close = series.close[series.length - 1];
    const off = (price: number) =>
      `${price > close ? "+" : ""}${(((price - close) / close) * 100).toFixed(1).replace("-", "\u2212")} %`;
    expect(names).toEqual([
      `\u2191 103.00 ledge, ${off(103)}`,
      `\u2191 104.00 shelf, ${off(104)}`,
      `\u2191 110.00 far, ${off(110)}`,
      `\u2193 90.00 floor, ${off(90)}`,
    ]);
  });
  it("an empty market is drawn empty, not broken", () => {
    const picture: Picture = {
      pyramid: buildPyramid(fromBars([])),
      market,
      timeframe: { count: 1, unit: "day" },
      calendar,
      future: [],
      marks: [],
      scenarios: [],
      selected: [],
      unfinished: false,
    };
    expect(layOut(picture, makeScale({ from: 0, to: 10, bottom: 0, top: 1 }, plot)).tags).toEqual([]);
  });
});
