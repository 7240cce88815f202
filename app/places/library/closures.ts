import type { CalendarSpec } from "#core/time/calendar";

/** Holidays and half days as lines of text, the latest first: "2026-12-25", "2026-12-24 13:00". */
export function closuresText({ holidays = [], halfDays = {} }: CalendarSpec): string {
  return [...holidays, ...Object.entries(halfDays).map(([date, close]) => `${date} ${close}`)]
    .sort()
    .reverse()
    .join("\n");
}

/** The lines as the form sends them; what cannot be read is sent as it is, so that it is told where it is checked. */
export function readClosures(text: string): { holidays: string[]; halfDays: { date: string; close: string }[] } {
  const lines = text
    .split("\n")
    .map((line) => line.trim().split(/\s+/))
    .filter(([date]) => date !== "");
  return {
    holidays: lines.filter((parts) => parts.length === 1).map(([date]) => date),
    halfDays: lines.filter((parts) => parts.length > 1).map(([date, ...rest]) => ({ date, close: rest.join(" ") })),
  };
}
