import { canSee } from "#core/edition/parts";
import { DAY } from "#core/time/dates";
import type { Impact, NamedEvent } from "#core/events/event";
import { readClock } from "../clock.ts";
import type { Sight } from "../accounts/plans.ts";
import { eventsBetween } from "../events/events.ts";
import { writeCalendar } from "../tasks/ical.ts";
import { callsSeen } from "./calls.ts";

/** What is expected: a release, or the end of a call that waits for its entry. */
export interface Expected {
  id: string;
  at: number;
  allDay: boolean;
  title: string;
  /** 1 to 3 of a release; 0 of a call. */
  impact: number;
  /** The edition of a call. */
  edition?: number;
}

/** What comes within so many days of market time, in order of time: releases, and calls of a reader's that lapse. */
export async function expectedBy(sight: Sight, days: number): Promise<Expected[]> {
  const { now } = await readClock();
  const from = Math.floor(now / DAY) * DAY;
  const to = from + days * DAY;
  const releases = (await eventsBetween(from, to)).map(({ id, at, allDay, title, impact }): Expected => ({
    id,
    at,
    allDay,
    title,
    impact,
  }));
  const calls = canSee("scenarios", sight.parts) ? await callsSeen(sight, Date.now()) : [];
  const lapses = calls.flatMap(({ edition, scenarioId, market, title, phase, expires }): Expected[] =>
    expires === undefined || expires < from || expires >= to || (phase !== "waiting" && phase !== "armed")
      ? []
      : [
          {
            ...{ id: `${edition}-${scenarioId}`, at: expires, allDay: false, impact: 0, edition },
            title: `${market.name}, ${title}: lapses without an entry`,
          },
        ],
  );
  return [...releases, ...lapses].sort((a, b) => a.at - b.at);
}

const OF_NOTHING = { markets: [], currencies: [], region: "", sector: "" };

/** The same as an iCalendar stream (RFC 5545). */
export async function expectedAsCalendar(sight: Sight, days: number): Promise<string> {
  const events = (await expectedBy(sight, days)).map(({ id, at, allDay, title, impact }): NamedEvent => ({
    ...{ uid: `${id}@even-compass`, kind: impact > 0 ? "release" : "expiry", title, at, allDay, ...OF_NOTHING },
    impact: Math.max(1, impact) as Impact,
  }));
  return writeCalendar(events, (await readClock()).now);
}
