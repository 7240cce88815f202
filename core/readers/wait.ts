import type { Calendar } from "../time/calendar.ts";

/** Stands where otherwise the hours a plan waits stand: until its markets have closed. */
export const NEXT_CLOSE = -1;

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** When an edition was published, and when the last of its markets has closed after that. */
export interface PublishedAt {
  publishedAt: number;
  /** None of editions from before it was kept. */
  closesAt: number | null;
}

/** From when on a plan that waits so long (hours, or until the next close) shows an edition (ms). */
export function shownFrom({ publishedAt, closesAt }: PublishedAt, wait: number): number {
  // Whatever was open then has closed a day later; what speaks of no market has no close to wait for.
  return wait === NEXT_CLOSE ? (closesAt ?? publishedAt + DAY) : publishedAt + wait * HOUR;
}

/** "at once", "6 h later", "after the next close". */
export function waitText(wait: number): string {
  return wait === 0 ? "at once" : wait === NEXT_CLOSE ? "after the next close" : `${wait} h later`;
}

/** The end of the trading day an instant is in, or of the next one (ms). */
export function nextClose(calendar: Calendar, instant: number): number {
  return calendar.close(calendar.tradingDate(instant));
}

/** When the last of some markets has closed that trade, or will next; the instant itself where there are none. */
export const lastClose = (calendars: readonly Calendar[], instant: number): number =>
  Math.max(instant, ...calendars.map((calendar) => nextClose(calendar, instant)));
