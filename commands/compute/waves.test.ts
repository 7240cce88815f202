import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { SP500_FILE } from "#core/testing/openData";
import { DEGREES, type Degree } from "#core/waves/degrees";
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

describe("counts by spans", () => {
  interface Row {
    time: string;
    spans: Span[];
  }
  interface Span {
    from: string;
    to: string;
    degree: string;
    none: number;
    why?: string;
    counts: {
      odds: number;
      root: { pattern: string; start: Point; children: { end?: Point }[] };
      killPrice: number;
      killSide: string;
      also: { pattern: string; odds: number }[];
      parts?: number;
    }[];
  }
  interface Point {
    time: string;
    price: number;
  }
  const lines = readFileSync(SP500_FILE, "utf8").trim().split("\n");
  const cells = lines.slice(1, 642).map((line) => line.split(",").slice(0, 5));
  const fileOf = (name: string, unit: number) => {
    const path = join(mkdtempSync("/tmp/compass-spans-"), `${name}.csv`);
    const rows = cells.map(([date, ...prices]) => [date, ...prices.map((price) => Number(price) * unit)].join(","));
    writeFileSync(path, ["date,open,high,low,close", ...rows].join("\n"));
    return path;
  };
  const file = fileOf("days", 1);
  const ask = (request: object, more: object = {}) =>
    compute({ bars: { file }, ask: [{ quantity: "wavesBySpan", ...request }], ...more }).answers[0]
      .values as unknown as Row[];
  const rows = ask({ last: 6 });

  it("are of the whole first, then of ever later beginnings, of degrees that do not rise (open data)", () => {
    expect(rows.map(({ time }) => time)).toEqual(cells.slice(-6).map(([date]) => date));
    for (const { time, spans } of rows) {
      expect(spans[0].from).toBe(cells[0][0]);
      expect(spans.every(({ to }) => to === time)).toBe(true);
      const begun = spans.map(({ from }) => from);
      expect(begun).toEqual([...new Set(begun)].sort());
      expect(spans.map(({ degree }) => DEGREES.indexOf(degree as Degree))).toEqual(
        spans.map(({ degree }) => DEGREES.indexOf(degree as Degree)).sort((a, b) => a - b),
      );
    }
  });

  it("have odds that fall and add up, pivots of their own, and a price that ends them and has not yet", () => {
    for (const { time, spans } of rows)
      for (const { counts, none } of spans) {
        const odds = counts.map((count) => count.odds);
        expect(odds).toEqual([...odds].sort((a, b) => b - a));
        expect(odds.reduce((sum, one) => sum + one, none)).toBeCloseTo(1, 9);
        const pivots = counts.map(({ root }) => [root.start, ...root.children.flatMap(({ end }) => end ?? [])]);
        expect(new Set(pivots.map((list) => JSON.stringify(list))).size).toBe(counts.length);
        counts.forEach(({ killPrice, killSide, parts, also, odds: own }, n) => {
          const last = pivots[n][pivots[n].length - 1].time;
          const after = cells.filter(([date]) => date >= last && date <= time);
          for (const [, , high, low] of after)
            expect(killSide === "below" ? Number(low) >= killPrice : Number(high) <= killPrice).toBe(true);
          expect(also.reduce((sum, twin) => sum + twin.odds, 0)).toBeLessThanOrEqual(own + 1e-12);
          const next = counts.at(n + 1);
          if (parts !== undefined) expect([killPrice, next?.killPrice]).toContain(parts);
          if (!next) expect(parts).toBeUndefined();
        });
      }
  });

  it("cover the view, or say why none does", () => {
    for (const { spans, time } of rows) {
      const [{ counts, why }] = spans;
      const start = cells.findIndex(([date]) => date === counts[0].root.start.time);
      if (why === undefined) expect(start).toBeLessThanOrEqual(cells.findIndex(([date]) => date === time) / 5);
      else expect(why).toMatch(/\.$/);
    }
  });

  it("are what a file that ends there gives, and scale with the unit of prices", () => {
    const [, before] = cells.slice(-3);
    expect(ask({}, { asOf: before[0] })).toEqual(rows.slice(-2, -1));
    const [large] = compute({ bars: { file: fileOf("large", 1024) }, ask: [{ quantity: "wavesBySpan" }] }).answers[0]
      .values as unknown as Row[];
    const [last] = rows.slice(-1);
    const told = ({ spans }: Row, unit: number) =>
      spans.map(({ counts }) => counts.map(({ root, killPrice }) => [root.pattern, killPrice / unit]));
    expect(told(large, 1024)).toEqual(told(last, 1));
    large.spans.forEach(({ counts }, s) =>
      counts.forEach(({ odds }, n) => expect(odds).toBeCloseTo(last.spans[s].counts[n].odds, 9)),
    );
  });

  it.each([
    [{ spans: 10 }, /"spans" must be a whole number from 1 to 9/],
    [{ last: 501 }, /"last" must be a whole number from 1 to 500/],
    [{ degrees: 6 }, /"degrees" must be a whole number from 1 to 5/],
  ])("%o is a fault", (request, sentence) => expect(() => ask(request)).toThrow(sentence));
});
