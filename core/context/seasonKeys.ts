import { DAY } from "#core/time/dates";
import { offsetAt } from "#core/time/zone";

/** Month 1 to 12, day of the month, and weekday 1 (Monday) to 7 of a label at midnight UTC. */
export function dayOf(time: number): { month: number; day: number; weekday: number } {
  const date = new Date(time);
  return { month: date.getUTCMonth() + 1, day: date.getUTCDate(), weekday: date.getUTCDay() || 7 };
}

/** Week of the year a label falls into (ISO 8601: the week belongs to the year of its Thursday). */
export function isoWeekOf(time: number): number {
  const thursday = new Date(time + (4 - dayOf(time).weekday) * DAY);
  const first = Date.UTC(thursday.getUTCFullYear(), 0, 1);
  return 1 + Math.floor((thursday.getTime() - first) / (7 * DAY));
}

/** Hour 0 to 23 a bar opened at, by the market's clock. */
export function tradingHour(time: number, zone: string): number {
  return new Date(time + offsetAt(time, zone)).getUTCHours();
}
