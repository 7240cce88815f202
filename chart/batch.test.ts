import { describe, expect, it } from "vitest";
import { batch } from "./batch.ts";
import { separateLabels } from "./labels.ts";
import type { PathShape, Shape, TextShape } from "./shapes.ts";

const plot = { left: 0, top: 0, width: 100, height: 100 };
const line = (y: number, more: Partial<PathShape> = {}): Shape => ({
  kind: "path",
  paths: [[0, y, 100, y]],
  stroke: "slate",
  width: 1,
  ...more,
});
const text = (x: number, y: number, more: Partial<TextShape> = {}): TextShape => ({
  kind: "text",
  x,
  y,
  text: "(5)",
  color: "plum",
  ...more,
});

describe("shapes of a frame", () => {
  it("of one style become one, those of another do not", () => {
    const out = batch([line(10), line(20, { dash: [2, 2] }), line(30), line(40, { stroke: "plum" })]);
    expect(out.map((shape) => shape.kind === "path" && shape.paths.map(([, y]) => y))).toEqual([[10, 30], [20], [40]]);
  });
  it("have their texts in front", () => {
    expect(batch([text(5, 5), line(50)]).map(({ kind }) => kind)).toEqual(["path", "text"]);
  });
  it("leave those they are made of as they were", () => {
    const first = line(10) as PathShape;
    batch([first, line(30)]);
    expect(first.paths).toHaveLength(1);
  });
});

describe("labels of many marks", () => {
  it("at pivots that would cover each other: the first stays, the others are left out", () => {
    const wave = (x: number) => text(x, 50, { yields: true });
    expect(
      separateLabels([wave(20), wave(22), wave(60)], plot, 50).map((shape) => shape.kind === "text" && shape.x),
    ).toEqual([20, 60]);
    // What must be read is never left out for them.
    expect(separateLabels([wave(20), text(22, 50)], plot, 50).map((shape) => shape.kind === "text" && shape.x)).toEqual(
      [22],
    );
  });
  it("are no wall: the forty nearest to the last price are placed", () => {
    const tall = { left: 0, top: 0, width: 100, height: 4000 };
    const labels = Array.from({ length: 100 }, (_, i) => text(50, 20 + i * 30, { movable: true }));
    const kept = separateLabels(labels, tall, 20).map((shape) => shape.kind === "text" && shape.y);
    expect(kept).toEqual(labels.slice(0, 40).map(({ y }) => y));
  });
});
