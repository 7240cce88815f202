import { DateTime } from "luxon";
import { describe, expect, it } from "vitest";
import { bucketAt, nextTimes } from "#core/time/boundaries";
import { ALL_HOURS, Calendar, checkCalendar, type CalendarSpec } from "#core/time/calendar";
import { DAY, mondayOf, parseDate, weekday } from "#core/time/dates";
import { divides, formatTimeframe, labelOf, parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { instantOf, isZone, offsetAt, secondOf } from "#core/time/zone";

// Reference: luxon 3.7 (npm), over the IANA database. Both hemispheres, half-hour zones, a zone that skipped a day.
describe("zones", () => {
  const zones = [
    "Europe/Lisbon",
    "America/New_York",
    "Australia/Lord_Howe",
    "Asia/Kolkata",
    "America/St_Johns",
    "Pacific/Apia",
    "Africa/Casablanca",
  ];
  it.each(zones)("%s: offsets and instants agree with the reference around every change of six years", (zone) => {
    for (let time = Date.UTC(2020, 0, 1); time < Date.UTC(2026, 0, 1); time += 7 * 3_600_000 + 13 * 60_000) {
      const reference = DateTime.fromMillis(time, { zone }).offset * 60_000;
      if (offsetAt(time, zone) !== reference)
        expect.fail(`${zone} at ${new Date(time).toISOString()}: ${offsetAt(time, zone)} is not ${reference}`);
      const civil = time + reference;
      const instant = instantOf(civil, zone);
      // Twice-told times are read as the first of the two.
      if (instant !== time && instant + offsetAt(instant, zone) !== civil)
        expect.fail(`${zone}: ${new Date(civil).toISOString()} is read as ${new Date(instant).toISOString()}`);
    }
  });
  it("known transitions: Lisbon springs forward on 29 March 2026 at 01:00 UTC", () => {
    const change = Date.UTC(2026, 2, 29, 1);
    expect([offsetAt(change - 1, "Europe/Lisbon"), offsetAt(change, "Europe/Lisbon")]).toEqual([0, 3_600_000]);
    // 01:30 does not exist that night: read with the offset before the change it is 02:30.
    expect(instantOf(Date.UTC(2026, 2, 29, 1, 30), "Europe/Lisbon")).toBe(Date.UTC(2026, 2, 29, 1, 30));
  });
  it("a time of day that comes twice has a second instant, others have none", () => {
    const first = Date.UTC(2026, 9, 25, 0, 30);
    expect(secondOf(first, "Europe/Lisbon")).toBe(first + 3_600_000);
    expect(secondOf(first - 7_200_000, "Europe/Lisbon")).toBeUndefined();
    // Lord Howe puts its clocks back by half an hour: Sunday 5 April 2026 at 02:00, which is 15:00 UTC of Saturday.
    expect(secondOf(Date.UTC(2026, 3, 4, 14, 45), "Australia/Lord_Howe")).toBe(Date.UTC(2026, 3, 4, 15, 15));
  });
  it("an invented zone is none", () =>
    expect([isZone("Meridian/Port"), isZone("Europe/Lisbon")]).toEqual([false, true]));
});

describe("dates", () => {
  it("weekdays and Mondays are those of ISO 8601", () => {
    for (let day = -10_000; day < 30_000; day += 97) {
      const reference = DateTime.fromMillis(day * DAY, { zone: "utc" });
      expect(weekday(day)).toBe(reference.weekday);
      expect(mondayOf(day) * DAY).toBe(reference.startOf("week").toMillis());
    }
  });
  it.each(["2023-02-29", "2024-13-01", "2024-1-1", "x"])("%s is no date", (text) =>
    expect(parseDate(text)).toBeUndefined(),
  );
});

describe("timeframes", () => {
  // ISO 8601 durations of one part.
  it.each(["PT1M", "PT45M", "PT4H", "P1D", "P1W", "P1M", "P3M", "P1Y"])("%s is read and written alike", (text) =>
    expect(formatTimeframe(parseTimeframe(text)!)).toBe(text),
  );
  it.each(["P0D", "1D", "PT1D", "P1H", "P1M2D", "", "PT99999M"])("%s is none", (text) =>
    expect(parseTimeframe(text)).toBeUndefined(),
  );
  it("labels are the Monday, the first of the month, the quarter, the year", () => {
    const day = parseDate("2024-05-16")!;
    const label = (text: string) => new Date(labelOf(day, parseTimeframe(text)!) * DAY).toISOString().slice(0, 10);
    expect(["P1D", "P1W", "P1M", "P3M", "P1Y"].map(label)).toEqual([
      "2024-05-16",
      "2024-05-13",
      "2024-05-01",
      "2024-04-01",
      "2024-01-01",
    ]);
  });
  it("a base must divide what is made of it", () => {
    const tf = (text: string): Timeframe => parseTimeframe(text)!;
    expect(divides(tf("PT15M"), tf("PT45M"))).toBe(true);
    expect(divides(tf("PT30M"), tf("PT45M"))).toBe(false);
    expect(divides(tf("P1W"), tf("P1M"))).toBe(false);
    expect(divides(tf("P1M"), tf("P1Y"))).toBe(true);
    expect(divides(tf("P1D"), tf("PT4H"))).toBe(false);
  });
});

const NIGHT: CalendarSpec = {
  zone: "America/New_York",
  sessions: [{ days: [1, 2, 3, 4, 5], open: "18:00", close: "17:00", opensDayBefore: true, kind: "overnight" }],
  holidays: ["2024-07-04"],
  halfDays: { "2024-07-05": "13:00" },
};

describe("sessions", () => {
  const calendar = new Calendar(NIGHT);
  const date = (time: number) => new Date(calendar.tradingDate(time) * DAY).toISOString().slice(0, 10);
  it("Sunday evening belongs to Monday", () => expect(date(Date.UTC(2024, 5, 2, 23))).toBe("2024-06-03"));
  it("a print between the sessions belongs to the next date, also over a holiday", () => {
    expect(date(Date.UTC(2024, 5, 3, 21, 30))).toBe("2024-06-04");
    expect(date(Date.UTC(2024, 6, 4, 12))).toBe("2024-07-05");
  });
  it("a half day ends early", () => expect(calendar.close(parseDate("2024-07-05")!)).toBe(Date.UTC(2024, 6, 5, 17)));
  it("bars are cut by elapsed time from the open, on the days the clocks change too", () => {
    // The session of Monday 11 March 2024 opens on Sunday at 18:00 of New York, already on summer time: 22:00 UTC.
    const four = parseTimeframe("PT4H")!;
    const bucket = bucketAt(Date.UTC(2024, 2, 11, 3), four, calendar);
    expect(new Date(bucket.from).toISOString()).toBe("2024-03-11T02:00:00.000Z");
    const last = bucketAt(Date.UTC(2024, 2, 11, 20, 30), four, calendar);
    expect([new Date(last.from).toISOString(), new Date(last.to).toISOString()]).toEqual([
      "2024-03-11T18:00:00.000Z",
      "2024-03-11T21:00:00.000Z",
    ]);
  });
  it("the future is dated by the sessions to come", () => {
    const times = nextTimes(Date.UTC(2024, 6, 3), parseTimeframe("P1D")!, calendar, 2).map((time) =>
      new Date(time).toISOString().slice(0, 10),
    );
    expect(times).toEqual(["2024-07-05", "2024-07-08"]);
    const hours = nextTimes(Date.UTC(2024, 6, 5, 16), parseTimeframe("PT1H")!, calendar, 1);
    expect(new Date(hours[0]).toISOString()).toBe("2024-07-07T22:00:00.000Z");
  });
  it.each<[string, CalendarSpec]>([
    ["time zone", { ...NIGHT, zone: "Nowhere/Here" }],
    ["overlap", { zone: "UTC", sessions: [...ALL_HOURS.sessions, { days: [1], open: "09:00", close: "10:00" }] }],
    ["closes before it opens", { zone: "UTC", sessions: [{ days: [1], open: "10:00", close: "09:00" }] }],
    ["HH:MM", { zone: "UTC", sessions: [{ days: [1], open: "9am", close: "10:00" }] }],
    ["weekdays", { zone: "UTC", sessions: [{ days: [8], open: "09:00", close: "10:00" }] }],
    ["not a date", { ...NIGHT, holidays: ["2024-02-30"] }],
    ["no session", { zone: "UTC", sessions: [] }],
  ])("an impossible calendar is told: %s", (words, spec) => expect(checkCalendar(spec).join(" ")).toContain(words));
});
