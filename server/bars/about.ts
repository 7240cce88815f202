import { MarketDto } from "#contracts/market";
import { readDto } from "#contracts/read";
import { checkCalendar, type CalendarSpec } from "#core/time/calendar";
import { calendarFrom } from "./settings.ts";

/** What a file says of the market whose bars it holds. */
export interface AboutMarket {
  name: string;
  kind: string;
  tick: number;
  pip: number;
  pipName: string;
  decimals: number;
  calendar: CalendarSpec;
}

/**
 * The market's facts as a file gives them, checked like those a person types; `undefined` when they are not in order.
 */
export function readAbout(raw: unknown): AboutMarket | undefined {
  if (typeof raw !== "object" || raw === null) return undefined;
  const { calendar, ...facts } = raw as { calendar?: Partial<CalendarSpec> };
  const { zone, sessions, holidays = [], halfDays = {} } = calendar ?? {};
  if (!Array.isArray(sessions) || !Array.isArray(holidays) || typeof halfDays !== "object" || halfDays === null)
    return undefined;
  const read = readDto(MarketDto, {
    ...facts,
    zone,
    sessions: sessions.map((one: unknown) => ({ opensDayBefore: false, kind: "regular", ...(one as object) })),
    holidays,
    halfDays: Object.entries(halfDays).map(([date, close]) => ({ date, close })),
  });
  if (!read.ok) return undefined;
  const { name, kind, tick, pip, pipName, decimals } = read.value;
  const checked = calendarFrom(read.value);
  return checkCalendar(checked).length > 0
    ? undefined
    : { name, kind, tick, pip, pipName, decimals, calendar: checked };
}
