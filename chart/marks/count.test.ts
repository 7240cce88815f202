import { describe, expect, it } from "vitest";
import { labelInside } from "#core/marks/countTree";
import type { CountProps } from "#core/marks/countProps";
import { followMark } from "#core/marks/follow";
import type { Mark } from "#core/marks/kind";
import { days } from "#core/testing/openData";
import { contextOf, day, mark, market } from "#core/testing/marks";
import { separateLabels } from "../labels.ts";
import { makeScale } from "../scale.ts";
import type { Shape, TextShape } from "../shapes.ts";
import { drawCount } from "./count.ts";
import type { DrawContext } from "./drawing.ts";

type Counted = Mark<CountProps>;
const plot = { left: 0, top: 0, width: 800, height: 600 };
const context = (selected: boolean, bottom = 90, top = 170): DrawContext => ({
  scale: makeScale({ from: 0, to: 80, bottom, top }, plot),
  market,
  indexOf: (time) => (time - day(0)) / 86_400_000,
  last: 55,
  close: 140,
  atr: 4,
  selected,
  origin: "",
  hatchApart: 7,
});
const counted = (prices: number[], props: Record<string, unknown> = {}) =>
  mark(
    "count",
    prices.map((price, i) => [i * 10, price]),
    props,
  ) as unknown as Counted;
const lifeOf = (one: Counted, series = days()) =>
  followMark(one as unknown as Mark, contextOf(series)) as Parameters<typeof drawCount>[1];
const drawn = (one: Counted, selected = false, view = context(selected)) => drawCount(one, lifeOf(one), view);
const texts = (shapes: readonly Shape[]) => shapes.filter((shape): shape is TextShape => shape.kind === "text");
const labels = (shapes: readonly Shape[]) =>
  texts(shapes)
    .filter(({ climbs }) => climbs)
    .map(({ text }) => text);

const root = counted([100, 120, 110, 150, 135]);
const nested = labelInside(root, [2], "impulse", [
  { time: day(22), price: 120 },
  { time: day(24), price: 115 },
  { time: day(26), price: 140 },
  { time: day(28), price: 133 },
]);

describe("the drawing of a count", () => {
  it("writes each pivot as its degree does; inner labels stand nearer to the candle", () => {
    expect(labels(drawn(root))).toEqual(["(0)", "(1)", "(2)", "(3)", "(4)"]);
    const own = texts(drawn(nested)).filter(({ text }) => text === "5" || text === "(3)");
    expect(own.map(({ text }) => text)).toEqual(["5", "(3)"]);
    // A high: further away is higher up.
    expect(own[1].y).toBeLessThan(own[0].y);
    expect(own[1].size).toBeGreaterThan(own[0].size ?? 0);
  });
  it("shows as many degrees as are wanted", () =>
    expect(labels(drawn({ ...nested, props: { ...nested.props, shown: 1 } }))).toEqual([
      "(0)",
      "(1)",
      "(2)",
      "(3)",
      "(4)",
    ]));
  it("at the plot's edge the larger degree stays", () =>
    expect(
      labels(drawn(nested, false, context(false, 90, 152))).filter((text) => text === "5" || text === "(3)"),
    ).toEqual(["(3)"]));
  it("a broken rule is a cross at its pivot", () =>
    expect(labels(drawn(counted([100, 120, 95])))).toEqual(["(0)", "(1)", "(2) \u00d7"]));
  it("says where the whole dies; chosen, where each inner statement does, too", () => {
    const running = labelInside(counted([100, 120, 110]), [2], "impulse", [
      { time: day(25), price: 130 },
      { time: day(30), price: 122 },
    ]);
    const dies = (selected: boolean) =>
      texts(drawn(running, selected))
        .map(({ text }) => text)
        .filter((text) => text.includes("dies"));
    expect(dies(false)).toEqual(["\u00d7 count dies below 110.00"]);
    expect(dies(true)).toHaveLength(2);
  });
  it("targets stand in the future's room; chosen, with what they are from here, and where they agree", () => {
    const target = (selected: boolean) =>
      texts(drawn(root, selected)).find(({ text }) => text.includes("155.00"))?.text;
    expect(target(false)).toBe("(5): 1 \u00d7 1  155.00");
    expect(target(true)).toMatch(/^\(5\): 1 \u00d7 1 {2}155\.00 {2}10\.7 %( {2}3\.0 R)?$/);
    expect(
      drawn(root, true).some((shape) => shape.kind === "path" && shape.stroke === "plum" && shape.dash !== undefined),
    ).toBe(true);
  });
  it("a fork and its count say the same thing once; labels at one pivot move out of each other's way", () => {
    const both = [...drawn(root), ...drawn({ ...root, id: "2" })];
    expect(texts(separateLabels(both, plot, 300)).filter(({ text }) => text === "(3)")).toHaveLength(1);
    const other = texts(
      separateLabels([...drawn(root), ...drawn(counted([100, 120, 110, 150, 135], { degree: "Minor" }))], plot, 300),
    ).filter(({ text }) => text === "(3)" || text === "3");
    expect(other).toHaveLength(2);
    expect(Math.abs(other[0].y - other[1].y)).toBeGreaterThan(10);
  });
  it("an alternate is dashed and says nothing until it is chosen; an archived one is not drawn", () => {
    const alternate = counted([100, 120, 110, 150, 135], { role: "alternate" });
    expect(drawn(alternate).some((shape) => shape.kind === "path" && shape.dash !== undefined)).toBe(true);
    expect(texts(drawn(alternate)).filter(({ text }) => text.includes("dies"))).toEqual([]);
    expect(texts(drawn(alternate, true)).filter(({ text }) => text.includes("dies"))).toHaveLength(1);
    const archived = counted([100, 120, 110], { role: "archived" });
    expect(drawn(archived)).toEqual([]);
    expect(drawn(archived, true).length).toBeGreaterThan(0);
  });
  it("a dead one is struck through in ink, without targets", () => {
    const one = counted([100, 120, 110]);
    const series = days(
      ...Array.from({ length: 22 }, (_, i): [number, number, number, number] =>
        i === 21 ? [112, 113, 109, 112] : [112, 113, 111, 112],
      ),
    );
    const shapes = drawCount(one, lifeOf(one, series), context(false));
    expect(shapes.at(-1)).toMatchObject({ kind: "path", stroke: "ink2", dash: [1, 3] });
    expect(shapes.every((shape) => (shape.kind === "text" ? shape.color === "ink3" : shape.stroke !== "plum"))).toBe(
      true,
    );
  });
});
