import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { readEventRows, writeEventRows } from "#core/events/csv";
import { reactionOf, reactionsTo } from "#core/events/reaction";
import { fromBars } from "#core/series/series";
import { grouped } from "#core/events/event";
import { allTies, NO_TIES, touches } from "#core/events/touches";

const MINUTE = 60_000;

describe("which markets news touch", () => {
  const olta = { ...NO_TIES, currencies: ["Verin", "Olta"] };
  const quine = { ...NO_TIES, currencies: ["Quine", "Verin"] };
  const share = { ...NO_TIES, region: "the Isles", sector: "banks" };
  // Common practice, no source: a cross is touched by the news of both legs and of the currency it is priced through.
  it("a cross is touched by its legs' currencies and by the one it is priced through", () => {
    const cross = { id: "quine-olta", ties: allTies([NO_TIES, quine, olta]) };
    for (const currency of ["Quine", "Olta", "Verin", "verin "])
      expect(touches({ ...NO_TIES, currencies: [currency] }, cross), currency).toBeDefined();
    expect(touches({ ...NO_TIES, currencies: ["Corran"] }, cross)).toBeUndefined();
  });
  it("a region touches all of it, a sector only its own, a name only what it names", () => {
    const bank = { id: "mirren", ties: [share] };
    expect(touches({ ...NO_TIES, region: "The Isles" }, bank)).toBe("the Isles");
    expect(touches({ ...NO_TIES, region: "the Isles", sector: "ports" }, bank)).toBeUndefined();
    expect(touches({ ...NO_TIES, sector: "Banks" }, bank)).toBe("banks");
    expect(touches({ ...NO_TIES, markets: ["mirren"] }, bank)).toBe("named");
    expect(touches(NO_TIES, bank)).toBeUndefined();
    expect(touches(NO_TIES, { id: "untied", ties: [] })).toBeUndefined();
  });
  // Common practice, no source: several releases within 15 minutes are a reason to wait.
  it("releases within fifteen minutes of the first are one group; whole days are in none", () => {
    const at = (minute: number, allDay = false) => ({ at: minute * MINUTE, allDay });
    expect(
      grouped([at(16), at(0), at(15), at(40), at(0, true)]).map((group) => group.map((one) => one.at / MINUTE)),
    ).toEqual([[0, 15], [16], [40]]);
  });
});

describe("events from a table", () => {
  const rows = (text: string) => text.split("\n").map((line) => line.split(","));
  it("reads times, impact and what they are about; rows that cannot be read are named by line", () => {
    const file = readEventRows(
      rows(
        "Date,Event,Impact,Currency,Kind,Forecast\n2026-10-14 14:30,Consumer basket,high,Olta; Verin,,2.1 " +
          ("%\n2026-10-15,Midwinter,,,holiday,\nnever,Wages,low,,,\n2026-10-16 09:00,,low,,,\n2026-10-16 " +
            "09:00,Speech,loud,,,"),
      ),
      "Europe/Lisbon",
    );
    if (typeof file === "string") throw new Error(file);
    // Lisbon is an hour ahead of UTC in October (tz database).
    expect(file.events).toEqual([
      {
        uid: "Consumer basket 2026-10-14T13:30:00.000Z",
        kind: "release",
        title: "Consumer basket",
        at: Date.UTC(2026, 9, 14, 13, 30),
        allDay: false,
        impact: 3,
        currencies: ["Olta", "Verin"],
        region: "",
        sector: "",
        markets: [],
        forecast: "2.1 %",
      },
      {
        uid: "Midwinter 2026-10-15T00:00:00.000Z",
        kind: "holiday",
        title: "Midwinter",
        at: Date.UTC(2026, 9, 15),
        allDay: true,
        impact: 2,
        currencies: [],
        region: "",
        sector: "",
        markets: [],
      },
    ]);
    expect(file.faults.map(({ where }) => where)).toEqual(["line 4", "line 5", "line 6"]);
  });
  it.each([
    ["Event,Impact\nx,1", /no column for the time/],
    ["Date\n2026-10-14", /no column/],
    ["Date,Event\n,x", /empty/],
  ])("%j is no table of events", (text, said) => expect(readEventRows(rows(text), "UTC")).toMatch(said));
});

describe("how a market reacts to releases", () => {
  const HOUR = 3_600_000;
  const DAILY = 24 * HOUR;
  const START = Date.UTC(2024, 0, 1);
  /** Days of a true range of 2, so that ATR(14) is 2. */
  const days = fromBars(
    Array.from({ length: 30 }, (_, i) => ({
      time: START + i * DAILY,
      open: 100,
      high: 101,
      low: 99,
      close: 100,
      volume: 1,
    })),
  );
  const quarter = (at: number, high: number, low: number, close = 100) => ({
    time: at,
    open: 100,
    high,
    low,
    close,
    volume: 1,
  });
  const at = START + 20 * DAILY + 8 * HOUR;
  it("is the furthest move within the hour after, from the last close before, in ATR of the days before", () => {
    const fine = fromBars([
      quarter(at - 900_000, 100.2, 99.9, 100),
      quarter(at, 100.5, 99.8),
      quarter(at + 900_000, 101, 97),
      // An hour later it is no reaction any more.
      quarter(at + HOUR, 110, 90),
    ]);
    expect(reactionsTo([at], fine, 900_000, days)).toEqual([expect.closeTo(1.5, 9)]);
  });
  it("instants of which bars tell nothing have none; the median is of the rest", () => {
    const fine = fromBars([quarter(at - 900_000, 100, 100), quarter(at, 101, 100)]);
    expect(reactionsTo([at, at + 5 * DAILY, START], fine, 900_000, days)).toEqual([expect.closeTo(0.5, 9)]);
    expect(reactionOf([])).toBeUndefined();
    expect(reactionOf([3, 1, 2])).toEqual({ n: 3, median: 2 });
  });
});

describe("events as a table", () => {
  const text = fc.string({ maxLength: 12 }).map((one) => one.replaceAll(";", "").trim());
  const event = fc.record({
    kind: fc.constantFrom("release" as const, "speech" as const, "expiry" as const),
    title: text.filter((one) => one !== ""),
    at: fc.integer({ min: 0, max: 4e12 }).map((time) => Math.floor(time / MINUTE) * MINUTE),
    allDay: fc.constant(false),
    impact: fc.constantFrom(1 as const, 2 as const, 3 as const),
    currencies: fc.array(
      text.filter((one) => one !== ""),
      { maxLength: 3 },
    ),
    region: text,
    sector: text,
    markets: fc.constant<string[]>([]),
    forecast: text.filter((one) => one !== ""),
  });
  it("read back are the same, whatever they are called", () =>
    fc.assert(
      fc.property(fc.array(event, { minLength: 1, maxLength: 6 }), (events) => {
        const read = readEventRows(writeEventRows(events), "UTC");
        if (typeof read === "string") throw new Error(read);
        expect(read.faults).toEqual([]);
        expect(read.events.map(({ uid: _, ...one }) => one)).toEqual(events);
      }),
      { numRuns: 300, seed: 3 },
    ));
  it("whole days are dates", () =>
    expect(
      writeEventRows([
        { ...NO_TIES, kind: "holiday", title: "=1+1", at: Date.UTC(2026, 0, 1), allDay: true, impact: 2, markets: [] },
      ])[1].slice(0, 2),
    ).toEqual(["2026-01-01", "'=1+1"]));
});
