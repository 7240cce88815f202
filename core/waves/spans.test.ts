import { describe, expect, it } from "vitest";
import { slice } from "#core/series/series";
import { sp500 } from "#core/testing/openData";
import { brokenRules } from "#core/testing/waveRules";
import { degreeOfSpan } from "#core/waves/degrees";
import { distinct, standing } from "#core/waves/odds";
import { isSameCount, isStanding, type Candidate } from "#core/waves/spanCounts";
import { SpanCounter } from "#core/waves/spans";
import type { Pattern } from "#core/waves/patterns";
import type { Wave } from "#core/waves/wave";

const pivots = (...prices: number[]) => prices.map((price, i) => ({ time: 10 * i, price }));
const wave = (pattern: Pattern, ...prices: number[]): Wave => ({ pattern, pivots: pivots(...prices), inner: [] });
const candidate = (root: Wave, score: number, price: number): Candidate => ({
  ...{ root, score, covers: true, evidence: 0.5, kill: { price, side: "below" } },
  turns: root.pivots.map((_, i) => 2 * i),
});

describe("odds of counts", () => {
  const impulse = candidate(wave("impulse", 10, 20, 15), -10, 15);
  const zigzag = candidate(wave("zigzag", 10, 20, 15), -12, 15);
  const flat = candidate({ ...wave("flat", 10, 20, 11) }, -16, 9);
  const other = { ...flat, turns: [0, 2, 8] };

  it("are told by pivots: another name for the same ones stands beside, and its odds with it", () => {
    const counts = distinct([impulse, zigzag, other], 5);
    expect(counts.map(({ root }) => root.pattern)).toEqual(["impulse", "flat"]);
    expect(counts[0].also).toEqual([{ pattern: "zigzag", odds: expect.any(Number) as number }]);
    // Three points of score at the temperature of 3 are a factor of e; twins add up.
    const [a, b, c] = [1, Math.exp(-2 / 3), Math.exp(-6 / 3)];
    expect(counts[0].odds / counts[1].odds).toBeCloseTo((a + b) / c, 9);
  });

  it("are told by pivots also of a count that the search did not find again", () => {
    const kept = { ...candidate(wave("zigzag", 10, 20, 15), -11, 15), turns: [] };
    expect(distinct([impulse, kept], 5).map(({ also }) => also.length)).toEqual([1]);
  });

  it("of a count that price has ended go to the others and to none alike", () => {
    const counts = distinct([impulse, other], 5);
    const sum = counts[0].odds + counts[1].odds;
    const left = standing(counts, ({ price }) => price === 15, 12);
    expect(left.counts.map(({ root }) => root.pattern)).toEqual(["flat"]);
    expect(left.counts[0].odds / left.none).toBeCloseTo(counts[1].odds / (1 - sum), 9);
    expect(left.counts[0].odds + left.none).toBeCloseTo(1, 12);
    expect(left.counts[0].parts).toBeUndefined();
  });

  it("are parted by the kill price that lies nearer to the last close", () => {
    const counts = distinct([impulse, other], 5);
    expect(standing(counts, () => false, 14).counts[0].parts).toBe(15);
    expect(standing(counts, () => false, 10).counts[0].parts).toBe(9);
  });

  it("of nothing are all of none", () =>
    expect(standing(distinct([], 5), () => false, 1)).toEqual({ counts: [], none: 1 }));
});

describe("a count as it goes on", () => {
  const before = wave("impulse", 10, 20, 15);
  it.each([
    ["a further turn", wave("impulse", 10, 20, 15, 30), true],
    ["its last turn moved", wave("impulse", 10, 20, 14), true],
    ["another turn inside", wave("impulse", 10, 21, 15), false],
    ["another pattern", wave("zigzag", 10, 20, 15), false],
    ["fewer turns", wave("impulse", 10, 20), false],
  ])("is the same or not: %s", (_, now, same) => expect(isSameCount(before, now)).toBe(same));
});

describe("degrees by time", () => {
  const year = 365.25 * 86_400_000;
  it.each([
    [70, "Grand Supercycle"],
    [27, "Supercycle"],
    [5, "Cycle"],
    [1, "Primary"],
    [0.3, "Intermediate"],
    [0.1, "Minor"],
    [0.001, "Subminuette"],
  ])("%f years are a %s", (years, degree) => expect(degreeOfSpan(years * year)).toBe(degree));
});

describe("spans of real bars (open data)", () => {
  // Worked out anew without memory, another count would stand first four times in these bars.
  const series = slice(sp500(), 0, 1332);
  const walked = new SpanCounter(series, { degrees: 2, best: 5, spans: 3 });
  const bars = Array.from({ length: 32 }, (_, n) => series.length - 32 + n);
  const all = bars.map((i) => walked.at(i));

  it("say at a bar what they say when it is the first that is asked for", () => {
    for (const n of [3, 13]) {
      const alone = new SpanCounter(slice(series, 0, bars[n] + 1), { degrees: 2, best: 5, spans: 3 });
      expect(alone.at(bars[n])).toEqual(all[n]);
    }
  });

  it("hold to their first count from bar to bar while nothing has ended it", () => {
    let changes = 0;
    for (let n = 1; n < all.length; n++) {
      const [before, now] = [all[n - 1][0].counts[0], all[n][0].counts[0]];
      if (!isSameCount(before.root, now.root) && isStanding(before, series, bars[n])) changes++;
    }
    expect(changes).toBeLessThanOrEqual(1);
  });

  it("keep every rule of the book, by a second checker", () => {
    for (const { root } of all.flat().flatMap(({ counts }) => counts)) expect(brokenRules(root, true)).toEqual([]);
  });
});
