import { describe, expect, it } from "vitest";
import type { Mark } from "#core/marks/kind";
import { followMark } from "#core/marks/follow";
import type { MeasuredLine } from "#core/marks/measuring/lines";
import { kindOf } from "#core/marks/registry";
import { sayEvent } from "#core/marks/sayEvent";
import { slice, type Series } from "#core/series/series";
import { linearRegressionStudy } from "#core/studies/linearRegression";
import { anchoredAverageStudy } from "#core/studies/anchoredAverage";
import { columnsOf } from "#core/studies/study";
import { measuredMove } from "#core/projections/measuredMove";
import { timeRatios } from "#core/projections/timeRatios";
import { contextOf, day, live, mark, say } from "#core/testing/marks";
import { days, sp500 } from "#core/testing/openData";

type Row = [number, number, number, number];
const flat = (n: number, at: number): Row[] => Array.from({ length: n }, (): Row => [at, at + 0.5, at - 0.5, at]);
const linesOf = (one: Mark, series: Series): MeasuredLine[] => kindOf(one).lines!(one, live(one, series));
const stands = (one: Mark, series: Series) => linesOf(one, series).map(({ name, state }) => `${name} ${state}`);
const told = (one: Mark, series: Series) => live(one, series).events.map((event) => sayEvent(one, event));

describe("a projection", () => {
  // Common practice, no source: A 100, B 110, C 105: 100 % of AB from C is 115.
  const abc = (props: Record<string, unknown> = {}) =>
    mark(
      "projection",
      [
        [0, 100],
        [1, 110],
        [2, 105],
      ],
      { ratios: [0.618, 1, 1.618], ...props },
    );
  const until = (...bars: Row[]) => days([100, 101, 100, 100], [100, 110, 100, 109], [109, 109, 105, 106], ...bars);

  it("lays the leg off from the third anchor, by equal distances or by equal ratios", () => {
    expect(linesOf(abc(), until()).map(({ price }) => price)).toEqual([111.18, 115, 121.18]);
    const log = linesOf(abc({ scale: "log" }), until()).map(({ price }) => price!);
    expect(log[1]).toBeCloseTo(105 * 1.1, 9);
    expect(log[2]).toBeCloseTo(105 * 1.1 ** 1.618, 9);
  });
  it("waits for a close beyond the leg where that is asked, and counts at once where it is not", () => {
    expect(stands(abc(), until([106, 112, 106, 109.9]))).toEqual([
      "61.8 % waiting",
      "100.0 % waiting",
      "161.8 % waiting",
    ]);
    expect(stands(abc(), until([106, 112, 106, 110.5]))).toEqual([
      "61.8 % in force",
      "100.0 % in force",
      "161.8 % in force",
    ]);
    // The wick of the breaking bar may have come before its close: only the close counts on it.
    expect(told(abc(), until([106, 116, 106, 110.5]))).toEqual(["In force from this close on."]);
    expect(stands(abc({ force: "atOnce" }), until([106, 112, 106, 109]))[0]).toBe("61.8 % met");
  });
  it("is met ratio by ratio, and over when all are", () => {
    const bars = until([106, 112, 106, 111.2], [111, 115, 111, 114], [114, 122, 114, 121]);
    expect(told(abc(), bars)).toEqual([
      "In force from this close on.",
      "61.8 % met, 111.18.",
      "100.0 % met, 115.",
      "161.8 % met, 121.18.",
    ]);
    expect(live(abc(), bars)).toMatchObject({ code: "met", dead: true });
    expect(say(abc(), bars)).toBe("Projection of 100.00 to 110.00 from 105.00: met, 161.8 % met.");
    expect(linesOf(abc(), bars)[1]).toMatchObject({ state: "met", at: day(4) });
  });
  it("is negated by a wick beyond its origin, not at it; what was met stays met", () => {
    expect(live(abc(), until([106, 107, 105, 106])).dead).toBe(false);
    const bars = until([106, 112, 106, 111.2], [111, 111, 104.99, 106], [106, 130, 106, 129]);
    expect(stands(abc(), bars)).toEqual(["61.8 % met", "100.0 % negated", "161.8 % negated"]);
    // A bar that would do both is taken for the worse.
    expect(stands(abc({ force: "atOnce" }), until([106, 130, 104, 120]))).toEqual([
      "61.8 % negated",
      "100.0 % negated",
      "161.8 % negated",
    ]);
  });
  it("a tolerance counts as reaching it", () => {
    expect(stands(abc({ force: "atOnce", tolerance: 1 }), until([106, 110.2, 106, 109]))[0]).toBe("61.8 % met");
    expect(stands(abc({ force: "atOnce" }), until([106, 110.2, 106, 109]))[0]).toBe("61.8 % in force");
  });
  it("agrees with `measuredMove` of `compute` on real bars", () => {
    const series = slice(sp500(), 0, 1_200);
    const at = (i: number, price: number) => ({ time: series.time[i], price });
    const [a, b, c] = [at(100, series.low[100]), at(140, series.low[100] + 40), at(160, series.low[100] + 20)];
    const ratios = [0.618, 1, 1.618];
    const one = { ...abc({ ratios, force: "atOnce" }), anchors: [a, b, c] };
    const theirs = measuredMove({ a, b, c, ratios, scale: "arithmetic", tolerance: 0 }, series, 0.01);
    const ours = kindOf(one).lines!(one, followMark(one, contextOf(series)));
    expect(ours.map(({ price }) => price)).toEqual(theirs.map(({ price }) => expect.closeTo(price, 9) as number));
    for (const [n, { state, at: when }] of ours.entries()) if (state === "met") expect(when).toBe(theirs[n].metAt);
  });
  it("names what is wrong with its anchors", () => {
    const problems = (...anchors: [number, number][]) => {
      const one = mark("projection", anchors);
      return kindOf(one)
        .check(one, contextOf(days()))
        .map(({ sentence }) => sentence);
    };
    expect(problems([0, 100], [1, 110], [2, 112])).toEqual(["The third anchor lies on the way back from the second."]);
    expect(problems([0, 100], [0, 110], [2, 105])).toEqual(["Each anchor stands on a later bar than the one before."]);
    expect(problems([0, 100], [1, 100], [2, 90])[0]).toBe("Both ends of the leg have one price.");
  });
});

describe("an extension and a measured move", () => {
  it("counts beyond the leg, from its start", () => {
    const one = mark(
      "extension",
      [
        [0, 100],
        [1, 110],
      ],
      { ratios: [1.272, 1.618] },
    );
    const bars = days([100, 101, 100, 100], [100, 110, 100, 109], [109, 109, 103, 104], [104, 113, 104, 112]);
    expect(linesOf(one, bars).map(({ price }) => price)).toEqual([
      expect.closeTo(112.72, 9),
      expect.closeTo(116.18, 9),
    ]);
    expect(told(one, bars)).toEqual(["In force from this close on."]);
    expect(stands(one, days(...flat(2, 100), [100, 101, 99.9, 100]))).toEqual(["127.2 % negated", "161.8 % negated"]);
  });
  // R. D. Edwards and J. Magee 1948, from memory: the height of a rectangle is laid off from its broken edge.
  it("lays the height of a range off from the edge it leaves, whichever was touched first", () => {
    const range = mark("measuredMove", [
      [2, 95],
      [1, 100],
    ]);
    const bars = days(
      ...flat(1, 97),
      [97, 100, 97, 98],
      [98, 98, 95, 96],
      [96, 100.5, 96, 100.2],
      [100, 105, 100, 104],
    );
    expect(linesOf(range, bars)).toEqual([{ name: "100.0 %", price: 105, state: "met", at: day(4) }]);
    expect(say(range, slice(bars, 0, 4))).toBe("Measured move of 95.00 to 100.00: in force, next 100.0 % 105.00.");
    const down = mark("measuredMove", [
      [1, 100],
      [2, 95],
    ]);
    expect(linesOf(down, bars)[0]).toMatchObject({ price: 90, state: "negated" });
  });
});

describe("time ratios", () => {
  it("come so many bars after the leg, counted on its own rung", () => {
    const one = mark(
      "timeRatios",
      [
        [0, 100],
        [4, 110],
      ],
      { ratios: [0.5, 1, 2] },
    );
    const bars = days(...flat(9, 100));
    expect(stands(one, bars)).toEqual(["50.0 % passed", "100.0 % passed", "200.0 % ahead"]);
    expect(linesOf(one, bars)[0].at).toBe(day(6));
    expect(linesOf(one, bars)[2].ahead).toBe(4);
    expect(say(one, bars)).toBe("Time ratios of 4 bars: 200.0 % in 4 bars.");
  });
  it("agree with `timeRatios` of `compute`", () => {
    const bars = days(...flat(40, 100));
    const ratios = [0.382, 0.5, 0.618, 1, 1.618, 2, 2.618];
    const one = mark(
      "timeRatios",
      [
        [0, 100],
        [7, 110],
        [10, 105],
      ],
      { ratios },
    );
    const theirs = timeRatios({ a: day(0), b: day(7), c: day(10) }, ratios, bars);
    linesOf(one, bars).forEach(({ at, ahead }, n) => {
      if (theirs[n].time !== undefined) expect(at).toBe(theirs[n].time);
      else expect(ahead).toBe(theirs[n].ahead);
    });
  });
});

describe("channels", () => {
  const series = slice(sp500(), 0, 120);
  it("a regression is that of the study over its window, and ends with a close beyond an edge", () => {
    const placed = {
      ...mark("regressionChannel", [
        [0, 1],
        [1, 1],
      ]),
      anchors: [20, 60].map((i) => ({ time: series.time[i], price: 1 })),
    };
    const one = kindOf(placed).complete!(placed, contextOf(series));
    const params = { period: 41, of: "close", deviations: 2 };
    const [value, , , , , upper] = columnsOf(linearRegressionStudy, params, series, { tick: 0.01 }).map((c) => c[60]);
    expect(one.anchors[1].price).toBeCloseTo(value, 9);
    const at60 = kindOf(one).prices(one, followMark(one, contextOf(slice(series, 0, 61))));
    expect(at60[2].bottom).toBeCloseTo(columnsOf(linearRegressionStudy, params, series, { tick: 0.01 })[5][60], 6);
    expect(upper).toBeGreaterThan(value);
    const life = followMark(one, contextOf(series));
    expect(life.events.length).toBeLessThanOrEqual(1);
    expect(["alive", "brokenAbove", "brokenBelow"]).toContain(life.code);
  });
  it("from three swings is the channel through the first and the third", () => {
    const bars = days(...flat(12, 100));
    const three = mark("swingChannel", [
      [0, 95],
      [2, 106],
      [4, 97],
    ]);
    const plain = mark("channel", [
      [0, 95],
      [4, 97],
      [2, 106],
    ]);
    expect(kindOf(three).prices(three, live(three, bars))).toEqual(kindOf(plain).prices(plain, live(plain, bars)));
    const wrong = mark("swingChannel", [
      [0, 95],
      [2, 96],
      [4, 97],
    ]);
    expect(kindOf(wrong).check(wrong, contextOf(bars))[0].sentence).toContain("above both others");
  });
});

describe("speed lines and arcs", () => {
  it("keep a third and two thirds of a leg at its end, and are left by closes", () => {
    const one = mark("speedLines", [
      [0, 100],
      [3, 130],
    ]);
    const bars = days(
      ...flat(1, 100),
      ...flat(2, 110),
      [120, 130, 120, 125],
      [125, 126, 121, 122],
      [122, 123, 118, 119],
    );
    // At bar 5 two thirds of ten a bar is 100 + 33.3, one third 100 + 16.7.
    expect(linesOf(one, bars).map(({ price }) => price)).toEqual([
      expect.closeTo(100 + 50 / 3, 9),
      expect.closeTo(100 + 100 / 3, 9),
    ]);
    expect(stands(one, bars)).toEqual(["33.3 % stands", "66.7 % left"]);
    expect(live(one, days(...flat(1, 100), ...flat(2, 110), [120, 130, 120, 125], [125, 131, 125, 130]))).toMatchObject(
      {
        code: "extended",
        dead: true,
      },
    );
  });
  it("say within which arc price is, on a scale that is stated", () => {
    // Three bars and thirty up: a bar is as long as ten, the leg 4.24 bars; half of it 2.12.
    const one = mark(
      "arcs",
      [
        [0, 100],
        [3, 130],
      ],
      { ratios: [0.5] },
    );
    const before = days(...flat(1, 100), ...flat(2, 110), [120, 130, 120, 125], [125, 126, 121, 122]);
    expect(say(one, before)).toBe("Arcs of 100.00 to 130.00, a bar as 10: within 50.0 %.");
    // By moving: 20 down in two bars is 2.83 bars away; by time alone: after the third bar.
    const moved = days(
      ...flat(1, 100),
      ...flat(2, 110),
      [120, 130, 120, 125],
      [125, 126, 121, 122],
      [122, 122, 109, 110],
    );
    expect(stands(one, moved)).toEqual(["50.0 % left"]);
    const waited = days(...flat(1, 100), ...flat(2, 110), [120, 130, 120, 129], ...flat(3, 129));
    expect(stands(one, waited)).toEqual(["50.0 % left"]);
    const stated = mark(
      "arcs",
      [
        [0, 100],
        [3, 130],
      ],
      { ratios: [0.5], perBar: 1 },
    );
    expect(stands(stated, waited)).toEqual(["50.0 % stands"]);
  });
});

describe("a cycle", () => {
  const lows = mark(
    "cycle",
    [
      [0, 100],
      [10, 100],
      [19, 100],
      [30, 100],
    ],
    { window: 2 },
  );
  it("says its usual span, how far off the last low was, and when the next is due", () => {
    // Spans 10, 9, 11: the usual one is 10; before the last it was 9.5, so that one came 1.5 late.
    expect(say(lows, days(...flat(31, 101)))).toBe(
      "Cycle of 4 lows: every 10 bars, the last one 2 bars late; next low in 8 to 12 bars.",
    );
    expect(say(lows, days(...flat(39, 101)))).toContain("due, 4 bars left");
    expect(say(lows, days(...flat(45, 101)))).toContain("overdue by 2 bars");
    expect(live(lows, days(...flat(45, 101))).events.map(({ event }) => event)).toEqual(["due", "overdue"]);
  });
  it("has its halves and thirds nested in it (Hurst 1970, from memory)", () => {
    const ahead = Object.fromEntries(
      linesOf(lows, days(...flat(31, 101))).map(({ name, ahead: bars }) => [name, bars]),
    );
    expect(ahead).toMatchObject({
      half: 5,
      "first third": 3,
      "second third": 7,
      "window begins": 8,
      "window ends": 12,
    });
  });
});

describe("an anchored average", () => {
  it("is the study of that name from its bar on, and says how long the close has stood on its side", () => {
    const series = slice(sp500(), 0, 700);
    const one = { ...mark("anchoredAverage", [[0, 1]]), anchors: [{ time: series.time[50], price: 1 }] };
    const [value, deviation] = columnsOf(anchoredAverageStudy, { from: series.time[50], of: "typical" }, series, {
      tick: 0.01,
    });
    for (const end of [60, 300, 700]) {
      const [band] = kindOf(one).prices(one, followMark(one, contextOf(slice(series, 0, end))));
      expect(band.bottom).toBeCloseTo(value[end - 1], 8);
    }
    const { state } = followMark(one, contextOf(series)) as unknown as {
      state: { places: [number, number, number][]; weighted: boolean };
    };
    expect(state.places.length).toBeLessThanOrEqual(257);
    expect(state.weighted).toBe(true);
    for (const [time, mean, reach] of state.places) {
      const i = series.time.indexOf(time);
      expect(mean).toBeCloseTo(value[i], 8);
      expect(reach).toBeCloseTo(deviation[i], 8);
    }
  });
});

describe("a divergence", () => {
  const one = mark(
    "divergence",
    [
      [2, 98],
      [6, 96],
    ],
    { values: [30, 40] },
  );
  const bars = (...more: Row[]) =>
    days(...flat(2, 100), [99, 99, 98, 98.5], ...flat(3, 103), [98, 98, 96, 97], ...more);
  it("is met by a close beyond what lies between the swings, and fails with a new extreme", () => {
    expect(say(one, bars())).toBe(
      "Bullish divergence: price 98.00 to 96.00, RSI 14 30.0 to 40.0; stands; a close above 103.50 meets it.",
    );
    expect(live(one, bars([97, 104, 97, 103])).code).toBe("stands");
    expect(live(one, bars([97, 104, 97, 103.6]))).toMatchObject({ code: "met", dead: true });
    expect(live(one, bars([97, 97, 95.9, 97]))).toMatchObject({ code: "negated", dead: true });
  });
  it("works out what the study was at both swings, and says where they do not diverge", () => {
    const series = slice(sp500(), 0, 200);
    const placed = {
      ...mark("divergence", [
        [0, 1],
        [1, 1],
      ]),
      anchors: [60, 80].map((i) => ({ time: series.time[i], price: series.low[i] })),
    };
    const whole = kindOf(placed).complete!(placed, contextOf(series));
    expect(whole.props.values).toHaveLength(2);
    const agreeing = {
      ...whole,
      props: { ...whole.props, values: [30, 40] },
      anchors: [
        { time: day(0), price: 1 },
        { time: day(1), price: 2 },
      ],
    };
    expect(kindOf(agreeing).check(agreeing, contextOf(series))[0].sentence).toContain("do not diverge");
  });
});
