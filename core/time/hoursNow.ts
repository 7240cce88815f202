import type { Calendar, Session } from "#core/time/calendar";

/** Whether a market trades at an instant, and when that changes. */
export interface HoursNow {
  /** The session that is open. */
  session: Session | undefined;
  /** When trading ends (across sessions that follow each other without a break) or begins. */
  changes: number;
}

export function hoursAt(time: number, calendar: Calendar): HoursNow {
  const session = calendar.sessionAt(time);
  let date = calendar.tradingDate(time);
  if (!session) {
    const next = calendar.sessions(date).find(({ open }) => open > time);
    return { session, changes: next?.open ?? calendar.open(calendar.nextTradingDate(date)) ?? Infinity };
  }
  let end = session.close;
  // At most a week of sessions without a break: what never closes has no end worth telling.
  for (const limit = date + 7; date <= limit;) {
    const after = calendar.sessions(date).find(({ open }) => open === end);
    if (after) end = after.close;
    else {
      date = calendar.nextTradingDate(date);
      if (calendar.open(date) !== end) return { session, changes: end };
    }
  }
  return { session, changes: Infinity };
}

/** Holidays and half days from a date on, in order: the next `count`. */
export function nextClosures({ spec }: Calendar, from: string, count: number): { date: string; closes?: string }[] {
  const half = Object.entries(spec.halfDays ?? {}).map(([date, closes]) => ({ date, closes }));
  const whole = (spec.holidays ?? []).map((date) => ({ date }));
  return [...whole, ...half]
    .filter(({ date }) => date >= from)
    .sort((a, b) => a.date.localeCompare(b.date))
    .slice(0, count);
}
