import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asInstant } from "#core/observe/instant";
import { RungFold } from "#core/observe/rungFold";
import { knownAt } from "#core/series/asOf";
import type { Layer } from "#core/series/layers";
import { resample } from "#core/series/resample";
import { fromBars, slice, type Bar, type Series } from "#core/series/series";
import { days, sp500 } from "#core/testing/openData";
import { allHours, layer, rows, toldOf } from "#core/testing/told";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { DAY, MINUTE } from "#core/time/dates";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";

const HOUR = 60 * MINUTE;
const MONDAY = Date.UTC(2024, 0, 1);
const tf = (text: string) => parseTimeframe(text) as Timeframe;
const names = (told: readonly { from: number; to: number }[], from = MONDAY) =>
  told.map((bar) => `${(bar.from - from) / HOUR}-${(bar.to - from) / HOUR}`);

describe("a bar that has closed", () => {
  const newYork: CalendarSpec = {
    zone: "America/New_York",
    sessions: [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }],
    halfDays: { "2024-11-29": "13:00" },
  };
  const calendar = new Calendar(newYork);
  const spanOf = (base: string, time: number) =>
    toldOf([layer(base, rows([time, 1, 1, 1, 1]))], calendar).map(({ from, to }) =>
      [from, to].map((instant) => new Date(instant).toISOString().slice(0, 16)),
    );
  it("of a day opens and closes with its sessions, in winter, in summer and on a half day", () => {
    expect(spanOf("P1D", Date.UTC(2024, 0, 8))).toEqual([["2024-01-08T14:30", "2024-01-08T21:00"]]);
    expect(spanOf("P1D", Date.UTC(2024, 6, 8))).toEqual([["2024-07-08T13:30", "2024-07-08T20:00"]]);
    expect(spanOf("P1D", Date.UTC(2024, 10, 29))).toEqual([["2024-11-29T14:30", "2024-11-29T18:00"]]);
  });
  it("of a week is known with its last session; of an hour not later than the session's end", () => {
    expect(spanOf("P1W", Date.UTC(2024, 10, 25))).toEqual([["2024-11-25T14:30", "2024-11-29T18:00"]]);
    expect(spanOf("PT1H", Date.UTC(2024, 10, 29, 17, 30))).toEqual([["2024-11-29T17:30", "2024-11-29T18:00"]]);
    expect(spanOf("PT1H", Date.UTC(2024, 0, 8, 15, 30))).toEqual([["2024-01-08T15:30", "2024-01-08T16:30"]]);
  });
  it("of a label that does not trade has its civil date in the market's zone", () => {
    expect(spanOf("P1D", Date.UTC(2024, 0, 6))).toEqual([["2024-01-06T05:00", "2024-01-07T05:00"]]);
  });
});

describe("what is told", () => {
  const day = (n: number): [number, number, number, number, number] => [MONDAY + n * DAY, 10, 12, 9, 11];
  const hour = (n: number): [number, number, number, number, number] => [MONDAY + n * HOUR, 10, 11, 9, 10];
  const hours = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => hour(from + i));
  it("is the finest of each stretch, from the first that opens with a coarser one on", () => {
    const told = toldOf([layer("P1D", rows(day(0), day(1), day(2), day(3))), layer("PT1H", rows(...hours(20, 48)))]);
    // The hours of Monday's end do not make Monday; Tuesday's do, and Wednesday has none.
    expect(names(told)).toEqual([
      "0-24",
      ...Array.from({ length: 24 }, (_, i) => `${24 + i}-${25 + i}`),
      "48-72",
      "72-96",
    ]);
  });
  it("a coarser bar is told where the finer ones have a hole, not where they only have gaps", () => {
    const four = rows(
      ...[0, 4, 8, 12].map((n): [number, number, number, number, number] => [MONDAY + n * HOUR, 1, 1, 1, 1]),
    );
    const told = toldOf([layer("PT4H", four), layer("PT1H", rows(hour(0), hour(3), hour(9), hour(12)))]);
    expect(names(told)).toEqual(["0-1", "3-4", "4-8", "9-10", "12-13"]);
  });
  it("days first and then their hours are told once: what was told stays told", () => {
    const coarse = layer("P1D", rows(day(0), day(1)));
    const first = toldOf([coarse]);
    expect(names(first)).toEqual(["0-24", "24-48"]);
    const fine = layer("PT1H", rows(...hours(0, 72)));
    const rest = toldOf([coarse, fine], allHours, first[1].to);
    expect(names(rest)).toEqual(Array.from({ length: 24 }, (_, i) => `${48 + i}-${49 + i}`));
  });
  it("is nothing that has not closed", () => {
    const bars = [layer("PT1H", rows(...hours(0, 3)))];
    expect(names(toldOf(bars, allHours, undefined, MONDAY + 2.5 * HOUR))).toEqual(["0-1", "1-2"]);
  });
});

/**
 * Random minutes of two weeks by a calendar, resampled to some resolutions, each with a beginning, an end and holes of
 * its own.
 */
const CALENDARS: CalendarSpec[] = [
  { zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close: "24:00" }] },
  {
    zone: "Europe/Lisbon",
    sessions: [
      { days: [1, 2, 3, 4, 5], open: "22:00", close: "08:00", opensDayBefore: true, kind: "overnight" },
      { days: [1, 2, 3, 4, 5], open: "08:00", close: "17:00" },
    ],
    halfDays: { "2024-03-28": "12:00" },
    holidays: ["2024-03-29", "2024-04-01"],
  },
  { zone: "America/New_York", sessions: [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }] },
];
/** Both clock changes lie within: of the United States on 10 March, of Portugal on 31 March 2024. */
const BEGIN = Date.UTC(2024, 2, 7);
const BASES = ["PT15M", "PT1H", "PT4H", "P1D", "P1W"];

const mixture = fc.record({
  calendar: fc.nat(CALENDARS.length - 1),
  steps: fc.array(fc.integer({ min: -3, max: 3 }), { minLength: 30, maxLength: 60 }),
  layers: fc.uniqueArray(fc.nat(BASES.length - 1), { minLength: 1, maxLength: 4 }).chain((chosen) =>
    fc.tuple(
      ...chosen.map((base) =>
        fc.record({
          base: fc.constant(base),
          cut: fc.double({ min: 0, max: 0.7, noNaN: true }),
          end: fc.double({ min: 0.5, max: 1, noNaN: true }),
          holes: fc.nat(12),
        }),
      ),
    ),
  ),
  cuts: fc.array(fc.integer({ min: 0, max: 30 * 24 }), { maxLength: 8 }),
});

function layersFrom(
  steps: readonly number[],
  calendar: Calendar,
  chosen: readonly { base: number; cut: number; end: number; holes: number }[],
): Layer[] {
  const quarters: Bar[] = [];
  let price = 100;
  for (let i = 0; i < 30 * 96; i++) {
    const time = BEGIN + i * 15 * MINUTE;
    if (!calendar.sessionAt(time)) continue;
    const close = price + steps[i % steps.length];
    quarters.push({
      time,
      open: price,
      high: Math.max(price, close) + 1,
      low: Math.min(price, close) - 1,
      close,
      volume: 1,
    });
    price = close;
  }
  const all = fromBars(quarters);
  return chosen.map(({ base, cut, end, holes }) => {
    const series = resample(all, tf("PT15M"), tf(BASES[base]), calendar);
    const kept = slice(series, Math.floor(series.length * cut), Math.ceil(series.length * end));
    return layer(BASES[base], without(kept, holes));
  });
}

/** Every n-th bar is missing; with 0 to 2 none is. */
function without(series: Series, n: number): Series {
  if (n < 3) return series;
  const bars = Array.from({ length: series.length }, (_, i) => i).filter((i) => i % n !== n - 1);
  return fromBars(
    bars.map((i) => ({
      time: series.time[i],
      open: series.open[i],
      high: series.high[i],
      low: series.low[i],
      close: series.close[i],
      volume: 1,
    })),
  );
}

describe("the laws of telling, over mixtures of resolutions, sessions, half days and clock changes", () => {
  it("no stretch is told twice, and nothing before it is known", () => {
    fc.assert(
      fc.property(mixture, ({ calendar: n, steps, layers }) => {
        const calendar = new Calendar(CALENDARS[n]);
        const told = toldOf(layersFrom(steps, calendar, layers), calendar);
        told.forEach(({ from, to }, i) => {
          expect(from).toBeLessThan(to);
          if (i > 0) expect(from).toBeGreaterThanOrEqual(told[i - 1].to);
        });
      }),
      { numRuns: 60 },
    );
  });
  it("in one go, one by one and after a restart anywhere the same is told, from what was known then", () => {
    fc.assert(
      fc.property(mixture, ({ calendar: n, steps, layers, cuts }) => {
        const calendar = new Calendar(CALENDARS[n]);
        const all = layersFrom(steps, calendar, layers);
        const whole = toldOf(all, calendar);
        const ends = [...cuts.map((hour) => BEGIN + hour * HOUR + 7 * MINUTE), BEGIN + 60 * DAY].sort((a, b) => a - b);
        const parts: typeof whole = [];
        for (const until of ends)
          parts.push(...toldOf(knownAt(all, until, calendar), calendar, parts.at(-1)?.to, until));
        expect(parts).toEqual(whole);
        const single: typeof whole = [];
        for (const { to } of whole) single.push(...toldOf(knownAt(all, to, calendar), calendar, single.at(-1)?.to, to));
        expect(single).toEqual(whole);
      }),
      { numRuns: 40 },
    );
  });
  it("bars of a rung made of what is told are those that the finest bars make, where they have no holes", () => {
    fc.assert(
      fc.property(fc.nat(CALENDARS.length - 1), mixture, (n, { steps }) => {
        const calendar = new Calendar(CALENDARS[n]);
        const layers = layersFrom(steps, calendar, [{ base: 0, cut: 0, end: 1, holes: 0 }]);
        for (const rung of ["PT45M", "PT4H", "P1D", "P1W"]) {
          const fold = new RungFold(tf(rung), calendar);
          const bars = toldOf(layers, calendar).flatMap((told) => fold.next(told));
          const made = resample(layers[0].series, tf("PT15M"), tf(rung), calendar);
          expect(bars.length).toBeGreaterThanOrEqual(made.length - 1);
          bars.forEach(({ time, open, high, low, close }, i) =>
            expect([time, open, high, low, close]).toEqual([
              made.time[i],
              made.open[i],
              made.high[i],
              made.low[i],
              made.close[i],
            ]),
          );
        }
      }),
      { numRuns: 15 },
    );
  });
});

describe("closes of a rung", () => {
  const closesOf = (series: Series, rung: string, calendar = allHours) => {
    const fold = new RungFold(tf(rung), calendar);
    return toldOf([layer("P1D", series)], calendar).flatMap((told) =>
      fold.next(told).map((bar) => ({ bar, known: told.time })),
    );
  };
  // Open data: S&P 500, daily, 2000 to 2010 (vega-datasets).
  it("of a daily file without sessions every week and month is seen, with the first day after it", () => {
    const series = sp500();
    for (const rung of ["P1W", "P1M"]) {
      const made = resample(series, tf("P1D"), tf(rung), allHours);
      const closes = closesOf(series, rung);
      expect(closes.map(({ bar }) => bar.close)).toEqual([...made.close.subarray(0, made.length - 1)]);
      closes.forEach(({ known }, i) => {
        const next = rung === "P1W" ? made.time[i] + 7 * DAY : Date.UTC(2000, i + 1, 1);
        expect(known).toBe([...series.time].find((time) => time >= next - DAY));
      });
    }
    expect(closesOf(series, "P1W").length).toBeGreaterThan(500);
  });
  it("of a market that knows its week the Friday closes it", () => {
    const week = new Calendar({ zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5], open: "09:00", close: "17:00" }] });
    const bars = days([1, 2, 1, 1], [1, 2, 1, 2], [2, 3, 2, 3], [3, 4, 3, 4], [4, 5, 4, 5]);
    expect(closesOf(bars, "P1W", week)).toMatchObject([
      { bar: { close: 5, high: 5, low: 1 }, known: MONDAY + 4 * DAY },
    ]);
  });
  it("with minutes missing no hour is lost: the next bar tells it", () => {
    const kept = [0, 30, 58, 61, 119, 185].map((n): [number, number, number, number, number] => [
      MONDAY + n * MINUTE,
      n,
      n,
      n,
      n,
    ]);
    const fold = new RungFold(tf("PT1H"), allHours);
    const known = toldOf([layer("PT1M", rows(...kept))]).flatMap(({ from, ...told }) =>
      fold.next({ from, ...told }).map(({ close }) => [close, (from - MONDAY) / MINUTE]),
    );
    expect(known).toEqual([
      [58, 61],
      [119, 119],
    ]);
  });
  it("a told bar as long as the rung, or longer, is a bar of it", () => {
    const fold = new RungFold(tf("PT1H"), allHours);
    const [bar] = toldOf([layer("P1D", days([1, 2, 1, 2]))]).flatMap((told) => fold.next(told));
    expect(bar).toMatchObject({ from: asInstant(MONDAY), close: 2 });
  });
});
