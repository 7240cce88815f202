import Papa from "papaparse";
import { readEventRows } from "#core/events/csv";
import type { EventFile } from "#core/events/event";
import { readCalendar } from "./ical.ts";

/**
 * Events of a file, told by its first line: iCalendar (RFC 5545), or CSV with a header. A sentence when it is neither.
 * Rules of repeating events may take any time to work out, so it runs in a process of its own.
 */
export function readEventFile({
  text,
  zone,
  from,
  to,
}: {
  text: string;
  zone: string;
  from: number;
  to: number;
}): EventFile | string {
  const plain = text.replace(/^\ufeff/, "");
  if (/^\s*BEGIN:VCALENDAR/i.test(plain)) return readCalendar(plain, zone, from, to);
  return readEventRows(Papa.parse<string[]>(plain, { skipEmptyLines: true }).data, zone);
}
