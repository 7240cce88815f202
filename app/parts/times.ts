import { DateTime } from "luxon";

/** "Wed 14 Oct 2026, 13:42" in a zone. */
export function momentText(time: number, zone: string): string {
  return DateTime.fromMillis(time, { zone }).setLocale("en-GB").toFormat("ccc d LLL yyyy, HH:mm");
}

/** "14 Oct 2026", for labels of days and longer (midnight UTC). */
export function dateText(time: number): string {
  return DateTime.fromMillis(time, { zone: "utc" }).setLocale("en-GB").toFormat("d LLL yyyy");
}

/** The form an input of date and time takes, in a zone; and back. */
export function toInput(time: number, zone: string): string {
  return DateTime.fromMillis(time, { zone }).toFormat("yyyy-MM-dd'T'HH:mm");
}

export function fromInput(text: string, zone: string): number {
  return DateTime.fromISO(text, { zone }).toMillis();
}
