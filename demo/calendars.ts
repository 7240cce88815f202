import type { CalendarSpec } from "#core/time/calendar";
import { DAY, formatDate, utc, weekday } from "#core/time/dates";

/** Years whose holidays the calendars name. */
const YEARS = Array.from({ length: 25 }, (_, i) => 2004 + i);

/** Holidays of the Isles: fixed dates, moved to the Monday when they fall on a weekend, and two that are Mondays. */
function holidaysOf(
  fixed: readonly (readonly [month: number, day: number])[],
  mondays: readonly (readonly [month: number, nth: number])[],
): string[] {
  return YEARS.flatMap((year) => [
    ...fixed.map(([month, day]) => formatDate(toMonday(utc(year, month, day) / DAY))),
    ...mondays.map(([month, nth]) => formatDate(nthMonday(year, month, nth))),
  ]).sort();
}

function toMonday(day: number): number {
  return weekday(day) > 5 ? day + 8 - weekday(day) : day;
}

function nthMonday(year: number, month: number, nth: number): number {
  const first = utc(year, month, 1) / DAY;
  return first + ((8 - weekday(first)) % 7) + (nth - 1) * 7;
}

/** Half days on the eves of the turn of the year, where those are working days. */
function evesOf(close: string): Record<string, string> {
  const days = YEARS.flatMap((year) => [utc(year, 12, 24), utc(year, 12, 31)].map((time) => time / DAY)).filter(
    (day) => weekday(day) <= 5,
  );
  return Object.fromEntries(days.map((day) => [formatDate(day), close]));
}

const WORKDAYS = [1, 2, 3, 4, 5];
const YEAR_AND_TIDE = [
  [1, 1],
  [12, 25],
] as const;
/** New Year, Lantern Day, Charter Day, Midwinter; the Mondays of the fleet and of the harvest. */
const HOLIDAYS = holidaysOf(
  [...YEAR_AND_TIDE, [6, 12], [10, 5]],
  [
    [4, 2],
    [8, 4],
  ],
);

/** Currencies: from Sunday evening to Friday evening, by the clocks of the western isles. */
export const AROUND_THE_CLOCK: CalendarSpec = {
  zone: "Europe/Lisbon",
  sessions: [
    { days: WORKDAYS, open: "22:00", close: "08:00", opensDayBefore: true, kind: "overnight" },
    { days: WORKDAYS, open: "08:00", close: "22:00", kind: "regular" },
  ],
  holidays: holidaysOf(YEAR_AND_TIDE, []),
};

export const METAL_FLOOR: CalendarSpec = {
  zone: "Europe/Lisbon",
  sessions: [{ days: WORKDAYS, open: "08:00", close: "18:30", kind: "regular" }],
  holidays: HOLIDAYS,
  halfDays: evesOf("13:00"),
};

/** The stock exchange; its indices are traded before it opens, too. */
export const EXCHANGE: CalendarSpec = {
  zone: "Europe/Lisbon",
  sessions: [{ days: WORKDAYS, open: "08:00", close: "16:30", kind: "regular" }],
  holidays: HOLIDAYS,
  halfDays: evesOf("12:30"),
};

/** Energy is traded in the southern isles, half an hour off the full hour, through the night before. */
export const SOUTHERN_HARBOUR: CalendarSpec = {
  zone: "Australia/Adelaide",
  sessions: [
    { days: WORKDAYS, open: "19:00", close: "08:30", opensDayBefore: true, kind: "overnight" },
    { days: WORKDAYS, open: "08:30", close: "16:30", kind: "regular" },
  ],
  holidays: holidaysOf(YEAR_AND_TIDE, [[3, 2]]),
};

/** Crops in the eastern isles, whose clocks never change; the floor rests at noon. */
export const EASTERN_FLOOR: CalendarSpec = {
  zone: "Asia/Kolkata",
  sessions: [
    { days: WORKDAYS, open: "09:00", close: "12:00", kind: "regular" },
    { days: WORKDAYS, open: "13:00", close: "17:00", kind: "regular" },
  ],
  holidays: holidaysOf(YEAR_AND_TIDE, [[11, 1]]),
  halfDays: evesOf("12:00"),
};
