import { weekday, dayNumber } from "#core/time/dates";
import { offsetAt } from "#core/time/zone";

// Names are our own rather than the platform's: a server's and a browser's do not always abbreviate alike.
const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** "Wed 14 Oct 2026, 13:42" in a zone. */
export function momentText(time: number, zone: string): string {
  const civil = time + offsetAt(time, zone === "utc" ? "UTC" : zone);
  return `${DAYS[weekday(dayNumber(civil)) - 1]} ${dateText(civil)}, ${new Date(civil).toISOString().slice(11, 16)}`;
}

/** "Wed 14 Oct 2026, 13:42 UTC" */
export const utcText = (time: number) => `${momentText(time, "utc")} UTC`;

/** "14 Oct 2026", for labels of days and longer (midnight UTC). */
export function dateText(time: number): string {
  const date = new Date(time);
  return `${date.getUTCDate()} ${MONTHS[date.getUTCMonth()]} ${date.getUTCFullYear()}`;
}
