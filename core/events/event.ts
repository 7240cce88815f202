import type { Ties } from "#core/events/touches";

export const EVENT_KINDS = ["release", "speech", "holiday", "expiry"] as const;
export type EventKind = (typeof EVENT_KINDS)[number];

/** How far it may move prices: 1 little, 2 some, 3 much. */
export type Impact = 1 | 2 | 3;

export interface CalendarEvent extends Ties {
  kind: EventKind;
  title: string;
  /** Instant; of one that lasts whole days the midnight UTC of its first date. */
  at: number;
  /** Whole days, without a clock time. */
  allDay: boolean;
  /** End, where it has one. */
  until?: number;
  impact: Impact;
  /** Markets it names. */
  markets: string[];
  forecast?: string;
  previous?: string;
  actual?: string;
}

/** The same event of a calendar, whatever its number there: known by the calendar's own name for it. */
export interface NamedEvent extends CalendarEvent {
  uid: string;
}

/** What of a calendar's file could be taken over, and what not with the reason, in the order of the file. */
export interface EventFile {
  events: NamedEvent[];
  faults: { where: string; reason: string }[];
}

export function isEventKind(text: string): text is EventKind {
  return (EVENT_KINDS as readonly string[]).includes(text);
}

/** Releases that come within this long of each other are a reason to wait (common practice, no source). */
const TOGETHER = 15 * 60_000;

/** Events that come so close together that they are one; in order of time, each group with its first instant. */
export function grouped<T extends Pick<CalendarEvent, "at" | "allDay">>(events: readonly T[]): T[][] {
  const out: T[][] = [];
  for (const event of [...events].filter(({ allDay }) => !allDay).sort((a, b) => a.at - b.at)) {
    const group = out.at(-1);
    if (group && event.at - group[0].at <= TOGETHER) group.push(event);
    else out.push([event]);
  }
  return out;
}

/** Events of one instant and one kind, each group in the order they came; in order of time. */
export function atOneInstant<T extends Pick<CalendarEvent, "at" | "allDay" | "kind">>(events: readonly T[]): T[][] {
  const groups = new Map<string, T[]>();
  for (const event of [...events].sort((a, b) => Number(b.allDay) - Number(a.allDay) || a.at - b.at)) {
    const key = `${String(event.allDay)} ${event.at} ${event.kind}`;
    const group = groups.get(key);
    if (group) group.push(event);
    else groups.set(key, [event]);
  }
  return [...groups.values()];
}

const PLURALS: Record<EventKind, string> = {
  release: "releases",
  speech: "speeches",
  holiday: "holidays",
  expiry: "expiries",
};

/** "5 releases: Verin prices, Olta jobs and 3 more"; the weightiest are named. */
export function groupText(events: readonly Pick<CalendarEvent, "kind" | "title" | "impact">[]): string {
  const named = [...events].sort((a, b) => b.impact - a.impact).slice(0, 2);
  const names = named.map(({ title }) => title).join(events.length === 2 ? " and " : ", ");
  const more = events.length > 2 ? ` and ${events.length - 2} more` : "";
  return `${events.length} ${PLURALS[events[0].kind]}: ${names}${more}`;
}
