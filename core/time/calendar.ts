import { DAY, MINUTE, dayNumber, parseClock, parseDate, weekday } from "#core/time/dates";
import { instantOf, isZone, offsetAt } from "#core/time/zone";

/** One session of the week: the ISO weekdays of the *trading dates* it belongs to and its civil clock times. */
export interface SessionRule {
  days: number[];
  /** "HH:MM"; on the day before the trading date if `opensDayBefore`. */
  open: string;
  /** "HH:MM" on the trading date, up to "24:00". */
  close: string;
  opensDayBefore?: boolean;
  kind?: "regular" | "overnight";
}

export interface CalendarSpec {
  /** IANA zone in which the sessions' clock times are read. */
  zone: string;
  sessions: SessionRule[];
  /** Trading dates ("2026-12-25") without any session. */
  holidays?: string[];
  /** Trading dates that end early, with their closing clock time. */
  halfDays?: Record<string, string>;
}

export interface Session {
  /** Milliseconds UTC; `close` is exclusive. */
  open: number;
  close: number;
  kind: "regular" | "overnight";
}

export const ALL_HOURS: CalendarSpec = {
  zone: "UTC",
  sessions: [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close: "24:00" }],
};

/** What is wrong with a calendar, in sentences for the user; empty if it can be used. */
export function checkCalendar(spec: CalendarSpec): string[] {
  if (!isZone(spec.zone)) return [`"${spec.zone}" is not a time zone of the IANA database.`];
  const problems: string[] = [];
  if (spec.sessions.length === 0) problems.push("There is no session.");
  spec.sessions.forEach((rule, i) => {
    const open = parseClock(rule.open);
    const close = parseClock(rule.close);
    const name = `Session ${i + 1}`;
    if (open === undefined || close === undefined) problems.push(`${name}: times are written HH:MM.`);
    else if (close <= (rule.opensDayBefore ? open - 1440 : open)) problems.push(`${name} closes before it opens.`);
    if (rule.days.length === 0 || rule.days.some((day) => !Number.isInteger(day) || day < 1 || day > 7))
      problems.push(`${name}: weekdays are numbers from 1 (Monday) to 7.`);
  });
  for (const date of [...(spec.holidays ?? []), ...Object.keys(spec.halfDays ?? {})])
    if (parseDate(date) === undefined) problems.push(`"${date}" is not a date.`);
  if (problems.length === 0 && overlaps(spec)) problems.push("Two sessions overlap.");
  return problems;
}

function overlaps(spec: CalendarSpec): boolean {
  const calendar = new Calendar({ ...spec, holidays: [], halfDays: {} });
  let end = -Infinity;
  for (let day = 4; day < 20; day++)
    for (const session of calendar.sessions(day)) {
      if (session.open < end) return true;
      end = session.close;
    }
  return false;
}

/**
 * Trading dates and sessions of a market. Every instant belongs to a trading date: inside a session to that
 * session's, outside to the next date that trades (a stray print after the close is tomorrow's).
 */
export class Calendar {
  private readonly days = new Map<number, readonly Session[]>();
  private readonly holidays: Set<number>;
  private readonly halfDays: Map<number, number>;

  constructor(readonly spec: CalendarSpec) {
    this.holidays = new Set((spec.holidays ?? []).map((date) => parseDate(date) ?? NaN));
    this.halfDays = new Map(
      Object.entries(spec.halfDays ?? {}).map(([date, clock]) => [parseDate(date) ?? NaN, parseClock(clock) ?? 1440]),
    );
  }

  /** Sessions of a trading date (a day number), in order; empty when nothing trades. */
  sessions(day: number): readonly Session[] {
    let found = this.days.get(day);
    if (!found) this.days.set(day, (found = this.build(day)));
    return found;
  }

  private build(day: number): Session[] {
    if (this.holidays.has(day)) return [];
    const { zone } = this.spec;
    const out: Session[] = [];
    for (const rule of this.spec.sessions) {
      if (!rule.days.includes(weekday(day))) continue;
      const openClock = (parseClock(rule.open) ?? 0) - (rule.opensDayBefore ? 1440 : 0);
      const closeClock = Math.min(parseClock(rule.close) ?? 1440, this.halfDays.get(day) ?? 1440);
      if (closeClock <= openClock) continue;
      out.push({
        open: instantOf(day * DAY + openClock * MINUTE, zone),
        close: instantOf(day * DAY + closeClock * MINUTE, zone),
        kind: rule.kind ?? "regular",
      });
    }
    return out.sort((a, b) => a.open - b.open);
  }

  trades(day: number): boolean {
    return this.sessions(day).length > 0;
  }

  /** First instant of a trading date; `undefined` when it does not trade. */
  open(day: number): number | undefined {
    return this.sessions(day)[0]?.open;
  }

  /** First instant of a civil date. */
  midnight(day: number): number {
    return instantOf(day * DAY, this.spec.zone);
  }

  /** Instant at which a trading date is over; for a date that does not trade, its civil midnight. */
  close(day: number): number {
    return this.sessions(day).at(-1)?.close ?? this.midnight(day + 1);
  }

  /** The trading date an instant belongs to. Looks up to 30 days ahead, after that it is the civil date. */
  tradingDate(time: number): number {
    const civil = dayNumber(time + offsetAt(time, this.spec.zone));
    for (let day = civil - 1; day <= civil + 30; day++) {
      const sessions = this.sessions(day);
      if (sessions.length > 0 && time < sessions[sessions.length - 1].close) return day;
    }
    return civil;
  }

  /** The session an instant falls into, if any. */
  sessionAt(time: number): Session | undefined {
    return this.sessions(this.tradingDate(time)).find((session) => time >= session.open && time < session.close);
  }

  /** The next trading date after `day`. */
  nextTradingDate(day: number): number {
    for (let next = day + 1; next <= day + 400; next++) if (this.trades(next)) return next;
    return day + 1;
  }
}
