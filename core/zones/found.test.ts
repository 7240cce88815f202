import { describe, expect, it } from "vitest";
import { Bands } from "#core/levels/bands";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { RungReader } from "#core/finding/reader";
import type { Series } from "#core/series/series";
import { days } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

type Candle = [number, number, number, number];
const calendar = new Calendar(ALL_HOURS);
const weekdays = new Calendar({ zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5], open: "09:00", close: "17:00" }] });
const read = (series: Series, on = calendar, change: Partial<typeof FINDING_DEFAULTS> = {}) =>
  new RungReader(series, { count: 1, unit: "day" }, on, 0.01, { ...FINDING_DEFAULTS, k: 1, ...change });

/** Twenty lively bars about 100: the ATR is 4. */
const lively: Candle[] = Array.from({ length: 20 }, (_, i): Candle =>
  i % 2 === 0 ? [100, 104, 100, 104] : [104, 104, 100, 100],
);
const base: Candle[] = [
  [100, 101, 99.5, 99.8],
  [99.8, 100.5, 99, 100.2],
];

// The rules are facts of the trade: common practice, no source.
describe("a zone from its base", () => {
  const rally: Candle[] = [
    [100.2, 105, 100.2, 105],
    [105, 110, 104, 110],
  ];
  it(
    "is known at the close that is 1.5 ATR away, within three bars; demand lies from the last bearish body's " +
      "top to the lowest wick",
    () => {
      const [zone] = read(days(...lively, ...base, ...rally)).bases.found;
      expect(zone).toMatchObject({
        from: 20,
        to: 21,
        side: "demand",
        bottom: 99,
        top: 100,
        knownAt: 23,
        kind: "drop-base-rally",
      });
      expect(zone.departure).toBeCloseTo((110 - 100.2) / 4, 1);
      expect(read(days(...lively, ...base, rally[0])).bases.found).toEqual([]);
    },
  );
  it("a base that is not left yet is pending, and leans the way of its last close", () => {
    expect(read(days(...lively, ...base)).bases.pending()).toMatchObject([
      { from: 20, to: 21, side: "demand", bottom: 99 },
    ]);
    expect(read(days(...lively, ...base, ...rally)).bases.pending()).toEqual([]);
  });
  it("a leg a tick short of 1.5 ATR leaves none; nor does a base of seven bars", () => {
    const unit = read(days(...lively)).track.atr[19];
    const leave = (close: number): Candle[] => [[100.2, close, 97, close]];
    expect(read(days(...lively, ...base, ...leave(100.2 + 1.5 * unit - 0.01))).bases.found).toHaveLength(0);
    expect(read(days(...lively, ...base, ...leave(100.2 + 1.5 * unit + 0.01))).bases.found).toHaveLength(1);
    const long = Array.from({ length: 7 }, (): Candle => [100, 101, 99, 100]);
    expect(read(days(...lively, ...long, ...rally)).bases.found).toHaveLength(0);
    expect(read(days(...lively, ...long.slice(1), ...rally)).bases.found).toHaveLength(1);
  });
  it(
    "lives on: touched once until price has left by its height, then again, broken by a close beyond the " + "far edge",
    () => {
      const after: Candle[] = [
        [110, 110, 99.9, 103],
        [103, 104, 99.6, 104],
        [104, 105, 99.9, 104],
        [104, 104, 95, 98],
      ];
      const [{ life }] = read(days(...lively, ...base, ...rally, ...after)).bases.found;
      expect(life.events.map(({ event, touches }) => `${event} ${touches}`)).toEqual([
        "touched 1",
        "left 1",
        "touched 2",
        "left 2",
        "touched 3",
        "left 3",
        "spent 3",
        "touched 4",
        "broken 4",
      ]);
      expect(life.events[0].deepest).toBeCloseTo(0.1, 9);
    },
  );
});

describe("an order block", () => {
  it("is the last opposite candle before the leg that broke structure", () => {
    // A high at 106, back to 98 on a bearish candle, then a close above 106.
    const series = days(
      ...lively,
      [100, 106, 100, 105],
      [105, 105, 101, 102],
      [102, 102, 98, 99],
      [99, 103, 99, 103],
      [103, 108, 103, 108],
    );
    const blocks = read(series).orderBlocks.found;
    expect(blocks.at(-1)).toMatchObject({ from: 22, side: "demand", bottom: 98, top: 102, knownAt: 24 });
  });
});

describe("a range", () => {
  const quiet = Array.from({ length: 9 }, (_, i): Candle => [100, 102, 99, i % 2 === 0 ? 101 : 100]);
  it("is eight bars within two ATR, left by a close beyond its edge, as a turn or a continuation", () => {
    const [range] = read(days(...lively, ...quiet, [101, 106, 101, 106])).ranges.found;
    expect(range).toMatchObject({ top: 104, left: { way: "up" } });
    const held = read(days(...lively, ...quiet, [101, 106, 101, 103])).ranges.found[0];
    expect(held.left).toBeUndefined();
  });
  // Common practice, no source: price that breaks out of a small range often comes back to tap its edge.
  it("is tapped by price that comes back to its edge", () => {
    const [range] = read(days(...lively, ...quiet, [101, 106, 101, 106], [106, 107, 105, 106], [106, 106, 104, 105]))
      .ranges.found;
    expect(range.left?.life.events.map(({ event }) => event)).toEqual(["touched"]);
  });
});

describe("opening gaps", () => {
  // 2024-01-01 is a Monday; the sixth bar is the Saturday's place, so bars go Monday to Friday here by hand.
  const week = (...candles: Candle[]): Series => {
    const series = days(...candles);
    for (let i = 0, date = 1; i < series.length; i++, date++) {
      while (new Date(Date.UTC(2024, 0, date)).getUTCDay() % 6 === 0) date++;
      series.time[i] = Date.UTC(2024, 0, date);
    }
    return series;
  };
  const flat: Candle[] = Array.from({ length: 5 }, (): Candle => [100, 102, 98, 100]);
  it("lie between a close and the next open; over a weekend they are told so", () => {
    const [gap] = read(week(...flat, [103, 105, 102, 104]), weekdays).openingGaps.found;
    expect(gap).toMatchObject({
      at: 5,
      direction: "up",
      bottom: 100,
      top: 103,
      weekend: true,
      state: "partly",
      firstTouch: 5,
    });
    expect(read(week(...flat, [100.1, 105, 100, 104]), weekdays).openingGaps.found).toEqual([]);
    expect(read(days(...flat, [103, 105, 102, 104]), calendar).openingGaps.found).toEqual([]);
  });
  // Kinds after Edwards and Magee (1948), from memory.
  it("are breakaway when their bar breaks structure, exhaustion when a runaway one is filled soon", () => {
    const rise: Candle[] = [
      [100, 102, 99, 101],
      [101, 104, 100, 103],
      [103, 103, 100, 101],
    ];
    const broke = week(...flat, ...rise, [105, 107, 105, 106]);
    expect(read(broke, weekdays).openingGaps.found.at(-1)).toMatchObject({ kind: "breakaway" });
    const ran = week(...flat, ...rise, [105, 107, 105, 106], [108, 110, 107, 109], [109, 109, 105, 105]);
    expect(read(ran, weekdays).openingGaps.found.at(-1)).toMatchObject({ at: 9, kind: "exhaustion", state: "filled" });
  });
});

it("bands price is away from cost nothing: of ten thousand only those that are met are looked at", () => {
  const series = days(...lively);
  let looked = 0;
  const counting = new Proxy(series, {
    get: (target, name) => {
      if (name === "close") looked++;
      return Reflect.get(target, name) as unknown;
    },
  });
  const bands = new Bands(counting as never);
  for (let n = 0; n < 10_000; n++)
    bands.add({ side: "demand", bottom: 50 - n / 1000, top: 51 - n / 1000, leave: 1 }, 0, 0);
  looked = 0;
  for (let i = 1; i < series.length; i++) bands.next(i);
  expect(looked).toBe(0);
});
