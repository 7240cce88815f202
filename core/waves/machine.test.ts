import { describe, expect, it } from "vitest";
import { findPlanted } from "../../bench/waves.ts";
import { plantCount } from "../../demo/plantedCounts.ts";
import { seeded } from "../../demo/random.ts";
import { sp500, walk } from "#core/testing/openData";
import { brokenRules } from "#core/testing/waveRules";
import { fromBars, slice, type Series } from "#core/series/series";
import { PATTERNS } from "#core/waves/patterns";
import { bestCounts, COUNTING, countWaves, type CountProposal } from "#core/waves/proposals";
import { checkTree, STRICT } from "#core/waves/rules";
import { isKilledBy, nestedStatements } from "#core/waves/statements";
import { snapPivot } from "#core/waves/snapPivot";
import { turnsOf } from "#core/waves/turns";
import { allWaves, isComplete } from "#core/waves/wave";

const planted = Array.from({ length: 24 }, (_, i) => findPlanted(plantCount(`test ${i}`, [0.05, 0.1, 0.2][i % 3])));
const moved = (series: Series, price: (value: number) => number, flip = false, time = 0): Series =>
  fromBars(
    Array.from({ length: series.length }, (_, i) => ({
      time: series.time[i] + time,
      open: price(series.open[i]),
      high: price(flip ? series.low[i] : series.high[i]),
      low: price(flip ? series.high[i] : series.low[i]),
      close: price(series.close[i]),
      volume: series.volume[i],
    })),
  );
const shape = ({ root, score }: CountProposal) =>
  `${root.pattern} ${allWaves(root)
    .map(({ wave }) => `${wave.pattern}:${wave.pivots.map(({ time }) => time).join()}`)
    .join(" ")} ${score.toFixed(6)}`;

describe("planted counts", () => {
  // The whole figure is the bench's; here only that the machine still finds what was laid out.
  it("come back: most as the first proposal, nearly all among the first five", () => {
    const within = (most: number) => planted.filter(({ place }) => place >= 1 && place <= most).length / planted.length;
    expect(within(1)).toBeGreaterThanOrEqual(0.5);
    expect(within(5)).toBeGreaterThanOrEqual(0.8);
  });
  it("no proposal breaks a rule, by either checker", () => {
    const roots = planted.flatMap(({ proposals }) => proposals.map(({ root }) => root));
    expect(roots.length).toBeGreaterThan(200);
    expect(roots.flatMap((root) => brokenRules(root))).toEqual([]);
    expect(
      roots.flatMap((root) => checkTree(root).flatMap(({ rules }) => rules.filter(({ holds }) => !holds))),
    ).toEqual([]);
  });
  it("nothing that is said of a wave in progress has died already", () => {
    for (const {
      proposals,
      planted: { series },
    } of planted)
      for (const { root } of proposals) {
        if (isComplete(root)) continue;
        for (const statement of nestedStatements(root).filter(({ asserted, at }) => asserted && at.length === 0)) {
          const since = root.pivots[root.pivots.length - 1].time;
          const killing = Array.from({ length: series.length }, (_, i) => i).filter(
            (i) =>
              series.time[i] > since &&
              isKilledBy(statement, { high: series.high[i], low: series.low[i], close: series.close[i] }),
          );
          expect(killing).toEqual([]);
        }
      }
  });
  it("roots are distinct, best first, their parts make the score", () => {
    for (const { proposals } of planted) {
      expect(new Set(proposals.map(shape)).size).toBe(proposals.length);
      expect([...proposals].sort((a, b) => b.score - a.score)).toEqual(proposals);
      for (const { score, parts } of proposals)
        expect(Object.values(parts).reduce((sum: number, part: number) => sum + part, 0)).toBeCloseTo(score, 6);
    }
  });
});

describe("laws of the machine", () => {
  const { series } = plantCount("law", 0.1);
  const plain = bestCounts(series).map(shape);
  it("prices turned upside down, times three, or bars a year later give the same counts", () => {
    expect(bestCounts(moved(series, (value) => 3000 - value, true)).map(shape)).toEqual(plain);
    expect(
      bestCounts(moved(series, (value) => value, false, 365 * 86_400_000)).map((one) => one.score.toFixed(6)),
    ).toEqual(bestCounts(series).map((one) => one.score.toFixed(6)));
    const scaled = bestCounts(moved(series, (value) => value * 4));
    expect(scaled.map(({ root }) => root.pivots.map(({ time }) => time).join())).toEqual(
      bestCounts(series).map(({ root }) => root.pivots.map(({ time }) => time).join()),
    );
  });
  it("counts as of a bar are the counts of the bars up to it", () => {
    const cut = slice(series, 0, 900);
    expect(bestCounts(cut).map(shape)).toEqual(
      bestCounts(
        fromBars(
          Array.from({ length: 900 }, (_, i) => ({
            time: series.time[i],
            open: series.open[i],
            high: series.high[i],
            low: series.low[i],
            close: series.close[i],
            volume: series.volume[i],
          })),
        ),
      ).map(shape),
    );
  });
  it("news come coarse first, with progress that only rises, and can be left at any of them", () => {
    const news = [...countWaves(series)];
    const done = news.map((one) => one.done);
    expect(done).toEqual([...done].sort((a, b) => a - b));
    const told = news.filter(({ proposals }) => proposals);
    expect(told).toHaveLength(2);
    expect(told[1].proposals?.map(shape)).toEqual(plain);
    const counting = countWaves(series);
    counting.next();
    expect(counting.return(undefined).done).toBe(true);
  });
  it("a pinned turn ends a wave of its label in every count", () => {
    const [first] = bestCounts(series);
    const third = first.root.pivots[Math.min(2, first.root.pivots.length - 1)];
    for (const label of ["2", "B", "X"]) {
      const counts = bestCounts(series, { ...COUNTING, pins: [{ time: third.time, label, below: 0 }] });
      for (const { root } of counts)
        expect(
          root.pivots.some(({ time }, i) => time === third.time && PATTERNS[root.pattern].labels[i - 1] === label),
        ).toBe(true);
    }
    expect(bestCounts(series, { ...COUNTING, pins: [{ time: third.time, label: "2" }] }).length).toBeGreaterThan(0);
  });
  it("what is asked for inside a wave is one of what may stand there, from its start to its end", () => {
    const whole = planted.find(({ planted: one, place }) => one.complete && place === 1)!.planted;
    const end = whole.root.turns[whole.finished].bar;
    const up = whole.root.turns[1].price > whole.root.turns[0].price;
    const bars = slice(whole.series, 0, end + 1);
    const ends = up ? { from: bars.low[0], to: bars.high[end] } : { from: bars.high[0], to: bars.low[end] };
    const ended = bestCounts(bars, { ...COUNTING, fromFirst: true, ended: true, ends, patterns: [whole.root.pattern] });
    for (const { root } of ended) {
      expect([root.pattern, isComplete(root)]).toEqual([whole.root.pattern, true]);
      expect([root.pivots[0].price, root.pivots[root.pivots.length - 1].price]).toEqual([ends.from, ends.to]);
    }
    const open = bestCounts(series, { ...COUNTING, ended: false });
    expect([ended.length > 0, open.length > 0]).toEqual([true, true]);
    for (const { root } of open) expect(isComplete(root)).toBe(false);
  });
  it("random walks and real days give counts that keep the rules, on either scale", () => {
    for (const [bars, scale] of [
      [
        walk(
          Array.from({ length: 300 }, (_, i): [number, number, number] => [
            Math.round(seeded(`w${i}`).normal() * 4),
            i % 3,
            i % 2,
          ]),
        ),
        "arithmetic",
      ],
      [slice(sp500(), 0, 1500), "log"],
    ] as const) {
      const counts = bestCounts(bars, { ...COUNTING, scale });
      expect(counts.length).toBeGreaterThan(0);
      for (const { root } of counts)
        expect(
          checkTree(root, { ...STRICT, scale }).flatMap(({ rules }) => rules.filter(({ holds }) => !holds)),
        ).toEqual([]);
      for (const { root } of counts) expect(brokenRules(root, scale === "log")).toEqual([]);
    }
  });
  it("too few bars give none", () => {
    expect(bestCounts(slice(series, 0, 0))).toEqual([]);
    expect(bestCounts(slice(series, 0, 2))).toEqual([]);
  });
});

describe("turns", () => {
  const series = sp500();
  it("alternate, stand at extremes of their bars, and those of a smaller number are among those of a larger", () => {
    const [few, many] = [turnsOf(series, 20), turnsOf(series, 80)];
    for (const { index, price } of [few, many])
      for (let i = 0; i < index.length; i++) {
        expect([series.high[index[i]], series.low[index[i]]]).toContain(price[i]);
        if (i > 1) expect(Math.sign(price[i] - price[i - 1])).toBe(-Math.sign(price[i - 1] - price[i - 2]));
      }
    expect([...few.time].filter((time) => !many.time.includes(time))).toEqual([]);
    expect(many.index.length).toBeLessThanOrEqual(80);
  });
  it("between two prices begin and end there, whatever their bars did besides", () => {
    const outer = fromBars(
      [
        [10, 12, 8, 11],
        [11, 20, 11, 19],
        [19, 19, 13, 14],
        [29, 30, 14, 16],
      ].map(([open, high, low, close], i) => ({ time: i, open, high, low, close, volume: 1 })),
    );
    expect([...turnsOf(outer, 20).price]).toEqual([8, 12, 11, 20, 13, 30, 14]);
    expect([...turnsOf(outer, 20, 0, [], { from: 8, to: 30 }).price]).toEqual([8, 12, 11, 20, 13, 30]);
    expect([...turnsOf(outer, 20, 0, [], { from: 20 }).price][0]).toBe(20);
  });
  it("one that is asked for stays, however small", () => {
    const small = turnsOf(series, 200).time[101];
    expect(turnsOf(series, 20).time).not.toContain(small);
    expect(turnsOf(series, 20, 0, [small]).time).toContain(small);
  });
});

describe("the swing a click means", () => {
  const bars = (...highs: number[]): Series =>
    fromBars(highs.map((high, i) => ({ time: i, open: high - 1, high, low: high - 2, close: high - 1, volume: 1 })));
  const series = bars(10, 11, 14, 12, 11, 9, 10, 13, 12, 11);
  it(
    "is the highest high nearby that stands beyond its neighbours, or the lowest low when the one before " +
      "lies above",
    () => {
      expect(snapPivot(series, { time: 3, price: 11.8 }, { time: 0, price: 8 }, 2)).toEqual({ time: 2, price: 14 });
      expect(snapPivot(series, { time: 4, price: 8 }, { time: 2, price: 14 }, 2)).toEqual({ time: 5, price: 7 });
    },
  );
  it(
    "never lies before the pivot before, is looked for further off, and is the bar's own extreme where there " +
      "is none",
    () => {
      expect(snapPivot(series, { time: 3, price: 13 }, { time: 2, price: 12 }, 1)).toEqual({ time: 7, price: 13 });
      expect(snapPivot(bars(1, 2, 3, 4, 5, 6), { time: 2, price: 9 }, { time: 0, price: 1 }, 0)).toEqual({
        time: 2,
        price: 3,
      });
      expect(snapPivot(bars(), { time: 2, price: 9 }, undefined, 1)).toEqual({ time: 2, price: 9 });
    },
  );
});
