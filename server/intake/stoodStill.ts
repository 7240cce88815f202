import { Op, type Transaction } from "sequelize";
import { missingDates } from "#core/csv/remarks";
import type { Series } from "#core/series/series";
import { Calendar } from "#core/time/calendar";
import { dayNumber, formatDate, weekday } from "#core/time/dates";
import type { Timeframe } from "#core/time/timeframe";
import { calendarOf } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { Market } from "../database/models.ts";

/** Markets that are asked whether they traded: more of one zone and kind say no more. */
const ASKED = 30;
/** Dates that are told: more are no holidays but another week. */
const MOST = 1000;

/**
 * Trading dates within a file of daily bars on which it has none, and no other market of its zone and kind that was
 * trading then has one: holidays, most likely, to be confirmed. Dates as "2026-12-25".
 */
export async function stoodStill(
  market: Market,
  incoming: Series,
  base: Timeframe,
  transaction: Transaction,
): Promise<string[]> {
  const all = missingDates(incoming, base, calendarOf(market));
  // Days of the week that it hardly trades on are a matter of its sessions.
  const traded = countBy(Array.from(incoming.time, (time) => weekday(dayNumber(time))));
  const lacking = countBy(all.map(weekday));
  const missing = all.filter((day) => (traded.get(weekday(day)) ?? 0) > (lacking.get(weekday(day)) ?? 0));
  if (missing.length === 0 || missing.length > MOST) return [];
  const others = (
    await Market.findAll({
      where: { kind: market.kind, formula: null, id: { [Op.ne]: market.id } },
      limit: 10 * ASKED,
      transaction,
    })
  ).filter(({ calendar }) => calendar.zone === market.calendar.zone);
  let still = missing;
  for (const other of others.slice(0, ASKED)) {
    const { time } = await seriesOf(other, "P1D");
    const days = new Set(Array.from(time, dayNumber));
    still = still.filter((day) => !days.has(day));
    if (still.length === 0) break;
  }
  return still.map(formatDate);
}

function countBy(values: readonly number[]): Map<number, number> {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return counts;
}

/** A market's calendar with more holidays. */
export function withHolidays({ spec }: Calendar, dates: readonly string[]): Calendar {
  return new Calendar({ ...spec, holidays: [...new Set([...(spec.holidays ?? []), ...dates])].sort() });
}
