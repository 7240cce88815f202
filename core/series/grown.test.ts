import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { knownAt } from "#core/series/asOf";
import { grown } from "#core/series/grown";
import { deriveFromLayers, growFromLayers, type Layer } from "#core/series/layers";
import { resample } from "#core/series/resample";
import { barAt, fromBars, slice, type Bar, type Series } from "#core/series/series";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { DAY, MINUTE } from "#core/time/dates";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";

const bar = (time: number, close = time): Bar => ({ time, open: 1, high: 9, low: 0, close, volume: 1 });
const bars = (...times: number[]): Series => fromBars(times.map((time) => bar(time)));
const listed = (series: Series) => Array.from({ length: series.length }, (_, i) => barAt(series, i));
const tf = (text: string) => parseTimeframe(text) as Timeframe;

describe("a series that grows", () => {
  it("goes on in its own room: nothing is copied, and who holds the shorter one sees no change", () => {
    const first = grown(bars(1, 2), bars(3));
    const second = grown(first, bars(3, 4));
    const third = grown(second, bars(5));
    expect(second.time.buffer).toBe(first.time.buffer);
    expect(third.time.buffer).toBe(first.time.buffer);
    expect([first, second, third].map(({ time }) => [...time])).toEqual([
      [1, 2, 3],
      [1, 2, 3, 4],
      [1, 2, 3, 4, 5],
    ]);
  });
  it("a bar that says something else now, or another continuation, is written elsewhere", () => {
    const first = grown(bars(1, 2), bars(3));
    const changed = grown(first, fromBars([bar(3, 7), bar(4)]));
    expect(changed.close[2]).toBe(7);
    expect(first.close[2]).toBe(3);
    const [one, other] = [grown(first, bars(4)), grown(first, fromBars([bar(4, 8)]))];
    expect([one.close[3], other.close[3]]).toEqual([4, 8]);
  });
  it("by nothing is itself; beyond its room it moves", () => {
    const first = bars(1);
    expect(grown(first, bars())).toBe(first);
    let series = first;
    for (let time = 2; time < 400; time++) series = grown(series, bars(time));
    expect(listed(series)).toEqual(Array.from({ length: 399 }, (_, i) => bar(i + 1)));
  });
});

const CALENDARS: CalendarSpec[] = [
  { zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close: "24:00" }] },
  { zone: "America/New_York", sessions: [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }] },
  {
    zone: "Europe/Lisbon",
    sessions: [{ days: [1, 2, 3, 4, 5], open: "22:00", close: "17:00", opensDayBefore: true }],
    holidays: ["2024-03-13"],
  },
];
const BEGIN = Date.UTC(2024, 2, 7);

describe("a derived series that grows", () => {
  it("is the one derived at once, over mixtures of resolutions, sessions and a clock change, wherever cut", () => {
    const cuts = fc.array(fc.integer({ min: 1, max: 12 * 96 }), { minLength: 1, maxLength: 12 });
    const shape = fc.record({
      calendar: fc.nat(2),
      minutesFrom: fc.nat(6),
      daysTo: fc.integer({ min: 3, max: 12 }),
      cuts,
    });
    fc.assert(
      fc.property(shape, ({ calendar: n, minutesFrom, daysTo, cuts: at }) => {
        const calendar = new Calendar(CALENDARS[n]);
        const quarters = fromBars(
          Array.from({ length: 12 * 96 }, (_, i) => BEGIN + i * 15 * MINUTE)
            .filter((time, i) => calendar.sessionAt(time) && i % 13 !== 5)
            .map((time, i) => ({ time, open: i, high: i + 2, low: i - 2, close: i + 1, volume: 1 })),
        );
        const days = resample(quarters, tf("PT15M"), tf("P1D"), calendar);
        const from = BEGIN + minutesFrom * DAY;
        const layers: Layer[] = [
          { base: tf("P1D"), series: slice(days, 0, daysTo) },
          {
            base: tf("PT15M"),
            series: slice(
              quarters,
              quarters.time.findIndex((time) => time >= from),
              quarters.length,
            ),
          },
        ];
        for (const rung of ["PT15M", "PT1H", "PT4H", "P1D"]) {
          let series = fromBars([]);
          for (const cut of [...at, 20 * 96].sort((a, b) => a - b)) {
            const known = knownAt(layers, BEGIN + cut * 15 * MINUTE, calendar);
            series = growFromLayers(series, known, tf(rung), calendar);
            expect(listed(series)).toEqual(listed(deriveFromLayers(known, tf(rung), calendar)));
          }
        }
      }),
      { numRuns: 40 },
    );
  });
});
