import { describe, expect, it } from "vitest";
import type { Mark } from "#core/marks/kind";
import { followMark } from "#core/marks/follow";
import { contextOf, day, mark, market, calendar } from "#core/testing/marks";
import { days } from "#core/testing/openData";
import type { Picture } from "../../chart/picture.ts";
import { buildPyramid } from "../../chart/pyramid.ts";
import { makeScale } from "../../chart/scale.ts";
import { MarkReach } from "./markReach.ts";

const series = days(...Array.from({ length: 20 }, (): [number, number, number, number] => [10, 12, 8, 11]));
const scale = makeScale({ from: -0.5, to: 24.5, bottom: 0, top: 20 }, { left: 0, top: 0, width: 500, height: 400 });

function reach(marks: Mark[], selected: string[] = []): MarkReach {
  const picture: Picture = {
    pyramid: buildPyramid(series),
    market,
    timeframe: { count: 1, unit: "day" },
    calendar,
    future: Array.from({ length: 5 }, (_, i) => day(20 + i)),
    marks: marks.map((one) => ({ mark: one, life: followMark(one, contextOf(series)) })),
    scenarios: [],
    selected,
    unfinished: false,
  };
  return new MarkReach(picture, scale);
}
const level = (id: string, at: number, price: number, more: Partial<Mark> = {}): Mark => ({
  ...mark("level", [[at, price]]),
  id,
  ...more,
});
/** Middle of bar `n` is at n * 20 + 10; 20 pixels to a price. */
const point = (n: number, price: number) => ({ x: n * 20 + 10, y: 400 - price * 20 });

describe("marks under the pointer", () => {
  it("the topmost one within reach is meant", () => {
    const marks = reach([level("a", 2, 5), level("b", 2, 5), level("c", 2, 15)]);
    expect(marks.markAt({ ...point(8, 5), y: 305 }, 6)).toBe("b");
    expect(marks.markAt(point(8, 9), 6)).toBeUndefined();
  });
  it("a handle is held of the one that is chosen, not of a locked one, nor of several", () => {
    const near = { x: point(2, 5).x + 5, y: point(2, 5).y };
    expect(reach([level("a", 2, 5)], ["a"]).gripAt(near, 6)).toMatchObject({ anchor: 0 });
    expect(reach([level("a", 2, 5)]).gripAt(near, 6)).toBeUndefined();
    expect(reach([level("a", 2, 5, { locked: true })], ["a"]).gripAt(near, 6)).toBeUndefined();
    expect(reach([level("a", 2, 5), level("b", 3, 6)], ["a", "b"]).gripAt(near, 6)).toBeUndefined();
  });
  it("what is dragged snaps to a price of a bar nearby", () => {
    const one = mark("trendLine", [
      [2, 5],
      [6, 6],
    ]);
    const { anchors } = reach([one], ["1"]).dragged(
      { mark: one, anchor: 1 },
      { x: point(9, 12).x + 4, y: point(9, 12).y + 5 },
    );
    expect(anchors).toEqual([one.anchors[0], { time: day(9), price: 12 }]);
  });
  it("a box catches those with an anchor in it, whichever way it was drawn", () => {
    const marks = reach([level("a", 2, 5), level("b", 5, 6), level("c", 12, 5)]);
    expect(marks.within(point(6, 7), point(1, 4))).toEqual(["a", "b"]);
  });
});

describe("what is chosen is moved", () => {
  it("by ticks and by bars, into the room ahead and no further; a locked one stays", () => {
    const marks = reach([level("a", 2, 5), level("b", 18, 6), level("c", 3, 7, { locked: true })], ["a", "b", "c"]);
    expect(marks.nudged(-3, 0).map(({ id, anchors: [{ price }] }) => [id, price])).toEqual([
      ["a", 4.97],
      ["b", 5.97],
    ]);
    expect(marks.nudged(0, 4).map(({ anchors: [{ time }] }) => time)).toEqual([day(6), day(22)]);
    expect(marks.nudged(0, 40).map(({ anchors: [{ time }] }) => time)).toEqual([day(24), day(24)]);
  });
});
