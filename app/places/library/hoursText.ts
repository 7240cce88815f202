import { DateTime } from "luxon";
import type { HoursNow } from "#core/time/hoursNow";

/** "open until 18:30, Lisbon", "opens Thu 8:00, Kolkata": clock times of the market's zone. */
export function hoursText({ session, changes }: HoursNow, zone: string, now: number): string {
  if (!Number.isFinite(changes)) return session ? "always open" : "shut";
  const change = DateTime.fromMillis(changes, { zone }).setLocale("en-GB");
  const sameDay = change.hasSame(DateTime.fromMillis(now, { zone }), "day");
  const clock = change.toFormat(sameDay ? "HH:mm" : "ccc HH:mm");
  return (
    `${session ? (session.kind === "overnight" ? "overnight, open until" : "open until") : "opens"} ` +
    `${clock}, ${placeOf(zone)}`
  );
}

/** The place a zone is named after. */
export function placeOf(zone: string): string {
  return (zone.split("/").at(-1) ?? zone).replaceAll("_", " ");
}
