import type { MarketDto } from "#contracts/market";
import { checkCalendar, type CalendarSpec } from "#core/time/calendar";
import { audit } from "../audit/audit.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { Failure } from "../failure.ts";
import { lockMarket, withDependents } from "./markets.ts";

/** The calendar of a form, in the shape it is stored in: dates in order, each once. */
export function calendarFrom({
  zone,
  sessions,
  holidays,
  halfDays,
}: Pick<MarketDto, "zone" | "sessions" | "holidays" | "halfDays">): CalendarSpec {
  return {
    zone,
    sessions: sessions.map(({ days, open, close, opensDayBefore, kind }) => ({
      days: [...new Set(days)].sort(),
      open,
      close,
      kind,
      ...(opensDayBefore ? { opensDayBefore } : {}),
    })),
    holidays: [...new Set(holidays)].sort(),
    halfDays: Object.fromEntries(
      halfDays.map(({ date, close }) => [date, close] as const).sort(([a], [b]) => a.localeCompare(b)),
    ),
  };
}

/**
 * Changes what is known of a market. Other sessions cut other bars and another tick rounds derived ones otherwise, so
 * its history counts as changed, and that of every market made of it.
 */
export async function saveMarket(id: string, dto: MarketDto): Promise<void> {
  const calendar = calendarFrom(dto);
  const [problem] = checkCalendar(calendar);
  if (problem) throw new Failure("calendar", problem, { kept: "Nothing was changed.", fields: { sessions: problem } });
  const { name, kind, tick, pip, pipName, decimals, ties } = dto;
  return transact(async (transaction) => {
    const market = await lockMarket(id, transaction);
    const before = {
      name: market.name,
      kind: market.kind,
      tick: market.tick,
      pip: market.pip,
      pipName: market.pipName,
      decimals: market.decimals,
      calendar: market.calendar,
      ties: market.ties,
    };
    try {
      await market.update(
        { name, kind, tick, pip, pipName, decimals, calendar, ...(ties ? { ties: { ...ties } } : {}) },
        { transaction },
      );
    } catch (error) {
      if (!isDuplicate(error)) throw error;
      throw new Failure("taken", "There is already a market of this name.", {
        kept: "Nothing was changed.",
        fields: { name: "This name is taken." },
      });
    }
    await audit({ what: "market changed", subject: before.name, detail: { before } });
    for (const one of await withDependents([market], transaction))
      await one.increment(["revision", "history"], { transaction });
  });
}

/** Takes dates for holidays of a market, besides those it has; its history counts as changed. */
export async function addHolidays(id: string, dates: readonly string[]): Promise<void> {
  return transact(async (transaction) => {
    const market = await lockMarket(id, transaction);
    const calendar = {
      ...market.calendar,
      holidays: [...new Set([...(market.calendar.holidays ?? []), ...dates])].sort(),
    };
    const [problem] = checkCalendar(calendar);
    if (problem) throw new Failure("calendar", problem, { kept: "Nothing was changed." });
    const before = { calendar: market.calendar };
    await market.update({ calendar }, { transaction });
    await audit({ what: "market changed", subject: market.name, detail: { before } });
    for (const one of await withDependents([market], transaction))
      await one.increment(["revision", "history"], { transaction });
  });
}
