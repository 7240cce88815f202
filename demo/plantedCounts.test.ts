import { describe, expect, it } from "vitest";
import { brokenRules } from "#core/testing/waveRules";
import { PATTERNS } from "#core/waves/patterns";
import type { Wave } from "#core/waves/wave";
import { isPlanted } from "../bench/waves.ts";
import { NOISES, plantCount, RATIOS, SHARES, type LaidOut, type PlantedCount } from "./plantedCounts.ts";

const all = Array.from({ length: 40 }, (_, i) => plantCount(`layout ${i}`, NOISES[i % NOISES.length]));

/** The laid out tree as a count: turns as pivots, told by their bar. */
function waveOf({ pattern, turns, inner }: LaidOut): Wave {
  return {
    pattern,
    pivots: turns.map(({ bar, price }) => ({ time: bar, price })),
    inner: inner.map((child) => child && waveOf(child)),
  };
}

describe("planted counts", () => {
  it("keep every rule, by a checker that shares nothing with the machine", () =>
    expect(all.flatMap(({ root }) => brokenRules(waveOf(root)))).toEqual([]));
  it("have 18 to 62 finest legs, of at least six bars each", () => {
    for (const { finest } of all) {
      expect(finest.length).toBeGreaterThanOrEqual(19);
      // The last division may add up to four legs more than were asked for.
      expect(finest.length).toBeLessThanOrEqual(65);
      finest.slice(1).forEach((bar, i) => expect(bar - finest[i]).toBeGreaterThanOrEqual(6 - (i === 0 ? 1 : 0)));
    }
  });
  it("turn where they say: the bar of a turn has its price for its high or low", () => {
    for (const { root, series } of all)
      for (const { bar, price } of root.turns)
        if (bar < series.length)
          expect([series.high[bar], series.low[bar]].some((extreme) => Math.abs(extreme - price) < 0.011)).toBe(true);
  });
  it("bars are sound: low at most open and close, high at least, prices above zero", () => {
    const unsound = all.flatMap(({ series: { length, open, high, low, close } }) =>
      Array.from({ length }, (_, i) => i).filter(
        (i) => low[i] > Math.min(open[i], close[i]) || high[i] < Math.max(open[i], close[i]) || !(low[i] > 0),
      ),
    );
    expect(unsound).toEqual([]);
  });
  it("about half end inside the root, the others after a move against it", () => {
    const ended = all.filter(({ complete }) => complete);
    expect(ended.length).toBeGreaterThan(10);
    expect(ended.length).toBeLessThan(30);
    for (const { complete, root, series, finished } of all) {
      const end = root.turns[finished].bar;
      expect(end).toBeLessThan(series.length - 1);
      if (!complete) expect(root.turns[finished + 1].bar).toBeGreaterThanOrEqual(series.length - 1);
    }
  });
  it("the same seed gives the same series, another one another", () => {
    expect(plantCount("layout 3", 0.05)).toEqual(plantCount("layout 3", 0.05));
    expect(plantCount("layout 3", 0.05).series.close).not.toEqual(plantCount("layout 4", 0.05).series.close);
  });
  it("shares sum to one, and every pattern has a ratio for each wave but the first", () => {
    expect(Object.values(SHARES).reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
    for (const [pattern, { labels }] of Object.entries(PATTERNS))
      expect(RATIOS[pattern as keyof typeof RATIOS].length).toBe(labels.length - 1);
  });
});

describe("whether a proposal is the planted one", () => {
  const [planted] = all;
  const proposal = ({ root, finished, series }: PlantedCount, shift: number, last = finished + 1) => ({
    root: {
      pattern: root.pattern,
      pivots: root.turns
        .slice(0, last)
        .map(({ bar, price }) => ({ time: series.time[Math.max(0, bar + shift)], price })),
      inner: [],
    },
    score: 0,
    parts: { patterns: 0, lengths: 0, times: 0, coverage: 0 },
  });
  it("needs its pattern, its turns within one finest swing and the same wave in progress", () => {
    expect(isPlanted(proposal(planted, 0), planted)).toBe(true);
    expect(isPlanted(proposal(planted, 2), planted)).toBe(true);
    expect(isPlanted(proposal(planted, 0, planted.finished), planted)).toBe(false);
    expect(
      isPlanted(
        {
          ...proposal(planted, 0),
          root: { ...proposal(planted, 0).root, pattern: planted.root.pattern === "zigzag" ? "flat" : "zigzag" },
        },
        planted,
      ),
    ).toBe(false);
    expect(isPlanted(proposal(planted, 400), planted)).toBe(false);
  });
});
