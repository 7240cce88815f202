import { judgeEach, type Condition, type Look, ABOUT_NONE } from "#core/conditions/condition";
import { DAY, dayNumber, MINUTE, parseClock, weekday } from "#core/time/dates";
import { offsetAt } from "#core/time/zone";

export interface TimeTerms {
  on: "time";
  /** Clock times, the first included; over midnight when the second is not later. */
  from: string;
  to: string;
  /** ISO weekdays of the opening's date; all where they are left out. */
  days?: readonly number[];
  /** The market's where it is left out. */
  zone?: string;
}

const NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** A bar that opens within a window of the day. Judged by what is told. */
export const time: Condition<TimeTerms, null> = {
  on: "time",
  read(fields) {
    const terms = { on: "time" as const, from: fields.clock("from"), to: fields.clock("to"), ...fields.zone("zone") };
    if (!fields.has("days")) return terms;
    const days = fields.list("days", 1, 7);
    if (days.some((day) => !Number.isInteger(day) || (day as number) < 1 || (day as number) > 7))
      fields.fault("days", "must be weekdays from 1 (Monday) to 7");
    return { ...terms, days: days as number[] };
  },
  needs: () => [],
  start: () => null,
  next: (terms, _state, look) => judgeEach(look, undefined, ({ bar: { from } }) => isWithin(terms, from, look)),
  binds: () => [],
  ...ABOUT_NONE,
  say: ({ from, to, days, zone }) =>
    `it is between ${from} and ${to}${zone ? ` in ${zone}` : ""}` +
    (days ? ` on ${days.map((day) => NAMES[day - 1]).join(", ")}` : ""),
};

function isWithin({ from, to, days, zone }: TimeTerms, opening: number, look: Look): boolean {
  const civil = opening + offsetAt(opening, zone ?? look.zone);
  if (days && !days.includes(weekday(dayNumber(civil)))) return false;
  const clock = (civil - dayNumber(civil) * DAY) / MINUTE;
  const [begin, end] = [parseClock(from) ?? 0, parseClock(to) ?? 1440];
  return begin < end ? clock >= begin && clock < end : clock >= begin || clock < end;
}
