import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { slice, type Series } from "#core/series/series";
import { run, Track } from "#core/series/track";
import { atr } from "#core/studies/atr";
import { labelOf, labelled } from "#core/structure/labels";
import { alternating, legsOf } from "#core/structure/legs";
import { degreeOf, nested } from "#core/structure/nested";
import { rangeOfTrend, standingIn } from "#core/structure/range";
import { ReversalDetector } from "#core/structure/reversal";
import { StructureDetector } from "#core/structure/structure";
import { SwingDetector } from "#core/structure/swingDetector";
import { swings } from "#core/structure/swings";
import { resample } from "#core/series/resample";
import { days, sp500, walk } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { turnsOf } from "#core/waves/turns";

const steps = fc.array(
  fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
  { maxLength: 150 },
);

function read(series: Series, k = 1) {
  const track = new Track(series, 0.01);
  const found = new SwingDetector(track, { k, ties: "last" });
  const structure = new StructureDetector(track, found, k);
  run(track, [found, structure]);
  return { track, swings: found, structure };
}

/** Bars that go from close to close, with wicks of half a point. */
const closes = (...prices: number[]) =>
  days(
    ...prices.map((close, i): [number, number, number, number] => {
      const open = i > 0 ? prices[i - 1] : close;
      return [open, Math.max(open, close) + 0.5, Math.min(open, close) - 0.5, close];
    }),
  );
const told = (series: Series, k = 1) =>
  read(series, k).structure.events.map(({ event, direction, at, price }) => `${event} ${direction} ${at} at ${price}`);

// All of these are facts of the trade: common practice, no source.
describe("structure", () => {
  const up = [10, 12, 14, 13, 11, 13, 15, 17];
  it("begins with a close beyond a confirmed swing, and breaks with each further one", () => {
    expect(told(closes(...up))).toEqual(["break up 6 at 14.5"]);
    expect(told(closes(...up, 16, 15, 18))).toEqual(["break up 6 at 14.5", "break up 10 at 17.5"]);
  });
  it("a shift needs a close beyond the valid swing: a wick is a sweep or nothing", () => {
    const { structure } = read(closes(...up, 16, 15, 18));
    // The new high at bar 10 made the low between the two highs the line.
    expect(structure.nextShift).toMatchObject({ direction: "down", price: 14.5 });
    const wick: [number, number, number, number] = [18, 18, 14, 16];
    const bars = closes(...up, 16, 15, 18);
    const withWick = days(
      ...Array.from({ length: bars.length }, (_, i): [number, number, number, number] => [
        bars.open[i],
        bars.high[i],
        bars.low[i],
        bars.close[i],
      ]),
      wick,
    );
    expect(told(withWick)).toContain("sweep down 11 at 14.5");
    expect(told(withWick).some((event) => event.startsWith("shift"))).toBe(false);
    expect(told(closes(...up, 16, 15, 18, 14))).toContain("shift down 11 at 14.5");
  });
  it("a swing counts only if the move away from it made a new extreme: a higher low within the leg is no line", () => {
    // Up to 18, back to 15, up to 17 only (no new high), back to 16.
    const { structure } = read(closes(...up, 16, 15, 16.5, 17, 16, 15.8));
    expect(structure.nextShift?.price).toBe(10.5);
  });
  it("each new extreme moves the line, without waiting for the swing before it to be confirmed on both sides", () => {
    const line = (...prices: number[]) => read(closes(...prices)).structure.nextShift?.price;
    expect(line(...up)).toBe(10.5);
    expect(line(...up, 16, 15, 17.4)).toBe(14.5);
  });
  it("a close that is taken back within three bars was a failed break", () => {
    expect(told(closes(...up, 16, 15, 18, 17))).toContain("failedBreak up 11 at 17.5");
    expect(told(closes(...up, 16, 15, 18, 19, 20, 21, 17)).filter((event) => event.startsWith("failed"))).toEqual([]);
  });
  it("a sweep says how deep the wick went, in price and in ATR", () => {
    const bars = closes(...up, 16, 15, 16);
    const series = days(
      ...Array.from({ length: bars.length }, (_, i): [number, number, number, number] => [
        bars.open[i],
        bars.high[i],
        bars.low[i],
        bars.close[i],
      ]),
      [16, 18, 16, 17],
    );
    const { structure, track } = read(series);
    expect(structure.events.at(-1)).toMatchObject({
      event: "sweep",
      direction: "up",
      depth: 0.5,
      depthAtr: 0.5 / track.atr[10],
    });
  });
  it("known only from bars that were there: events up to a bar are what the series cut there gives", () => {
    fc.assert(
      fc.property(steps, fc.nat(150), fc.integer({ min: 1, max: 3 }), (drawn, at, k) => {
        const series = walk(drawn);
        const cut = walk(drawn.slice(0, at));
        expect(read(series, k).structure.events.filter((event) => event.at < at)).toEqual(
          read(cut, k).structure.events,
        );
      }),
    );
  });
  it(
    "on open data (S&P 500, vega-datasets) every shift is a close beyond the lowest low, or highest high, " +
      "between the trend's last two extremes",
    () => {
      const series = sp500();
      const { structure } = read(series, 3);
      const shifts = structure.events.filter(({ event }) => event === "shift");
      expect(shifts.length).toBeGreaterThan(40);
      shifts.forEach(({ direction, at, price, swing }, n) => {
        const sign = direction === "up" ? 1 : -1;
        expect(sign * (series.close[at] - price)).toBeGreaterThan(0);
        expect((sign > 0 ? series.high : series.low)[swing]).toBe(price);
        // Shifts take turns, and nothing closed beyond the line between the bar that made it and this one.
        if (n > 0) expect(shifts[n - 1].direction).not.toBe(direction);
        for (let i = swing + 1; i < at; i++) expect(sign * (series.close[i] - price)).toBeLessThanOrEqual(0);
        // The move away from it made a new extreme for the trend before.
        const before = (sign > 0 ? series.low : series.high).slice(swing, at);
        const earlier = (sign > 0 ? series.low : series.high).slice(Math.max(0, swing - 4), swing);
        expect(sign > 0 ? Math.min(...before) : -Math.max(...before)).toBeLessThanOrEqual(
          sign > 0 ? Math.min(...earlier) : -Math.max(...earlier),
        );
      });
    },
  );
});

describe("swings one bar after the other", () => {
  it("are those of the whole run", () => {
    expect(
      read(sp500(), 3)
        .swings.found.map(({ index, side }) => `${index} ${side}`)
        .sort(),
    ).toEqual(
      swings(sp500(), 3)
        .map(({ index, side }) => `${index} ${side}`)
        .sort(),
    );
  });
  it("the track's range is the ATR(14) of the whole series from its first defined value on", () => {
    const series = sp500();
    const whole = atr(series);
    const { track } = read(series);
    for (let i = 14; i < series.length; i++) expect(track.atr[i]).toBeCloseTo(whole[i], 9);
  });
});

describe("labels", () => {
  it.each<["high" | "low", number, number, string]>([
    ["high", 10, 12, "HH"],
    ["high", 10, 9, "LH"],
    ["low", 10, 12, "HL"],
    ["low", 10, 8, "LL"],
    ["low", 10, 10.1, "EQ"],
  ])("a %s of %d followed by %d is %s", (side, before, price, label) =>
    expect(labelOf({ side, price }, { price: before }, 0.1)).toBe(label),
  );
  it("compare with the swing before on the same side", () => {
    const { track, swings: found } = read(closes(10, 9, 12, 14, 12, 11, 14, 17, 15, 13, 8, 7, 9, 11, 10, 8));
    expect(labelled(found.found, track.atr).map(({ side, label }) => `${side} ${label}`)).toEqual([
      "low undefined",
      "high undefined",
      "low HL",
      "high HH",
      "low LL",
      "high LH",
    ]);
  });
});

describe("the current range", () => {
  // Common practice, no source: buys below the equilibrium band of 38.2 to 61.8 %, sells above it.
  it("is discount below its band, premium above it", () => {
    const range = { bottom: 100, top: 200 };
    expect([130, 138.2, 150, 161.8, 170].map((price) => standingIn(range, price)?.place)).toEqual([
      "discount",
      "equilibrium",
      "equilibrium",
      "equilibrium",
      "premium",
    ]);
    expect(standingIn(range, 150)).toMatchObject({ share: 0.5, middle: 150 });
    expect(standingIn({ bottom: 5, top: 5 }, 5)).toBeUndefined();
  });
  it("runs from where the leg of the last shift came from to the extreme since", () => {
    const { structure } = read(closes(10, 12, 14, 13, 11, 13, 15, 17));
    expect(rangeOfTrend(structure.trend!)).toEqual({ bottom: 10.5, top: 17.5, basis: "shift" });
  });
});

describe("legs", () => {
  it("measure speed in ATR a bar, the share given back, and overlap", () => {
    const { track, swings: found } = read(closes(10, 9, 12, 15, 18, 17, 15, 14, 16, 17));
    const [leg, back] = legsOf(track, found.found);
    expect(leg).toMatchObject({ direction: "up", size: 10, bars: 3 });
    expect(leg.speed).toBeCloseTo(10 / 3 / track.atr[leg.from.index], 12);
    expect(back.retraced).toBeCloseTo(5 / 10, 12);
    expect(back.overlap).toBeGreaterThanOrEqual(leg.overlap);
  });
});

describe("reversal swings", () => {
  it("alternate, each confirmed by a move of m ATR away from it and not before", () => {
    const track = new Track(sp500(), 0.01);
    const detector = new ReversalDetector(track, 3);
    run(track, [detector]);
    expect(detector.found.length).toBeGreaterThan(100);
    detector.found.forEach(({ side, index, price, knownAt }, n) => {
      if (n > 0) expect(side).not.toBe(detector.found[n - 1].side);
      const away = (i: number) => (side === "high" ? price - track.low[i] : track.high[i] - price);
      expect(away(knownAt)).toBeGreaterThanOrEqual(3 * track.atr[index]);
      for (let i = index + 1; i < knownAt; i++) expect(away(i)).toBeLessThan(3 * track.atr[index]);
    });
  });
  it("what is known as of a bar is what the series cut there gives", () => {
    const found = (drawn: [number, number, number][]) => {
      const track = new Track(walk(drawn), 0.25);
      const detector = new ReversalDetector(track, 2);
      run(track, [detector]);
      return detector.found;
    };
    fc.assert(
      fc.property(steps, fc.nat(150), (drawn, at) => {
        expect(found(drawn).filter(({ knownAt }) => knownAt < at)).toEqual(found(drawn.slice(0, at)));
      }),
    );
  });
});

describe("highs and lows in turn", () => {
  const swing = (index: number, side: "high" | "low", price: number) => ({
    index,
    time: index,
    side,
    price,
    knownAt: index,
  });
  it("a high that lies below the low before it is none, and the real top stays", () => {
    const all = [
      swing(0, "low", 10),
      swing(1, "high", 20),
      swing(2, "low", 18),
      swing(3, "high", 16),
      swing(4, "low", 9),
    ];
    expect(alternating(all).map(({ price }) => price)).toEqual([10, 20, 9]);
  });
  // Open data: a daily index, 2000 to 2010 (vega-datasets), by weeks; windows of 60 weeks.
  it("in every window of a real index the turns hold its highest high and its lowest low, and alternate", () => {
    const weeks = resample(sp500(), { count: 1, unit: "day" }, { count: 1, unit: "week" }, new Calendar(ALL_HOURS));
    let windows = 0;
    for (let from = 0; from + 60 <= weeks.length; from += 8) {
      const window = slice(weeks, from, from + 60);
      const { price } = turnsOf(window, 40);
      expect([Math.max(...price), Math.min(...price)]).toEqual([Math.max(...window.high), Math.min(...window.low)]);
      for (let i = 2; i < price.length; i++)
        expect(Math.sign(price[i] - price[i - 1])).toBe(-Math.sign(price[i - 1] - price[i - 2]));
      windows++;
    }
    expect(windows).toBeGreaterThan(50);
  });
});

describe("nested swings", () => {
  const turns = () => alternating(swings(sp500(), 2));
  it("of every degree alternate, and every pivot of a coarser degree is one of each finer degree", () => {
    const all = nested(turns());
    let finer = all;
    for (const size of [0, 5, 10, 20, 40, 80, 160, 320]) {
      const degree = degreeOf(all, size);
      degree.forEach((swing, n) => {
        if (n > 0) expect(swing.side).not.toBe(degree[n - 1].side);
        expect(finer).toContain(swing);
      });
      // Every inner leg is longer than what was merged.
      degree
        .slice(2, -1)
        .forEach((swing, n) => expect(Math.abs(swing.price - degree[n + 1].price)).toBeGreaterThan(size));
      finer = degree;
    }
    expect(finer.length).toBeLessThan(all.length / 10);
  });
  it("a small leg inside a large one goes with both its ends", () => {
    const series = closes(10, 9, 20, 18, 30, 12, 14);
    const all = nested(alternating(swings(series, 1)));
    expect(degreeOf(all, 4).map(({ price }) => price)).toEqual([8.5, 30.5]);
  });
  it("few swings are what they are", () =>
    expect([nested([]), nested(turns().slice(0, 2)).map(({ size }) => size)]).toEqual([[], [Infinity, Infinity]]));
});
