import { DateTime } from "luxon";

/** The form an input of date and time takes, in a zone; and back. */
export function toInput(time: number, zone: string): string {
  return DateTime.fromMillis(time, { zone }).toFormat("yyyy-MM-dd'T'HH:mm");
}

export function fromInput(text: string, zone: string): number {
  return DateTime.fromISO(text, { zone }).toMillis();
}
