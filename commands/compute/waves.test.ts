import { describe, expect, it } from "vitest";
import { SP500_FILE } from "#core/testing/openData";
import { compute } from "./compute.ts";

interface Node {
  pattern: string;
  wave?: string;
  degree: string;
  complete: boolean;
  start: { time: string; price: number };
  end?: { time: string; price: number };
  children: Node[];
}
interface Row {
  score: number;
  parts: Record<string, number>;
  root: Node;
  rules: { rule: string; holds: boolean; numbers: Record<string, number>; inside?: string }[];
  killPrice?: number;
  killSide?: string;
  projections: { wave: string; ratio: number; price: number; basis: string; degree: string }[];
}
const waves = (params: object = {}, rest: object = {}) =>
  compute({ bars: { file: SP500_FILE }, asOf: "2005-12-30", ...rest, ask: [{ quantity: "waves", ...params }] })
    .answers[0].values as unknown as Row[];

describe("waves, asked as a command", () => {
  const rows = waves({ best: 4, degrees: 3 });
  it("come best first, each with its parts, keeping every rule", () => {
    expect(rows).toHaveLength(4);
    expect(rows.map(({ score }) => score)).toEqual(rows.map(({ score }) => score).sort((a, b) => b - a));
    for (const { score, parts, rules } of rows) {
      expect(Object.values(parts).reduce((sum, part) => sum + part, 0)).toBeCloseTo(score, 6);
      expect(rules.every(({ holds }) => holds)).toBe(true);
    }
  });
  it("children follow each other from the start on, one degree lower, the last one open while the root is", () => {
    const walk = ({ children, complete, start, end, degree }: Node, root: boolean) => {
      if (children.length === 0) return;
      expect(children[0].start).toEqual(start);
      children.slice(1).forEach((child, i) => expect(child.start).toEqual(children[i].end));
      if (complete) expect(children.at(-1)?.end).toEqual(end);
      else {
        expect(children.at(-1)?.end).toBeUndefined();
        expect(end).toBeUndefined();
      }
      if (root) expect(children.every((child) => child.degree === "Minor" && degree === "Intermediate")).toBe(true);
      children.forEach((child) => walk(child, false));
    };
    for (const { root } of rows) {
      walk(root, true);
      if (!root.complete) expect(root.wave).toBe(root.children.at(-1)?.wave);
    }
  });
  it("a pinned turn keeps its label, at its degree; one that fits nowhere gives none", () => {
    const { root } = rows[0];
    const second = root.children[1];
    const pinned = waves({
      best: 3,
      pinned: [{ time: second.start.time, label: root.children[0].wave, degree: "Intermediate" }],
    });
    expect(pinned.length).toBeGreaterThan(0);
    for (const one of pinned)
      expect(
        one.root.children.some(({ wave, end }) => wave === root.children[0].wave && end?.time === second.start.time),
      ).toBe(true);
    expect(waves({ best: 3, pinned: [{ time: root.start.time, label: "E", degree: "Intermediate" }] })).toEqual([]);
  });
  it("as of a day it is the count of the bars up to it", () =>
    expect(waves({ best: 2 }, { asOf: "2003-06-30" })).not.toEqual(waves({ best: 2 })));
  it.each<[object, RegExp]>([
    [{ degrees: 9 }, /"degrees" is at most 5/],
    [{ best: 1000 }, /"best" at most 50/],
    [{ swings: 3 }, /"swings" from 4 to 400/],
    [{ k: -1 }, /"k" must be/],
    [{ pinned: "here" }, /"pinned" must be a list/],
    [{ pinned: [{ time: "2003-03-12", label: "nine" }] }, /label" must be one of/],
    [{ pinned: [{ time: "2003-03-12", label: "3", degree: "Cycle" }] }, /degree" must be Intermediate or one below/],
    [{ degree: "Huge" }, /must be one of/],
  ])("%j is refused in one sentence", (params, words) => expect(() => waves(params)).toThrow(words));
});

describe("a projection, asked as a command", () => {
  const point = (time: string, price: number) => ({ time, price });
  it("lays the leg off from the third point", () => {
    const ask = {
      quantity: "projection",
      from: point("2020-01-01", 100),
      to: point("2020-02-01", 160),
      origin: point("2020-03-01", 130),
    };
    expect(compute({ ask: [ask] }).answers[0].values).toEqual(
      [0.618, 1, 1.618, 2.618].map((ratio) => ({ ratio, price: 130 + ratio * 60 })),
    );
    expect(compute({ ask: [{ ...ask, ratios: [0, -1] }] }).answers[0].values.map(({ price }) => price)).toEqual([
      130, 70,
    ]);
  });
});
