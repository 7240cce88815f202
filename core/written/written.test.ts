import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ConditionFault } from "#core/conditions/fields";
import { live, mark, market } from "#core/testing/marks";
import { days } from "#core/testing/openData";
import { aWritten, NOW } from "#core/testing/written";
import { termsOf } from "#core/scenarios/terms";
import type { Mark } from "#core/marks/kind";
import type { Series } from "#core/series/series";
import type { Scenario } from "#core/scenarios/scenario";
import { writtenOf } from "#core/written/former";
import { marksFollowed, valuesOf } from "#core/written/followMarks";
import { contractOf, frozenOf, renewed } from "#core/written/ground";
import { partsOf } from "#core/written/parts";
import { termsOfFrozen, termsOfWritten } from "#core/written/read";
import { readWrittenTerms } from "#core/written/readWritten";
import { absoluteTerms, relativeTerms } from "#core/written/relative";
import { subjectsOf } from "#core/written/subject";
import type { Followed } from "#core/written/written";

const livesOf = (marks: readonly Mark[], series: Series) =>
  marks.map((one) => ({ mark: one, life: live(one, series) }));

const former: Scenario = {
  id: "00000000-0000-4000-8000-000000000002",
  title: "Old",
  premise: "",
  direction: "short",
  trigger: { event: "closeBelow", price: 99, timeframe: "PT1H" },
  entry: { order: "stop", price: 98.5 },
  stop: 101,
  targets: [
    { price: 96, share: 0.4 },
    { price: 94, share: 0.6 },
  ],
  invalidation: 102,
  expiry: NOW + 5_000_000,
  restsOn: "c",
};

describe("a scenario as it is written", () => {
  it("of the first format is followed by the terms it always was followed by, written and frozen", () => {
    expect(termsOfWritten(writtenOf(former))).toEqual(termsOf(former));
    expect(termsOfFrozen(former)).toEqual(termsOf(former));
    expect(termsOfFrozen(frozenOf(writtenOf(former)))).toEqual(termsOf(former));
    expect(writtenOf(former).restsOn).toBe("c");
  });
  it("frozen says nothing of the desk: no marks, no waivers, no count", () => {
    const written = {
      ...aWritten({}, { stop: { follows: "mark-7", part: "at level", value: 98 } }),
      restsOn: "count-1",
      waived: { bearing: "my reason" },
    };
    const text = JSON.stringify(frozenOf(written));
    for (const own of ["mark-7", "count-1", "my reason", "follows"]) expect(text).not.toContain(own);
    expect(frozenOf(written).terms).toMatchObject({ stop: 98, entry: { order: "limit", price: 100 } });
  });
  it("with a second order is one of two legs, each with its share of the risk", () => {
    const [first] = aWritten().terms.orders;
    const added = { ...first, risk: 0.5, if: [], after: { leg: 1, event: "entered" as const } };
    const { terms } = aWritten({ orders: [{ ...first, risk: 0.5 }, added] });
    expect(termsOfWritten({ terms })).toMatchObject({ legs: [{ risk: 0.5 }, { risk: 0.5, after: { leg: 1 } }] });
    expect(() => readWrittenTerms({ ...terms, orders: [first, added] })).toThrow(/risks .* sum to 1.5/);
  });
});

describe("prices that follow marks", () => {
  const series = days([100, 101, 99, 100], [100, 102, 99, 101], [101, 103, 100, 102], [102, 104, 101, 103]);
  const zone = (near: number, far: number) => {
    const anchors: [number, number][] = [
      [1, near],
      [2, far],
    ];
    return { ...mark("zone", anchors, { side: "demand", own: true }), id: "z" };
  };
  const level = { ...mark("level", [[1, 105]]), id: "l" };
  const follow = (part: string, value: Followed["value"]): Followed => ({ follows: "z", part, value });
  const [at] = livesOf([zone(101, 99)], series);
  it("names the parts of a mark so that they stay the same while it moves", () => {
    const names = (near: number, far: number) =>
      livesOf([zone(near, far)], series).flatMap((one) => partsOf(one.mark, one.life).map(({ part }) => part));
    expect(names(101, 99)).toEqual(["top demand", "bottom demand", "middle demand", "band demand"]);
    expect(names(100, 98)).toEqual(names(101, 99));
    expect(partsOf(at.mark, at.life).map(({ value }) => value)).toEqual([101, 99, 100, [99, 101]]);
  });
  const grid = { tick: 0.5, decimals: 1 };
  it("say what the mark says now, and keep what it last said when it is gone", () => {
    const written = aWritten(
      { if: [{ when: { on: "touch", band: follow("band demand", [99, 101]) } }], wrong: follow("bottom demand", 99) },
      { entry: { order: "limit", price: follow("top demand", 101) } },
    );
    expect(marksFollowed(written)).toEqual(["z"]);
    const [moved] = livesOf([zone(100.5, 98.5)], series);
    const now = renewed(
      written,
      valuesOf((id) => (id === "z" ? moved : undefined), grid),
    );
    expect(now.lost).toEqual([]);
    expect(contractOf(now.written.terms)).toMatchObject({
      if: [{ when: { on: "touch", band: [98.5, 100.5] } }],
      entry: { price: 100.5 },
      wrong: 98.5,
    });
    const gone = renewed(written, () => undefined);
    // Orders stand on ticks: what a mark says between two of them is the nearer one.
    const between = renewed(
      written,
      valuesOf((id) => (id === "z" ? moved : undefined), { tick: 1, decimals: 0 }),
    );
    expect(contractOf(between.written.terms)).toMatchObject({ entry: { price: 101 }, wrong: 99 });
    expect(gone.lost.map(({ path }) => path)).toEqual(["if[0].when.band", "orders[0].entry.price", "wrong"]);
    // Nothing has changed: it is the same object, and nothing is drawn anew.
    expect(gone.written).toBe(written);
    const dead = renewed(
      written,
      valuesOf(() => ({ ...at, life: { ...at.life, dead: true } }), grid),
    );
    expect(dead.lost).toHaveLength(3);
  });
  it("subjects are nearest first: bands with both edges, prices alone, areas; dead and hidden marks are none", () => {
    const lived = livesOf([zone(101, 99), level, { ...level, id: "h", hidden: true }], series);
    const subjects = subjectsOf(lived, [{ bottom: 108, top: 109, rungs: ["P1D"] }], 103, market);
    expect(subjects.map(({ name }) => name)).toEqual([
      "Day demand 99.00 to 101.00",
      "Day level 105.00",
      "Area 108.00 to 109.00",
    ]);
    expect(subjects[0]).toMatchObject({ bottom: 99, top: 101, price: { part: "top demand" }, mark: "z" });
    const dead = lived.map((one) => ({ ...one, life: { ...one.life, dead: true } }));
    expect(subjectsOf(dead, [], 103, market)).toEqual([]);
  });
});

describe("terms from elsewhere", () => {
  it("are read or refused with a sentence, never otherwise", () => {
    const { terms } = aWritten();
    let refused = 0;
    fc.assert(
      fc.property(fc.constantFrom(...Object.keys(terms)), fc.jsonValue(), (field, value) => {
        try {
          readWrittenTerms({ ...terms, [field]: value });
        } catch (error) {
          refused++;
          expect(error).toBeInstanceOf(ConditionFault);
        }
      }),
      { numRuns: 1000, seed: 5 },
    );
    expect(refused).toBeGreaterThan(500);
  });
});

describe("a sentence that is kept", () => {
  it("has its distances in ATR, and comes back at another price with the same shape", () => {
    const { terms } = aWritten({
      if: [{ when: { on: "leave", band: [99, 101], by: 4, side: "above" } }],
      unless: [{ on: "touch", price: { follows: "x", part: "at level", value: 110 } }],
    });
    const kept = relativeTerms(terms, { close: 100, atr: 2 });
    expect(kept).toMatchObject({
      if: [{ when: { band: [-0.5, 0.5], by: 2 } }],
      unless: [{ price: 5 }],
      orders: [
        { entry: { price: 0 }, stop: -1, targets: [{ price: 2 }, { price: 3 }], breakEven: { after: "target" } },
      ],
      wrong: -1.5,
    });
    expect(absoluteTerms(kept, { close: 100, atr: 2 }, (price) => price)).toEqual({
      ...terms,
      unless: [{ on: "touch", price: 110 }],
    });
    const elsewhere = absoluteTerms(kept, { close: 10, atr: 0.5 }, (price) => Math.round(price * 100) / 100);
    expect(elsewhere).toMatchObject({ orders: [{ stop: 9.5 }], wrong: 9.25, if: [{ when: { by: 1 } }] });
  });
});
