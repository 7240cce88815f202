import ICAL from "ical.js";
import { EVENT_KINDS, type CalendarEvent, type EventFile, type Impact, type NamedEvent } from "#core/events/event";
import { NO_TIES } from "#core/events/touches";
import { instantOf, isZone } from "#core/time/zone";

/** Times an event that comes again and again is taken at, at most. */
const MOST_TIMES = 600;
const MOST_EVENTS = 20_000;
/** Times of repeating events that are looked at in one file, those before the stretch asked for included. */
const MOST_STEPS = 60_000;

/**
 * Events of an iCalendar stream (RFC 5545). A start that is a DATE lasts whole days; a TZID is read as the stream's own
 * VTIMEZONE or else as an IANA zone; a floating time is read in `zone`. RRULE, RDATE and EXDATE are followed between
 * `from` and `to`. PRIORITY 1 to 4 is much, 5 some, 6 to 9 little (section 3.8.1.9), 0 or none some. CATEGORIES name
 * a kind, and what it is about as "currency:X", "region:X", "sector:X" or "market:id". Cancelled events are left out.
 */
export function readCalendar(text: string, zone: string, from: number, to: number): EventFile | string {
  let root: ICAL.Component;
  try {
    const parsed = ICAL.parse(text) as unknown[];
    root = new ICAL.Component((Array.isArray(parsed[0]) ? parsed[0] : parsed) as never);
  } catch {
    return "The file is no iCalendar stream: it does not begin with BEGIN:VCALENDAR, or a line of it cannot be read.";
  }
  if (root.name !== "vcalendar") return "The file is no iCalendar stream: it does not begin with BEGIN:VCALENDAR.";
  const zones = new Map(
    root
      .getAllSubcomponents("vtimezone")
      .map((one) => [String(one.getFirstPropertyValue("tzid")), new ICAL.Timezone(one)]),
  );
  const events: NamedEvent[] = [];
  const faults: EventFile["faults"] = [];
  const budget = { steps: MOST_STEPS };
  for (const component of root.getAllSubcomponents("vevent")) {
    const where = String(
      component.getFirstPropertyValue("summary") ?? component.getFirstPropertyValue("uid") ?? "an event without a name",
    ).slice(0, 80);
    try {
      if (String(component.getFirstPropertyValue("status") ?? "").toUpperCase() === "CANCELLED") continue;
      const start = component.getFirstPropertyValue("dtstart");
      if (!(start instanceof ICAL.Time)) {
        faults.push({ where, reason: "It has no start." });
        continue;
      }
      const content = contentOf(component);
      const uid = String(component.getFirstPropertyValue("uid") ?? `${where} ${start.toString()}`).slice(0, 200);
      const instant = (time: ICAL.Time) =>
        instantIn(time, String(component.getFirstProperty("dtstart")?.getParameter("tzid") ?? ""), zones, zone);
      const event = new ICAL.Event(component);
      const length = event.duration ? event.duration.toSeconds() * 1000 : 0;
      for (const time of timesOf(event, start, instant, { from, to }, budget)) {
        const at = instant(time);
        const single = !event.isRecurring();
        events.push({
          ...content,
          uid: single ? uid : `${uid} ${time.toString()}`,
          at,
          allDay: start.isDate,
          ...(length > 0 ? { until: at + length } : {}),
        });
        if (events.length > MOST_EVENTS) return `The file holds more than ${MOST_EVENTS} events: import it in parts.`;
      }
    } catch (error) {
      if (budget.steps <= 0)
        return (
          `The repeating events of the file come too often: more than ${MOST_STEPS.toLocaleString("en")} ` +
          `times. The last one read is "${where}".`
        );
      faults.push({ where, reason: error instanceof RangeError ? error.message : "It cannot be read." });
    }
  }
  return { events, faults };
}

/** Times of an event within a stretch; throws when the budget of its file is used up. */
function timesOf(
  event: ICAL.Event,
  start: ICAL.Time,
  instant: (time: ICAL.Time) => number,
  { from, to }: { from: number; to: number },
  budget: { steps: number },
): ICAL.Time[] {
  if (!event.isRecurring()) return [start];
  const out: ICAL.Time[] = [];
  const iterator = event.iterator();
  while (out.length < MOST_TIMES) {
    if (--budget.steps <= 0) throw new RangeError("The budget is used up.");
    const time = iterator.next() as ICAL.Time | null;
    if (!time || instant(time) > to) break;
    if (instant(time) >= from) out.push(time);
  }
  return out;
}

function instantIn(time: ICAL.Time, tzid: string, zones: ReadonlyMap<string, ICAL.Timezone>, zone: string): number {
  const civil = Date.UTC(time.year, time.month - 1, time.day, time.hour, time.minute, time.second);
  if (time.isDate) return civil;
  if (time.zone === ICAL.Timezone.utcTimezone) return civil;
  const own = zones.get(tzid);
  if (own) return civil - own.utcOffset(time) * 1000;
  if (tzid !== "" && !isZone(tzid)) throw new RangeError(`Its time zone "${tzid.slice(0, 60)}" is not known.`);
  return instantOf(civil, tzid || zone);
}

function contentOf(component: ICAL.Component): Omit<CalendarEvent, "at" | "allDay" | "until"> {
  const words = component.getAllProperties("categories").flatMap((property) => property.getValues().map(String));
  const named = (what: string) =>
    words
      .flatMap((word) =>
        word.toLowerCase().startsWith(`${what}:`)
          ? [
              word
                .slice(what.length + 1)
                .trim()
                .slice(0, 60),
            ]
          : [],
      )
      .filter(Boolean);
  const kind = EVENT_KINDS.find((one) => words.some((word) => word.toLowerCase() === one));
  const priority = Number(component.getFirstPropertyValue("priority") ?? 0);
  const allDay =
    component.getFirstPropertyValue("dtstart") instanceof ICAL.Time &&
    (component.getFirstPropertyValue("dtstart") as ICAL.Time).isDate;
  return {
    kind: kind ?? (allDay ? "holiday" : "release"),
    title:
      String(component.getFirstPropertyValue("summary") ?? "An event without a name")
        .trim()
        .slice(0, 200) || "An event without a name",
    impact: priority >= 1 && priority <= 4 ? 3 : priority >= 6 ? 1 : 2,
    ...NO_TIES,
    currencies: named("currency").slice(0, 20),
    region: named("region")[0] ?? "",
    sector: named("sector")[0] ?? "",
    markets: named("market").slice(0, 50),
  };
}

const PRIORITY: Record<Impact, number> = { 3: 1, 2: 5, 1: 9 };

/** Events as an iCalendar stream that `readCalendar` gives back the same. `stamp` says when it was written. */
export function writeCalendar(events: readonly NamedEvent[], stamp: number): string {
  const root = new ICAL.Component("vcalendar");
  root.updatePropertyWithValue("version", "2.0");
  root.updatePropertyWithValue("prodid", "-//Even Compass//Events//EN");
  for (const { uid, title, at, until, allDay, kind, impact, currencies, region, sector, markets } of events) {
    const component = new ICAL.Component("vevent");
    const time = (instant: number) => {
      const made = ICAL.Time.fromJSDate(new Date(instant), true);
      made.isDate = allDay;
      return made;
    };
    component.updatePropertyWithValue("uid", uid);
    component.updatePropertyWithValue("dtstamp", ICAL.Time.fromJSDate(new Date(stamp), true));
    component.updatePropertyWithValue("dtstart", time(at));
    if (until !== undefined && until > at) component.updatePropertyWithValue("dtend", time(until));
    component.updatePropertyWithValue("summary", title);
    component.updatePropertyWithValue("priority", PRIORITY[impact]);
    const categories = new ICAL.Property("categories");
    categories.setValues([
      kind,
      ...currencies.map((one) => `currency:${one}`),
      ...(region ? [`region:${region}`] : []),
      ...(sector ? [`sector:${sector}`] : []),
      ...markets.map((one) => `market:${one}`),
    ]);
    component.addProperty(categories);
    root.addSubcomponent(component);
  }
  return `${root.toString()}\r\n`;
}
