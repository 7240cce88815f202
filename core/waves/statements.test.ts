import { describe, expect, it } from "vitest";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import { isKilledBy, nestedStatements, statementsOf } from "#core/waves/statements";
import type { Wave } from "#core/waves/wave";

const wave = (pattern: Pattern, prices: readonly number[], inner: Record<number, Wave> = {}, from = 0): Wave => ({
  pattern,
  pivots: prices.map((price, i) => ({ time: from + i, price })),
  inner: PATTERNS[pattern].labels.map((_, i) => inner[i]),
});
const kills = (pattern: Pattern, ...prices: number[]) =>
  statementsOf(wave(pattern, prices)).map(({ statement, killPrice, killSide, asserted }) => [
    statement,
    killSide,
    killPrice,
    asserted,
  ]);

// Each bound follows from one published rule (Frost and Prechter, chapters 1 and 2); prices worked by hand.
describe("what ends each statement", () => {
  it("a finished fourth dies at another price than one that still runs", () =>
    expect(kills("impulse", 100, 120, 110, 150, 135)).toEqual([
      ["wave 4 has ended, wave 5 is running", "below", 135, true],
      ["wave 4 is still running", "below", 120, false],
    ]));
  it("of a price that was always above zero none dies at zero or below", () => {
    // The cap of a third that would have to stay short of what is below zero.
    const all = kills("impulse", 10, 4, 9, 2, 3);
    expect(all.length).toBeGreaterThan(0);
    for (const [, , price] of all) expect(price).toBeGreaterThan(0);
  });
  it("with 3 shorter than 1 the fifth has a cap", () =>
    expect(kills("impulse", 100, 130, 110, 135, 132)).toContainEqual(["wave 5 is running", "above", 157, true]));
  it("B of a zigzag dies at the start of A, of a flat nowhere", () => {
    expect(kills("zigzag", 150, 120)).toEqual([["wave B is running", "above", 150, true]]);
    expect(kills("flat", 150, 120)).toEqual([]);
  });
  it("C of either dies where B ended", () => {
    expect(kills("zigzag", 150, 120, 140)[0]).toEqual(["wave B has ended, wave C is running", "above", 140, true]);
    expect(kills("flat", 150, 120, 152)[0]).toEqual(["wave B has ended, wave C is running", "above", 152, true]);
  });
  it("waves of a triangle die at the end of the wave of their side before", () => {
    expect(kills("triangle", 100, 60, 90)).toContainEqual(["wave C is running", "below", 60, true]);
    expect(kills("triangle", 100, 60, 90, 66)).toContainEqual(["wave D is running", "above", 90, true]);
    expect(kills("triangle", 100, 60, 90, 66, 85)).toContainEqual(["wave E is running", "below", 66, true]);
  });
  it("the third of a converging diagonal may not outgrow the first", () =>
    expect(kills("endingDiagonal", 200, 160, 185)).toContainEqual(["wave 3 is running", "below", 145, true]));
  it("a complete wave dies past its end", () =>
    expect(kills("zigzag", 150, 120, 140, 105)).toEqual([["wave C has ended", "below", 105, true]]));
});

describe("nested statements", () => {
  const fifth = wave("impulse", [135, 142, 138], {}, 4);
  const root = wave("impulse", [100, 120, 110, 150, 135], { 4: fifth });
  it("stand from the root down along the waves in progress", () =>
    expect(
      nestedStatements(root)
        .filter(({ asserted }) => asserted)
        .map(({ at, killPrice }) => [at, killPrice]),
    ).toEqual([
      [[], 135],
      [[4], 138],
    ]));
  it("die strictly beyond their price, by a wick or by a close", () => {
    const [{ killPrice, killSide }] = nestedStatements(root);
    const bar = (low: number, close: number) => ({ high: 150, low, close });
    expect(isKilledBy({ killPrice, killSide }, bar(135, 136))).toBe(false);
    expect(isKilledBy({ killPrice, killSide }, bar(134.99, 136))).toBe(true);
    expect(isKilledBy({ killPrice, killSide }, bar(134.99, 136), "close")).toBe(false);
    expect(isKilledBy({ killPrice, killSide }, bar(130, 134.99), "close")).toBe(true);
  });
});
