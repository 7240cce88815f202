import { describe, expect, it } from "vitest";
import { PATTERN_NAMES } from "#core/patterns/registry";
import { sp500 } from "#core/testing/openData";
import { judgePatterns, plantPattern, residualsOf } from "./plantedPatterns.ts";

// Noise of real residuals: S&P 500, carried by vega-datasets (npm). `./compass bench patterns` prints 200 of each.
const residuals = residualsOf(sp500());

describe("planted patterns", () => {
  it.each(PATTERN_NAMES)("%s is found where it was planted, in more than half of 20", (name) => {
    const { recalled, found, right } = judgePatterns(name, 20, residuals, 3);
    expect(recalled).toBeGreaterThan(10);
    expect(right / found).toBeGreaterThan(0.5);
  });
  it("are the same for the same seed, and point both ways", () => {
    expect(plantPattern("flag", 5, residuals)).toEqual(plantPattern("flag", 5, residuals));
    expect(new Set([1, 2, 3, 4, 5, 6].map((seed) => plantPattern("flag", seed, residuals).sign)).size).toBe(2);
  });
});
