import { describe, expect, it } from "vitest";
import { gapsOf } from "#core/csv/remarks";
import { sessionsOf, sessionsText } from "#core/csv/sessions";
import { fromBars, type Series } from "#core/series/series";
import { gridDecimals } from "#core/series/tick";
import { sp500 } from "#core/testing/openData";
import { ALL_HOURS, Calendar, checkCalendar, type CalendarSpec } from "#core/time/calendar";
import { DAY, MINUTE } from "#core/time/dates";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";

const tf = (text: string) => parseTimeframe(text) as Timeframe;
const at = (times: readonly number[]): Series =>
  fromBars(times.map((time) => ({ time, open: 1, high: 1, low: 1, close: 1, volume: 1 })));
const MONDAY = Date.UTC(2024, 0, 8);

/** Bars of a length at all instants of eight weeks at which a calendar is open. */
function traded(calendar: CalendarSpec, minutes: number, keep: (n: number) => boolean = () => true): Series {
  const own = new Calendar(calendar);
  const times: number[] = [];
  for (let n = 0; n < (56 * 1440) / minutes; n++) {
    const time = MONDAY + n * minutes * MINUTE;
    if (own.sessionAt(time) && keep(n)) times.push(time);
  }
  return at(times);
}

describe("the sessions a file shows", () => {
  const newYork: CalendarSpec = {
    zone: "America/New_York",
    sessions: [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }],
  };
  const around: CalendarSpec = {
    zone: "UTC",
    sessions: [{ days: [1, 2, 3, 4, 5], open: "22:00", close: "21:00", opensDayBefore: true }],
  };
  it("are the very ones it was traded in: by day, over midnight, with a pause at noon", () => {
    const noon: CalendarSpec = {
      zone: "UTC",
      sessions: [
        { days: [1, 2, 3, 4, 5], open: "09:00", close: "11:30" },
        { days: [1, 2, 3, 4, 5], open: "12:30", close: "15:00" },
      ],
    };
    for (const calendar of [newYork, around, noon])
      for (const minutes of [5, 15, 30]) {
        const found = sessionsOf(traded(calendar, minutes), tf(`PT${minutes}M`), calendar.zone);
        expect(found).toEqual(calendar.sessions);
      }
  });
  it("though a third of the minutes are missing, and a week is", () => {
    const thin = traded(newYork, 1, (n) => n % 3 !== 0 && Math.floor(n / 10_080) !== 4);
    expect(sessionsOf(thin, tf("PT1M"), newYork.zone)).toEqual(newYork.sessions);
  });
  it("of one that goes through from Sunday evening to Friday are five, each from the evening before", () => {
    const through = { ...around, sessions: [{ ...around.sessions[0], close: "22:00" }] };
    expect(sessionsOf(traded(through, 15), tf("PT15M"), "UTC")).toEqual(through.sessions);
    expect(sessionsText(through.sessions)).toBe("Mon to Fri 22:00 the day before to 22:00");
  });
  it("are none where it trades at all hours, of longer bars, and of a few days", () => {
    expect(sessionsOf(traded(ALL_HOURS, 60), tf("PT1H"), "UTC")).toBeUndefined();
    expect(sessionsOf(at([MONDAY, MONDAY + DAY]), tf("P1D"), "UTC")).toBeUndefined();
    expect(sessionsOf(sp500(), tf("P1W"), "UTC")).toBeUndefined();
  });
  // Open data: a daily index, 2000 to 2010 (vega-datasets): 1,109 gaps by all days, of which weekends are most.
  it("of a real daily file are its weekdays, and what is missing then are holidays", () => {
    const series = sp500();
    const sessions = sessionsOf(series, tf("P1D"), "UTC") ?? [];
    expect(sessionsText(sessions)).toBe("Mon to Fri");
    expect(checkCalendar({ zone: "UTC", sessions })).toEqual([]);
    const by = (spec: CalendarSpec) => gapsOf(series, tf("P1D"), new Calendar(spec)).count;
    expect([by(ALL_HOURS), by({ zone: "UTC", sessions })]).toEqual([1109, 185]);
  });
});

describe("the decimals of a grid", () => {
  it("are those of the prices, not of what binary fractions leave of them", () => {
    expect(gridDecimals([1469.25, 1399.420044, 1402.109985], 6)).toBe(2);
    expect(gridDecimals([Math.fround(0.1234), Math.fround(1.5678)], 10)).toBe(4);
    expect(gridDecimals([101.25, 101.5], 2)).toBe(2);
    expect(gridDecimals([], 3)).toBe(3);
  });
  it("of prices that use them are kept: six decimals of a rate are six", () => {
    expect(gridDecimals([1.234567, 1.234512, 0.998877], 6)).toBe(6);
    expect(gridDecimals([0.00000012, 0.00000013], 8)).toBe(8);
  });
  it("of a real file with six are two", () => {
    const { open, high, low, close } = sp500();
    expect(gridDecimals([...open, ...high, ...low, ...close], 6)).toBe(2);
  });
});
