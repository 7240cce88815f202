import { describe, expect, it } from "vitest";
import { Calendar } from "../time/calendar.ts";
import { lastClose, NEXT_CLOSE, nextClose, shownFrom, waitText } from "./wait.ts";

const HOUR = 3_600_000;
const at = (text: string) => Date.parse(text);
const exchange = (zone: string, open: string, close: string) =>
  new Calendar({ zone, sessions: [{ days: [1, 2, 3, 4, 5], open, close }] });
// Cash hours of two exchanges, as they publish them (common practice, no source).
const london = exchange("Europe/London", "08:00", "16:30");
const newYork = exchange("America/New_York", "09:30", "16:00");

describe("the next close", () => {
  it("is that of the day, after it that of the next trading day, over weekends and changes of the clock", () => {
    expect(nextClose(london, at("2026-11-27T11:00Z"))).toBe(at("2026-11-27T16:30Z"));
    expect(nextClose(london, at("2026-11-27T16:30Z"))).toBe(at("2026-11-30T16:30Z"));
    // Summer time in London ends on 25 October 2026.
    expect(nextClose(london, at("2026-10-23T16:00Z"))).toBe(at("2026-10-26T16:30Z"));
    expect(nextClose(london, at("2026-10-23T15:00Z"))).toBe(at("2026-10-23T15:30Z"));
  });

  it("of several markets is the last, and of none the instant itself", () => {
    const noon = at("2026-11-27T12:00Z");
    expect(lastClose([london, newYork], noon)).toBe(at("2026-11-27T21:00Z"));
    expect(lastClose([], noon)).toBe(noon);
  });
});

describe("a plan that waits", () => {
  const edition = { publishedAt: at("2026-11-27T06:00Z"), closesAt: at("2026-11-27T16:30Z") };
  it("shows an edition so many hours later, or once its markets have closed", () => {
    expect(shownFrom(edition, 0)).toBe(edition.publishedAt);
    expect(shownFrom(edition, 6)).toBe(edition.publishedAt + 6 * HOUR);
    expect(shownFrom(edition, NEXT_CLOSE)).toBe(edition.closesAt);
    // Of editions from before closes were kept: a day later, by when every market of its day has closed.
    expect(shownFrom({ ...edition, closesAt: null }, NEXT_CLOSE)).toBe(edition.publishedAt + 24 * HOUR);
  });
  it("is told in words", () => {
    expect([0, 6, NEXT_CLOSE].map(waitText)).toEqual(["at once", "6 h later", "after the next close"]);
  });
});
