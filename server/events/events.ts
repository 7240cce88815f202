import { randomUUID } from "node:crypto";
import Papa from "papaparse";
import { Op } from "sequelize";
import { LARGEST_CALENDAR, type EventDto } from "#contracts/event";
import { writeEventRows } from "#core/events/csv";
import type { CalendarEvent, NamedEvent } from "#core/events/event";
import { allTies, touches, type Ties } from "#core/events/touches";
import { DAY } from "#core/time/dates";
import { legsOf } from "../bars/markets.ts";
import { audit } from "../audit/audit.ts";
import { transact } from "../database/connection.ts";
import { EventRow, type Market } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { readClock } from "../clock.ts";
import { runTask } from "../pool/pool.ts";
import { writeCalendar } from "../tasks/ical.ts";

export interface StoredEvent extends CalendarEvent {
  id: string;
  source: string;
}

/** An event that touches a market, and why: the currency, region or sector they share. */
export interface TouchingEvent extends Pick<CalendarEvent, "title" | "at" | "allDay" | "impact" | "kind"> {
  id: string;
  why: string;
}

function stored({ id, event, source }: EventRow): StoredEvent {
  return { ...event, id, source };
}

/** Events that begin in [from, to), in order of time. */
export async function eventsBetween(from: number, to: number): Promise<StoredEvent[]> {
  const rows = await EventRow.findAll({
    where: { at: { [Op.gte]: from, [Op.lt]: to } },
    order: [
      ["at", "ASC"],
      ["id", "ASC"],
    ],
  });
  return rows.map(stored);
}

/** Everything that ties a market to news: its own ties and, where it is made of others, theirs. */
export async function tiesOf(market: Market): Promise<Ties[]> {
  const legs = await legsOf(market);
  const nested = await Promise.all(legs.map(tiesOf));
  return allTies([...(market.ties ? [market.ties] : []), ...nested.flat()]);
}

/** What of the day (UTC) about an instant touches each of some markets. */
export async function eventsTouching(markets: readonly Market[], now: number): Promise<Map<string, TouchingEvent[]>> {
  const day = Math.floor(now / DAY) * DAY;
  const events = await eventsBetween(day, day + DAY);
  if (events.length === 0) return new Map();
  return new Map(
    await Promise.all(
      markets.map(async (market): Promise<[string, TouchingEvent[]]> => [
        market.id,
        touching(events, market.id, await tiesOf(market)),
      ]),
    ),
  );
}

/** What touches one market in [from, to), in order of time. */
export async function eventsOn(market: Market, from: number, to: number): Promise<TouchingEvent[]> {
  return touching(await eventsBetween(from, to), market.id, await tiesOf(market));
}

function touching(events: readonly StoredEvent[], market: string, ties: readonly Ties[]): TouchingEvent[] {
  return events.flatMap((event) => {
    const { id, title, at, allDay, impact, kind } = event;
    const why = touches(event, { id: market, ties });
    return why === undefined ? [] : [{ id, title, at, allDay, impact, kind, why }];
  });
}

export async function saveEvent({ id, ...event }: EventDto): Promise<string> {
  const content: CalendarEvent = {
    ...event,
    title: event.title.trim(),
    at: event.allDay ? Math.floor(event.at / DAY) * DAY : event.at,
  };
  if (content.until !== undefined && content.until < content.at)
    throw new Failure("until", "An event ends after it begins.", {
      kept: "Nothing was changed.",
      fields: { until: "It lies before the start." },
    });
  if (!id) {
    const made = randomUUID();
    await EventRow.create({ id: made, uid: made, at: content.at, event: content, source: "by hand" });
    await audit({ what: "event made", subject: content.title });
    return made;
  }
  const row = await EventRow.findByPk(id);
  if (!row) throw notFound("event");
  const before = row.event;
  await row.update({ at: content.at, event: content });
  await audit({ what: "event changed", subject: before.title, detail: { before } });
  return id;
}

export async function removeEvent(id: string): Promise<void> {
  const row = await EventRow.findByPk(id);
  if (!row) throw notFound("event");
  await row.destroy();
  await audit({ what: "event removed", subject: row.event.title, detail: { before: row.event } });
}

export interface EventsReport {
  added: number;
  changed: number;
  same: number;
  faults: { where: string; reason: string }[];
}

/** Repeating events are taken over from a month back to two years ahead. */
const BACK = 31 * DAY;
const AHEAD = 731 * DAY;

/**
 * Takes a calendar (iCalendar or CSV, told by its first line) over: what is known by its name is changed, the rest
 * added; nothing is removed.
 */
export async function importEvents(
  text: string,
  name: string,
  zone: string,
  signal?: AbortSignal,
): Promise<EventsReport> {
  if (text.length > LARGEST_CALENDAR)
    throw new Failure("large", "The file is larger than 4 MB.", {
      kept: "Nothing was changed.",
      remedy: "Import it in parts.",
    });
  const { now } = await readClock();
  const read = await runTask("readEvents", { text, zone, from: now - BACK, to: now + AHEAD }, signal);
  if (typeof read === "string")
    throw new Failure("events", read, {
      kept: "Nothing was changed.",
      remedy: "Events are read as iCalendar (RFC 5545) or as CSV with a header.",
    });
  if (read.events.length === 0)
    throw new Failure("events", "The file holds no event that could be read.", {
      kept: "Nothing was changed.",
      ...(read.faults[0] ? { remedy: `${read.faults[0].where}: ${read.faults[0].reason}` } : {}),
    });
  const counts = await storeEvents(read.events, name);
  await audit({ what: "events imported", subject: name, detail: { ...counts } });
  return { ...counts, faults: read.faults };
}

/** Stores events under their own names, all of them or none. */
export function storeEvents(events: readonly NamedEvent[], source: string): Promise<Omit<EventsReport, "faults">> {
  return transact(async (transaction) => {
    const known = new Map(
      (
        await EventRow.findAll({
          where: { uid: events.map(({ uid }) => uid) },
          transaction,
          lock: transaction.LOCK.UPDATE,
        })
      ).map((row) => [row.uid, row]),
    );
    const counts = { added: 0, changed: 0, same: 0 };
    const fresh = new Map<string, { id: string; uid: string; at: number; event: CalendarEvent; source: string }>();
    for (const { uid, ...event } of events) {
      const row = known.get(uid);
      if (!row) fresh.set(uid, { id: randomUUID(), uid, at: event.at, event, source: source.slice(0, 200) });
      else if (JSON.stringify(sorted(row.event)) === JSON.stringify(sorted(event))) counts.same++;
      else {
        await row.update({ at: event.at, event, source: source.slice(0, 200) }, { transaction });
        counts.changed++;
      }
    }
    counts.added = fresh.size;
    await EventRow.bulkCreate([...fresh.values()], { transaction });
    return counts;
  });
}

function sorted(event: CalendarEvent): [string, unknown][] {
  return Object.entries(event).sort(([a], [b]) => a.localeCompare(b));
}

/** All events from an instant on as an iCalendar stream. */
export async function eventsAsCalendar(from: number): Promise<string> {
  const rows = await EventRow.findAll({
    where: { at: { [Op.gte]: from } },
    order: [
      ["at", "ASC"],
      ["id", "ASC"],
    ],
    limit: 20_000,
  });
  return writeCalendar(
    rows.map(({ uid, event }) => ({ ...event, uid })),
    (await readClock()).now,
  );
}

/** The same as a table that can be read back. */
export async function eventsAsTable(from: number): Promise<string> {
  const rows = await EventRow.findAll({
    where: { at: { [Op.gte]: from } },
    order: [
      ["at", "ASC"],
      ["id", "ASC"],
    ],
    limit: 20_000,
  });
  return `${Papa.unparse(writeEventRows(rows.map(({ event }) => event)), { newline: "\n" })}\n`;
}
