import { describe, expect, it } from "vitest";
import { DAY } from "#core/time/dates";
import { Market } from "../database/models.ts";
import { aMarket, failureOf, setClock, withTables } from "../testing.ts";
import { eventsAsCalendar, eventsBetween, eventsTouching, importEvents, removeEvent, saveEvent } from "./events.ts";
import { readCalendar, writeCalendar } from "../tasks/ical.ts";

withTables();

const NOW = Date.UTC(1997, 5, 15);
const read = (text: string, from = 0, to = 4e12) => {
  const file = readCalendar(text.trim().split(/\r?\n/).join("\r\n"), "UTC", from, to);
  if (typeof file === "string") throw new Error(file);
  return file;
};
const calendar = (...lines: string[]) =>
  ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//x//y//EN", ...lines, "END:VCALENDAR"].join("\n");
const event = (...lines: string[]) =>
  calendar("BEGIN:VEVENT", "UID:1", "DTSTAMP:19970901T130000Z", ...lines, "END:VEVENT");

describe("an iCalendar stream", () => {
  // The examples of RFC 5545, section 3.6.1 (from memory of the published text).
  it("is read as RFC 5545 shows it: a time in UTC, whole days to an exclusive end, a yearly one", () => {
    expect(
      read(
        event(
          "DTSTART:19970903T163000Z",
          "DTEND:19970903T190000Z",
          "SUMMARY:Annual Employee Review",
          "CATEGORIES:BUSINESS,HUMAN RESOURCES",
        ),
      ).events,
    ).toMatchObject([
      {
        uid: "1",
        title: "Annual Employee Review",
        at: Date.UTC(1997, 8, 3, 16, 30),
        until: Date.UTC(1997, 8, 3, 19),
        allDay: false,
        impact: 2,
      },
    ]);
    expect(
      read(event("DTSTART;VALUE=DATE:20070628", "DTEND;VALUE=DATE:20070709", "SUMMARY:Festival")).events,
    ).toMatchObject([{ at: Date.UTC(2007, 5, 28), until: Date.UTC(2007, 6, 9), allDay: true, kind: "holiday" }]);
    const yearly = read(
      event("DTSTART;VALUE=DATE:19971102", "RRULE:FREQ=YEARLY", "SUMMARY:Our Blissful Anniversary"),
      Date.UTC(2000, 0, 1),
      Date.UTC(2003, 0, 1),
    ).events;
    expect(yearly.map(({ at }) => new Date(at).toISOString().slice(0, 10))).toEqual([
      "2000-11-02",
      "2001-11-02",
      "2002-11-02",
    ]);
    expect(new Set(yearly.map(({ uid }) => uid)).size).toBe(3);
  });
  // Section 3.8.5.3: "Daily for 10 occurrences" and "Every other week on Monday, Wednesday and Friday" begin so;
  // 1997-10-26 the clocks went back in New York.
  it("follows rules in their zone, also over a change of the clocks; EXDATE leaves one out", () => {
    const daily = read(
      event(
        "DTSTART;TZID=America/New_York:19971024T090000",
        "RRULE:FREQ=DAILY;COUNT=4",
        "EXDATE;TZID=America/New_York:19971025T090000",
        "SUMMARY:x",
      ),
    ).events;
    expect(daily.map(({ at }) => new Date(at).toISOString())).toEqual([
      "1997-10-24T13:00:00.000Z",
      "1997-10-26T14:00:00.000Z",
      "1997-10-27T14:00:00.000Z",
    ]);
  });
  it("reads a zone of its own before one of the world's, and a floating time in the zone that was asked", () => {
    const own = [
      "BEGIN:VTIMEZONE",
      "TZID:Isles",
      "BEGIN:STANDARD",
      "DTSTART:19700101T000000",
      "TZOFFSETFROM:+0330",
      "TZOFFSETTO:+0330",
      "END:STANDARD",
      "END:VTIMEZONE",
    ];
    const text = calendar(
      ...own,
      "BEGIN:VEVENT",
      "UID:2",
      "DTSTART;TZID=Isles:20260101T120000",
      "SUMMARY:x",
      "END:VEVENT",
    );
    expect(read(text).events[0].at).toBe(Date.UTC(2026, 0, 1, 8, 30));
    const floating = readCalendar(event("DTSTART:20260101T120000", "SUMMARY:x"), "Asia/Kolkata", 0, 4e12);
    expect(typeof floating === "string" ? floating : floating.events[0].at).toBe(Date.UTC(2026, 0, 1, 6, 30));
  });
  // Section 3.8.1.9: 1 to 4 high, 5 medium, 6 to 9 low, 0 undefined.
  it.each([
    [1, 3],
    [4, 3],
    [5, 2],
    [6, 1],
    [9, 1],
    [0, 2],
  ])("PRIORITY %i moves prices %i", (priority, impact) =>
    expect(read(event("DTSTART:20260101T120000Z", `PRIORITY:${priority}`, "SUMMARY:x")).events[0].impact).toBe(impact),
  );
  it("leaves out what is cancelled, names what it cannot read, and keeps the rest", () => {
    const file = read(
      calendar(
        "BEGIN:VEVENT",
        "UID:1",
        "DTSTART:20260101T120000Z",
        "SUMMARY:off",
        "STATUS:CANCELLED",
        "END:VEVENT",
        "BEGIN:VEVENT",
        "UID:2",
        "SUMMARY:no start",
        "END:VEVENT",
        "BEGIN:VEVENT",
        "UID:3",
        "DTSTART;TZID=Nowhere/Land:20260101T120000",
        "SUMMARY:lost",
        "END:VEVENT",
        "BEGIN:VEVENT",
        "UID:4",
        "DTSTART:20260101T120000Z",
        "SUMMARY:good",
        "END:VEVENT",
      ),
    );
    expect(file.events.map(({ title }) => title)).toEqual(["good"]);
    expect(file.faults).toEqual([
      { where: "no start", reason: "It has no start." },
      { where: "lost", reason: 'Its time zone "Nowhere/Land" is not known.' },
    ]);
  });
  it("a rule without an end is taken as far as is asked and no further", () => {
    expect(
      read(
        event("DTSTART:20260101T120000Z", "RRULE:FREQ=SECONDLY", "SUMMARY:x"),
        Date.UTC(2026, 0, 1),
        Date.UTC(2030, 0, 1),
      ).events.length,
    ).toBeLessThanOrEqual(600);
    expect(
      read(
        event("DTSTART:20260101T120000Z", "RRULE:FREQ=DAILY", "SUMMARY:x"),
        Date.UTC(2100, 0, 1),
        Date.UTC(2101, 0, 1),
      ).events.length,
    ).toBeLessThanOrEqual(600);
  });
  it.each(["", "BEGIN:VCARD\r\nEND:VCARD", "not a calendar", "BEGIN:VCALENDAR\r\nBEGIN:VEVENT"])(
    "%j gives no event, and a sentence or an empty list rather than a fault of ours",
    (text) => {
      const file = readCalendar(text, "UTC", 0, 1);
      expect(typeof file === "string" ? /iCalendar/.test(file) : file.events.length === 0).toBe(true);
    },
  );
  it("what is written is read back the same", () => {
    const events = [
      {
        uid: "a",
        kind: "release" as const,
        title: "Wages, Olta; x\\y",
        at: Date.UTC(2026, 9, 14, 9),
        allDay: false,
        impact: 3 as const,
        currencies: ["Olta"],
        region: "",
        sector: "",
        markets: ["verin-olta"],
      },
      {
        uid: "b",
        kind: "holiday" as const,
        title: "Midwinter",
        at: Date.UTC(2026, 11, 25),
        until: Date.UTC(2026, 11, 26),
        allDay: true,
        impact: 1 as const,
        currencies: [],
        region: "the Isles",
        sector: "banks",
        markets: [],
      },
    ];
    expect(read(writeCalendar(events, NOW)).events).toEqual(events);
  });
});

describe("events of the desk", () => {
  const dto = {
    id: "",
    kind: "release" as const,
    title: "Wages",
    at: NOW + 9 * 3_600_000,
    allDay: false,
    impact: 2 as const,
    currencies: ["Olta"],
    region: "",
    sector: "",
    markets: [],
  };
  it(
    "are entered, changed and removed by hand; those of the day stand at the markets they touch, with the " + "reason",
    async () => {
      await setClock(NOW);
      const market = await aMarket("verin-olta");
      await market.update({ ties: { currencies: ["Verin", "Olta"], region: "", sector: "" } });
      const leg = await aMarket("quine-verin");
      await leg.update({ ties: { currencies: ["Quine", "Verin"], region: "", sector: "" } });
      const cross = await aMarket("quine-olta");
      await cross.update({
        formula: {
          form: "product",
          legs: [
            { market: "quine-verin", units: 1 },
            { market: "verin-olta", units: 1 },
          ],
          scale: 1,
        } as never,
      });
      const id = await saveEvent(dto);
      await saveEvent({ ...dto, title: "Tomorrow", at: NOW + DAY });
      const touching = await eventsTouching(await Market.findAll({ order: [["id", "ASC"]] }), NOW);
      expect([...touching].map(([name, events]) => [name, events.map(({ title, why }) => `${title} ${why}`)])).toEqual([
        ["quine-olta", ["Wages Olta"]],
        ["quine-verin", []],
        ["verin-olta", ["Wages Olta"]],
      ]);
      await saveEvent({ ...dto, id, currencies: ["Verin"], allDay: true });
      expect((await eventsBetween(NOW, NOW + DAY))[0]).toMatchObject({
        at: NOW,
        allDay: true,
        currencies: ["Verin"],
        source: "by hand",
      });
      await removeEvent(id);
      expect((await failureOf(removeEvent(id))).code).toBe("not-found");
      expect((await failureOf(saveEvent({ ...dto, until: dto.at - 1 }))).code).toBe("until");
    },
  );
  it(
    "are imported again without becoming two; what the calendar changed is changed; what it cannot say " + "is named",
    async () => {
      await setClock(NOW);
      const text = (title: string) =>
        calendar(
          "BEGIN:VEVENT",
          "UID:rate@isles",
          "DTSTART:19970616T114500Z",
          `SUMMARY:${title}`,
          "CATEGORIES:currency:Olta",
          "END:VEVENT",
          "BEGIN:VEVENT",
          "UID:bad",
          "SUMMARY:x",
          "END:VEVENT",
        );
      expect(await importEvents(text("Rate"), "a.ics", "UTC")).toMatchObject({
        added: 1,
        changed: 0,
        same: 0,
        faults: [{ where: "x" }],
      });
      expect(await importEvents(text("Rate"), "a.ics", "UTC")).toMatchObject({ added: 0, changed: 0, same: 1 });
      expect(await importEvents(text("Base rate"), "a.ics", "UTC")).toMatchObject({ added: 0, changed: 1, same: 0 });
      expect(
        await importEvents("\ufeffDate,Title,Currency\n1997-06-17 09:00,Prices,Quine\n", "b.csv", "UTC"),
      ).toMatchObject({ added: 1, faults: [] });
      expect(await eventsAsCalendar(NOW)).toMatch(/SUMMARY:Base rate[^]*SUMMARY:Prices/);
    },
  );
  it.each([
    ["nothing at all", "", "events"],
    ["no header", "a,b\n1,2", "events"],
    ["an empty calendar", calendar(), "events"],
    ["too much", "x".repeat(5e6), "large"],
  ])("%s is refused with what to do, and nothing changes", async (_what, text, code) => {
    await setClock(NOW);
    const before = (await eventsBetween(0, 9e12)).length;
    const failure = await failureOf(importEvents(text, "f", "UTC"));
    expect([failure.code, failure.details.kept]).toEqual([code, "Nothing was changed."]);
    expect((await eventsBetween(0, 9e12)).length).toBe(before);
  });
});
