import { describe, expect, it } from "vitest";
import { bandsOfFindings } from "#core/areas/fromFindings";
import { markOf } from "#core/finding/answer";
import { findingsOf } from "#core/finding/findings";
import type { Found } from "#core/finding/found";
import { RungReader } from "#core/finding/reader";
import { followMark } from "#core/marks/follow";
import { readMark } from "#core/marks/registry";
import { cycleFit } from "#core/projections/cycleFit";
import { drawsOf } from "#core/statistics/intervals";
import { fromBars, slice, type Series } from "#core/series/series";
import { contextOf } from "#core/testing/marks";
import { sp500 } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

const calendar = new Calendar(ALL_HOURS);
const DAY = { count: 1, unit: "day" } as const;
const laid = (series: Series, tick = 0.01): Found[] =>
  findingsOf(new RungReader(series, DAY, calendar, tick)).filter(({ step }) => step === "projections");

/** Days whose price goes straight from each turn to the next, each bar a unit high. */
function zigzag(turns: readonly [bars: number, to: number][], start = 100): Series {
  let price = start;
  const closes: number[] = [];
  for (const [bars, to] of turns) {
    const from = price;
    for (let i = 1; i <= bars; i++) closes.push(from + ((to - from) * i) / bars);
    price = to;
  }
  return fromBars(
    closes.map((close, i) => {
      const open = closes[i - 1] ?? start;
      return {
        ...{
          time: Date.UTC(2020, 0, 1 + i),
          open,
          high: Math.max(open, close) + 0.25,
          low: Math.min(open, close) - 0.25,
        },
        ...{ close, volume: 1 },
      };
    }),
  );
}

const TREND: [number, number][] = [
  [10, 110],
  [8, 104],
  [10, 118],
  [8, 112],
  [12, 126],
  [8, 119],
];

describe("what the machine lays off", () => {
  it("the last leg of a trend from where the way back ended", () => {
    const series = zigzag([...TREND, [6, 123]]);
    const found = laid(series).find(({ kind }) => kind === "projection")!;
    expect(found.anchors.map(({ price }) => price)).toEqual([111.75, 126.25, 118.75]);
    expect(found.bottom).toBeCloseTo(118.75 + 14.5, 9);
    expect(found.state).toBe("waiting");
    expect(laid(zigzag([...TREND, [9, 128]])).find(({ kind }) => kind === "projection")?.state).toBe("in force");
  });
  it("is no more once its origin was taken out, or all of it was reached", () => {
    const kinds = (more: [number, number][]) => laid(zigzag([...TREND, ...more])).map(({ kind }) => kind);
    expect(kinds([[6, 123]])).toContain("projection");
    expect(
      kinds([
        [6, 123],
        [4, 117],
      ]),
    ).not.toContain("projection");
    expect(kinds([[16, 136]])).not.toContain("projection");
  });
  it("nothing against the trend is called usual", () => {
    // Down-legs in a rising market: the last leg is one of them.
    const found = laid(zigzag(TREND.slice(0, 5).concat([[4, 122]]))).filter(({ kind }) => kind === "projection");
    for (const { anchors } of found) expect(anchors[1].price).toBeGreaterThan(anchors[0].price);
  });
  it("the height of a range from the edge it was left at", () => {
    const quiet = Array.from({ length: 14 }, (_, i): [number, number] => [1, i % 2 === 0 ? 126.6 : 126]);
    const series = zigzag([...TREND.slice(0, 5), [24, 126], ...quiet, [1, 127.3]]);
    const found = laid(series).find(({ kind }) => kind === "measuredMove");
    expect(found).toBeDefined();
    const [far, near] = found!.anchors.map(({ price }) => price);
    expect(near).toBeGreaterThan(far);
    expect(found!.bottom).toBeCloseTo(near + (near - far), 9);
  });
  it("lows that come evenly as a cycle, with how often chance is as even; and none of uneven ones", () => {
    const even = zigzag(
      Array.from({ length: 9 }, (): [number, number][] => [
        [15, 110],
        [15, 100],
      ]).flat(),
    );
    const cycle = laid(even).find(({ kind }) => kind === "cycle")!;
    expect(cycle.name).toMatch(/^Cycle of about 30 bars, 8 lows; 0\.2 % of 500 shuffles were as even$/);
    const uneven = [15, 44, 17, 90, 12, 33, 70, 14].flatMap((n): [number, number][] => [
      [n, 110],
      [15, 100],
    ]);
    expect(laid(zigzag(uneven)).filter(({ kind }) => kind === "cycle")).toEqual([]);
  });
  it("makes no area: it says where price may go, not where it has stood", () =>
    expect(bandsOfFindings(laid(zigzag([...TREND, [6, 123]])), () => 1)).toEqual([]));

  // Open data: S&P 500, 2000 to 2010, carried by vega-datasets (npm).
  it("on real bars: few, each known when it is said, each a mark that lives", () => {
    const series = sp500();
    const seen = new Map<string, number>();
    for (let end = 300; end <= series.length; end += 37) {
      const part = slice(series, Math.max(0, end - 2_000), end);
      const found = laid(part);
      expect(found.length).toBeLessThanOrEqual(4);
      for (const fact of found) {
        expect(fact.knownAt).toBeLessThanOrEqual(part.time[part.length - 1]);
        const mark = readMark(markOf(fact, "m", "1"));
        if (typeof mark === "string") throw new Error(mark);
        expect(followMark(mark, contextOf(part)).dead, `${fact.name} at ${end}`).toBe(false);
        seen.set(fact.kind, (seen.get(fact.kind) ?? 0) + 1);
      }
    }
    expect([...seen.keys()].sort()).toEqual(["cycle", "divergence", "measuredMove", "projection"]);
  });
});

describe("how well a cycle fits", () => {
  it("chance finds a tenth of shuffled lows within its tenth", () => {
    // Spans dealt out at random: of many, about a tenth come out rarer than a tenth.
    const draw = drawsOf(11);
    const rare = Array.from({ length: 200 }, () => {
      const cuts = Array.from({ length: 7 }, () => draw(81)).sort((a, b) => a - b);
      return cycleFit(
        [...cuts, 80].map((cut, i) => 11 + cut - (i === 0 ? 0 : cuts[i - 1])),
        11,
      ).p;
    }).filter((p) => p <= 0.1).length;
    // Binomial, 200 of 0.1: 20 with a deviation of 4.2.
    expect(Math.abs(rare - 20)).toBeLessThan(13);
  });
  it("says the same of the same lows, and even spans are rarest", () => {
    expect(cycleFit([30, 30, 31, 29, 30], 11)).toEqual(cycleFit([30, 30, 31, 29, 30], 11));
    expect(cycleFit([30, 30, 30, 30, 30], 11).p).toBeCloseTo(1 / 501, 9);
    expect(cycleFit([12, 60, 13, 50, 14], 11).p).toBeGreaterThan(0.3);
  });
});
