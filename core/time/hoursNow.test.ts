import { describe, expect, it } from "vitest";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { hoursAt, nextClosures } from "#core/time/hoursNow";

const iso = (time: number) => (Number.isFinite(time) ? new Date(time).toISOString().slice(0, 16) : "never");
const at = (text: string, calendar: Calendar) => {
  const { session, changes } = hoursAt(Date.parse(`${text}:00Z`), calendar);
  return `${session?.kind ?? "shut"} ${iso(changes)}`;
};

describe("the hours of a market at an instant", () => {
  const floor = new Calendar({
    zone: "Asia/Kolkata",
    sessions: [
      { days: [1, 2, 3, 4, 5], open: "09:00", close: "12:00" },
      { days: [1, 2, 3, 4, 5], open: "13:00", close: "17:00" },
    ],
    holidays: ["2024-01-05"],
    halfDays: { "2024-01-04": "12:00" },
  });
  it.each([
    ["2024-01-03T03:29", "shut 2024-01-03T03:30"],
    ["2024-01-03T03:30", "regular 2024-01-03T06:30"],
    ["2024-01-03T07:00", "shut 2024-01-03T07:30"],
    ["2024-01-03T11:29", "regular 2024-01-03T11:30"],
    ["2024-01-04T06:30", "shut 2024-01-08T03:30"],
  ])("a floor with a rest at noon, a half day and a holiday: %s is %s", (time, expected) =>
    expect(at(time, floor)).toBe(expected),
  );

  const currency = new Calendar({
    zone: "Europe/Lisbon",
    sessions: [
      { days: [1, 2, 3, 4, 5], open: "22:00", close: "08:00", opensDayBefore: true, kind: "overnight" },
      { days: [1, 2, 3, 4, 5], open: "08:00", close: "22:00" },
    ],
  });
  it("sessions that follow without a break end together, on Friday evening", () => {
    expect(at("2024-01-10T03:00", currency)).toBe("overnight 2024-01-12T22:00");
    expect(at("2024-01-13T12:00", currency)).toBe("shut 2024-01-14T22:00");
  });
  it("what never closes has no end", () =>
    expect(at("2024-01-10T03:00", new Calendar(ALL_HOURS))).toBe("regular never"));
  it("the next closures are told in order", () => {
    expect(nextClosures(floor, "2024-01-01", 5)).toEqual([
      { date: "2024-01-04", closes: "12:00" },
      { date: "2024-01-05" },
    ]);
    expect(nextClosures(floor, "2024-01-05", 5)).toEqual([{ date: "2024-01-05" }]);
  });
});
