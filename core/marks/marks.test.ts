import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { followOn, type Followed } from "#core/marks/follow";
import type { Mark } from "#core/marks/kind";
import { kindOf, markKinds, readMark } from "#core/marks/registry";
import { sayEvent } from "#core/marks/sayEvent";
import { rungText } from "#core/marks/wording";
import { barAt, fromBars, slice, type Series } from "#core/series/series";
import { days, walk } from "#core/testing/openData";
import { calendar, contextOf, day, live, mark, market, sampled, SAMPLES, say } from "#core/testing/marks";

describe("a level", () => {
  const series = days([10, 11, 9, 10], [10, 12, 10, 12], [12, 12, 8.5, 9.5], [9.5, 9.6, 7, 7.5]);
  it("below the close is support, and a close beyond breaks it", () => {
    const one = mark("level", [[0, 9]], { label: "shelf" });
    expect(live(one, series).events.map(({ event }) => event)).toEqual(["touched", "swept", "broken"]);
    expect(live(one, series).dead).toBe(true);
    expect(say(one, series)).toBe("shelf 9.00, broken after 1 touch.");
  });
});

describe("a zone", () => {
  it("placed with one click takes its edges from the candles", () => {
    const quiet = Array.from({ length: 20 }, (): [number, number, number, number] => [100, 104, 100, 102]);
    const series = days(...quiet, [101, 101.5, 100, 100.5], [100.5, 109, 100.5, 109]);
    const placed = mark("zone", [[20, 100.2]]);
    const whole = kindOf(placed).complete!(placed, { series, market, calendar });
    expect(whole.props.side).toBe("demand");
    expect(whole.anchors.map(({ price }) => price)).toEqual([101, 100]);
    expect(say(whole, series)).toBe("Demand 100.00 to 101.00, fresh.");
  });
  it("keeps an edge that was moved by hand", () => {
    const moved = mark(
      "zone",
      [
        [0, 11],
        [0, 9],
      ],
      { side: "demand", own: true },
    );
    expect(kindOf(moved).complete!(moved, { series: days([5, 6, 4, 5]), market, calendar })).toBe(moved);
  });
});

describe("a retracement", () => {
  const leg = mark(
    "retracement",
    [
      [0, 100],
      [1, 200],
    ],
    { ratios: [0.382, 0.5, 0.618] },
  );
  it("tells which shares were reached, and when the leg was undone", () => {
    const series = days([100, 110, 100, 110], [110, 200, 110, 190], [190, 190, 155, 160], [160, 160, 99, 100]);
    expect(live(leg, series).events.map((event) => sayEvent(leg, event))).toEqual([
      "38.2 % reached.",
      "50.0 % reached.",
      "61.8 % reached.",
      "The whole leg was given back.",
    ]);
  });
  it("ends when price passes the end of the leg", () => {
    const series = days([100, 110, 100, 110], [110, 200, 110, 190], [190, 201, 180, 200]);
    expect(live(leg, series)).toMatchObject({ status: "extended", dead: true });
  });
});

describe("a trend line", () => {
  const line = mark("trendLine", [
    [0, 100],
    [2, 104],
  ]);
  const quiet: [number, number, number, number] = [103, 105, 102, 104.5];
  it("is touched by a wick, broken by a close, retested from the other side; a bar is two higher each time", () => {
    const series = days(
      [100, 101, 100, 101],
      [101, 103, 101, 103],
      [103, 106, 104, 105],
      [110, 112, 109, 111],
      [112, 113, 107.9, 112],
      [112, 112, 109, 109.5],
      [105, 106, 104, 105],
      [105, 114.5, 104, 106],
    );
    expect(live(line, series).events.map(({ event, time }) => [event, (time - day(0)) / 86_400_000])).toEqual([
      ["touched", 4],
      ["broken", 5],
      ["retested", 7],
    ]);
    expect(say(line, series)).toBe("Rising trend line, retested, 1 touch since.");
    expect(live(line, series).dead).toBe(true);
  });
  it("says where it stands at the last bar, straight in bars over closed days", () => {
    const gap = days(quiet, quiet, [103, 105, 104, 104.5], [106, 108, 106, 107]);
    gap.time[3] = day(40);
    expect(say(line, gap)).toBe("Rising trend line, at 106.00.");
  });
  it("whose second anchor comes first is told so", () => {
    const wrong = mark("trendLine", [
      [2, 104],
      [0, 100],
    ]);
    expect(kindOf(wrong).check(wrong, { series: days(), market, calendar })).toEqual([
      { sentence: "The second anchor stands after the first.", anchor: 1 },
    ]);
  });
});

describe("a note", () => {
  it("says its words and lives on", () => {
    const one = mark("note", [[0, 10]], { text: " thin book here " });
    expect(say(one, days([1, 2, 1, 2], [1, 2, 1, 2]))).toBe('"thin book here"');
    expect(live(one, days([1, 2, 1, 2])).dead).toBe(false);
    expect(readMark({ ...one, props: { text: "x".repeat(201) } })).toMatch(/cannot be read/);
  });
});

describe("a count of waves", () => {
  const count = mark("count", [
    [0, 100],
    [1, 120],
    [2, 110],
  ]);
  it("is killed by a wick strictly beyond its price, not at it", () => {
    const at = days([100, 101, 100, 100], [100, 120, 100, 118], [118, 118, 110, 111], [111, 113, 110, 112]);
    expect(live(count, at).dead).toBe(false);
    const beyond = days([100, 101, 100, 100], [100, 120, 100, 118], [118, 118, 110, 111], [111, 113, 109.99, 112]);
    const { state } = live(count, beyond);
    expect(state).toMatchObject({ died: [{ at: [], time: day(3), price: 110 }] });
    expect(say(count, beyond)).toContain("died below 110.00");
  });
  it("names the broken rule and the pivot at fault", () => {
    const wrong = mark("count", [
      [0, 100],
      [1, 120],
      [2, 95],
    ]);
    expect(kindOf(wrong).check(wrong, { series: days(), market, calendar })).toEqual([
      {
        sentence:
          "Broken: wave 2 does not pass the start of wave 1 (end of 2 95.00, start of 1 100.00, over by 500 ticks).",
        anchor: 2,
      },
    ]);
  });
});

describe("every kind", () => {
  const steps = fc.array(
    fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
    { minLength: 8, maxLength: 60 },
  );
  const told = (one: Mark, series: Series) => {
    const { state, status, code, dead, events } = live(one, series);
    const { prices } = kindOf(one);
    return {
      state,
      status,
      code,
      dead,
      events,
      prices: prices.call(kindOf(one), one, live(one, series)),
      says: say(one, series),
    };
  };
  it.each(markKinds.map(({ kind }) => kind))(
    "%s: what is known as of a bar is what the series cut there gives, and followed on in parts it is the same",
    (kind) => {
      fc.assert(
        fc.property(steps, fc.nat(60), fc.nat(3), fc.integer({ min: -3, max: 3 }), (drawn, at, later, higher) => {
          const series = walk(drawn);
          const cut = slice(series, 0, Math.max(5, Math.min(at, series.length)));
          const one = sampled(kind, later, higher);
          const until = cut.time[cut.length - 1];
          const whole = live(one, series);
          expect(whole.events.filter(({ time }) => time <= until)).toEqual(live(one, cut).events);
          // Gone on with bar by bar, each last bar changed first as one that is still being made is, nothing differs:
          // not
          // its state, its words, its prices, nor whether it is dead.
          let followed: Followed | undefined;
          let life = live(one, cut);
          for (let n = 1; n <= series.length; n++) {
            const running = slice(series, 0, n);
            const made = fromBars(Array.from({ length: n }, (_, k) => barAt(running, k)));
            made.close[n - 1] = made.low[n - 1];
            followed = followOn(one, contextOf(made), followed).followed;
            ({ life, followed } = followOn(one, contextOf(running), followed));
            if (n === cut.length)
              expect({ ...life, says: kindOf(one).say(one, life, market) }).toEqual({
                ...live(one, cut),
                says: told(one, cut).says,
              });
          }
          expect(life).toEqual(whole);
          expect(kindOf(one).prices(one, life)).toEqual(told(one, series).prices);
        }),
        { numRuns: 40 },
      );
    },
  );
  // A pool's side is told by the close of the moment it is placed at, a zone's by how price has left it by then: that
  // moment is part of when they are known (`knownFrom.ts`).
  it.each(["gap", "structure"])("%s: is completed from nothing that came after its last anchor", (kind) => {
    fc.assert(
      fc.property(steps, fc.integer({ min: 2, max: 50 }), fc.integer({ min: -3, max: 3 }), (drawn, at, higher) => {
        const series = walk(drawn);
        const clicked: [number, number] = [Math.min(at, series.length - 1), 100 + higher];
        const placed = mark(kind, kind === "structure" ? [[0, 100], clicked] : [clicked]);
        const complete = (bars: Series) => kindOf(placed).complete?.(placed, contextOf(bars));
        const whole = complete(series);
        const until = Math.max(...(whole?.anchors ?? []).map(({ time }) => time));
        const cut = Array.from({ length: series.length }, (_, i) => barAt(series, i)).filter(
          ({ time }) => time <= until,
        );
        expect(complete(fromBars(cut))).toEqual(whole);
      }),
      { numRuns: 200 },
    );
  });
  it.each(markKinds.map(({ kind }) => kind))("%s: hostile props and anchors are refused in a sentence", (kind) => {
    const raw = (change: object) =>
      readMark({
        id: "1",
        kind,
        market: "m",
        rung: "P1D",
        anchors: SAMPLES[kind].map(([n, price]) => ({ time: day(n), price })),
        props: {},
        note: "",
        author: "",
        version: 0,
        ...change,
      });
    expect(typeof raw({})).toBe("object");
    expect(raw({ anchors: [] })).toMatch(/anchors/);
    expect(raw({ anchors: SAMPLES[kind].map(() => ({ time: NaN, price: 1 })) })).toMatch(
      /time is no date, or its price no number/,
    );
    for (const time of [1e308, 8.64e15 + 1, Infinity])
      expect(raw({ anchors: SAMPLES[kind].map(() => ({ time, price: 1 })) })).toMatch(/no date/);
    expect(raw({ anchors: SAMPLES[kind].map(([n]) => ({ time: day(n), price: 1e13 })) })).toMatch(/no number/);
    expect(
      raw({
        props: { label: 5, side: 5, ratios: 5, degree: 5, text: 5, direction: 5, reasons: 5, of: 5, event: 5, keys: 5 },
      }),
    ).toMatch(/cannot be read/);
    expect(raw({ kind: "scribble" })).toMatch(/no kind/);
  });
});

it.each([
  ["P1D", "Day"],
  ["P3M", "Quarter"],
  ["PT45M", "45 min"],
  ["PT4H", "4 h"],
  ["P2W", "2 weeks"],
])("the rung %s is called %s", (rung, name) => expect(rungText(rung)).toBe(name));
