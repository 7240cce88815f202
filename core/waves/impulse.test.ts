import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readImpulse } from "#core/waves/impulse";
import type { Pivot } from "#core/waves/wave";

const pivots = (...prices: number[]): Pivot[] => prices.map((price, i) => ({ time: i * 1000, price }));
const broken = (...prices: number[]) =>
  readImpulse(pivots(...prices))
    .rules.filter(({ holds }) => !holds)
    .map(({ rule }) => rule);

// Rules: R. N. Elliott, The Wave Principle (1938); Frost and Prechter, Elliott Wave Principle (1978), chapter 1,
// "Essential design" and "Rules"; from memory, without page.
const RULES = {
  two: "wave 2 does not pass the start of wave 1",
  three: "wave 3 passes the end of wave 1",
  shortest: "wave 3 is not the shortest of 1, 3 and 5",
  four: "wave 4 does not enter the territory of wave 1",
  legs: "each wave moves against the one before",
  order: "pivots follow each other in time",
};

describe("the rules of an impulse", () => {
  it("five waves that keep every rule break none", () => expect(broken(100, 120, 110, 150, 135, 160)).toEqual([]));
  it("wave 2 may give back the whole of wave 1 but not a tick more", () => {
    expect(broken(100, 120, 100)).toEqual([]);
    expect(broken(100, 120, 99.99)).toEqual([RULES.two]);
  });
  it("wave 3 must pass the end of wave 1", () => {
    expect(broken(100, 120, 110, 120)).toEqual([RULES.three]);
    expect(broken(100, 120, 110, 120.01)).toEqual([]);
  });
  it("wave 4 may come back to the end of wave 1 but not into its territory", () => {
    expect(broken(100, 120, 110, 150, 120)).toEqual([]);
    expect(broken(100, 120, 110, 150, 119.99)).toEqual([RULES.four]);
  });
  it("wave 3 may be shorter than one of 1 and 5, never than both", () => {
    expect(broken(100, 130, 110, 135, 132, 150)).toEqual([]);
    expect(broken(100, 130, 110, 135, 132, 160)).toEqual([RULES.shortest]);
    expect(broken(100, 130, 110, 135, 132, 157)).toEqual([]);
  });
  it("on the log scale lengths are ratios, so another wave can be the shortest", () => {
    // 10 to 20 doubles, 18 to 40 more than doubles, 30 to 55 does not: but in plain prices 3 is shorter than 5.
    const prices = [10, 36, 18, 40, 37, 64];
    expect(readImpulse(pivots(...prices)).rules.find(({ rule }) => rule === RULES.shortest)?.holds).toBe(false);
    expect(readImpulse(pivots(...prices), "log").rules.find(({ rule }) => rule === RULES.shortest)?.holds).toBe(true);
  });
  it("a label that stands still or goes on the same way is named", () => {
    expect(broken(100, 120, 125)).toEqual([RULES.legs]);
    const late = readImpulse([...pivots(100, 120), { time: 500, price: 110 }]);
    expect(late.rules[0]).toMatchObject({ rule: RULES.order, holds: false, numbers: { wave: 2 } });
  });
  it("carries the numbers that decided", () => {
    expect(readImpulse(pivots(100, 120, 95)).rules).toMatchObject([
      { rule: RULES.two, holds: false, numbers: { endOf2: 95, startOf1: 100 }, margin: -5 },
    ]);
  });
});

describe("what ends a count", () => {
  const kills = (...prices: number[]) =>
    readImpulse(pivots(...prices)).statements.map(({ killPrice, killSide }) => [killPrice, killSide]);
  it("wave 2 running dies below the start", () => expect(kills(100, 120)).toEqual([[100, "below"]]));
  it("an ended wave 2 dies at its end, a running one at the start of 1", () =>
    expect(kills(100, 120, 110)).toEqual([
      [110, "below"],
      [100, "below"],
    ]));
  it("wave 4 running dies in the territory of wave 1", () =>
    expect(kills(100, 120, 110, 150)).toEqual([[120, "below"]]));
  it("with a short third wave the fifth has a cap as well", () =>
    expect(kills(100, 130, 110, 135, 132)).toEqual([
      [132, "below"],
      [130, "below"],
      [157, "above"],
    ]));
  it("in a decline every side is mirrored", () =>
    expect(kills(100, 80, 90)).toEqual([
      [90, "above"],
      [100, "above"],
    ]));
});

// Ratios: Frost and Prechter, chapter 4, "Ratio analysis"; from memory, without page.
describe("projections of the wave in progress", () => {
  const targets = (scale: "arithmetic" | "log", ...prices: number[]) =>
    readImpulse(pivots(...prices), scale).projections;
  it("wave 2 gives back shares of wave 1", () =>
    expect(targets("arithmetic", 100, 200).map(({ price }) => price)).toEqual(
      [150, 138.2, 121.4].map((price) => expect.closeTo(price, 9)),
    ));
  it("wave 3 is multiples of wave 1 from the end of 2", () =>
    expect(targets("arithmetic", 100, 200, 150).map(({ price }) => price)).toEqual(
      [250, 311.8, 411.8, 573.6].map((price) => expect.closeTo(price, 9)),
    ));
  it("wave 4 gives back shares of wave 3", () =>
    expect(targets("arithmetic", 100, 200, 150, 350).map(({ price }) => price)).toEqual(
      [302.8, 273.6, 250].map((price) => expect.closeTo(price, 9)),
    ));
  it("wave 5 names every basis once", () => {
    const found = targets("arithmetic", 100, 200, 150, 350, 270);
    expect(found.find(({ basis }) => basis.startsWith("\u00d7 wave 1,"))?.price).toBeCloseTo(370, 9);
    expect(found.filter(({ basis }) => basis.startsWith("\u00d7 waves 1 to 3")).map(({ price }) => price)).toEqual(
      [365.5, 424.5, 520, 674.5].map((price) => expect.closeTo(price, 9)),
    );
    expect(
      found.filter(({ basis }) => basis.startsWith("of the whole")).map(({ price }) => Math.round(price * 10) / 10),
    ).toEqual([375.1, 545]);
  });
  it("on the log scale equal ratios are equal lengths", () =>
    expect(targets("log", 100, 200, 150)[0].price).toBeCloseTo(300, 9));
});

describe("laws of the reading", () => {
  const prices = fc.array(fc.integer({ min: 1, max: 500 }), { minLength: 1, maxLength: 6 });
  it("prices times c, or turned upside down, keep every verdict", () => {
    fc.assert(
      fc.property(prices, fc.integer({ min: 2, max: 9 }), (drawn, c) => {
        const verdicts = (list: number[]) =>
          readImpulse(pivots(...list)).rules.map(({ rule, holds }) => `${rule} ${holds}`);
        expect(verdicts(drawn.map((price) => price * c))).toEqual(verdicts(drawn));
        // Two equal first pivots have no direction to mirror.
        if (drawn.length < 2 || drawn[0] !== drawn[1])
          expect(verdicts(drawn.map((price) => 1000 - price))).toEqual(verdicts(drawn));
      }),
    );
  });
});
