import { DAY, MINUTE, utc, weekday } from "#core/time/dates";
import { seeded } from "./random.ts";

/** A figure or decision that moves prices for a while, at an instant, by a number of usual day's swings. */
export interface Release {
  time: number;
  name: string;
  size: number;
}

/** What is published for a region: on which day of each month, at which time (UTC), and how much it may move. */
interface Habit {
  name: string;
  dayOf(year: number, month: number): number;
  clock: number;
  force: number;
  everyMonths: number;
}

const nthWeekday = (which: number, nth: number) => (year: number, month: number) => {
  const first = utc(year, month, 1) / DAY;
  return first + ((which - weekday(first) + 7) % 7) + (nth - 1) * 7;
};

const HABITS: readonly Habit[] = [
  { name: "Work and wages", dayOf: nthWeekday(5, 1), clock: 12 * 60 + 30, force: 1.1, everyMonths: 1 },
  { name: "Prices paid by households", dayOf: nthWeekday(3, 2), clock: 9 * 60, force: 0.8, everyMonths: 1 },
  { name: "Decision on the base rate", dayOf: nthWeekday(4, 3), clock: 11 * 60 + 45, force: 1.6, everyMonths: 2 },
];

/** Releases of a region between two day numbers, in order of time; the same every time it is asked for. */
export function releasesOf(region: string, fromDay: number, toDay: number): Release[] {
  const random = seeded(`${region} releases`);
  const out: Release[] = [];
  for (let year = new Date(fromDay * DAY).getUTCFullYear(); year <= new Date(toDay * DAY).getUTCFullYear(); year++)
    for (let month = 1; month <= 12; month++)
      for (const { name, dayOf, clock, force, everyMonths } of HABITS) {
        const size = force * random.normal();
        const time = dayOf(year, month) * DAY + clock * MINUTE;
        if (month % everyMonths === 0) out.push({ time, name, size });
      }
  return out.filter(({ time }) => time >= fromDay * DAY && time < (toDay + 1) * DAY).sort((a, b) => a.time - b.time);
}
