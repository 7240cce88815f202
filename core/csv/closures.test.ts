import { describe, expect, it } from "vitest";
import { closuresText, readClosures } from "#core/csv/closures";

const read = (...lines: string[]) => readClosures(lines.join("\n"));

describe("holidays that are pasted", () => {
  it("are read however their dates are written", () => {
    for (const date of [
      "2026-12-25",
      "25.12.2026",
      "25.12.26",
      "25/12/2026",
      "12/25/2026",
      "20261225",
      "25 Dec 2026",
      "25. Dezember 2026",
      "December 25, 2026",
      "Friday, 25 December 2026",
      "Fri, Dec 25, 2026",
      "25-Dec-2026",
    ])
      expect(read(date), date).toEqual({ holidays: ["2026-12-25"], halfDays: [], faults: [] });
  });
  it("may have a time behind them, which makes half days of them, and words", () => {
    expect(
      read("24.12.2026 13:00", "25.12.2026\tChristmas Day", "26 Dec 2026, Saint Stephen", "31.12.2026 closes 14:00"),
    ).toEqual({
      holidays: ["2026-12-25", "2026-12-26"],
      halfDays: [
        { date: "2026-12-24", close: "13:00" },
        { date: "2026-12-31", close: "14:00" },
      ],
      faults: [],
    });
  });
  it("say which comes first, day or month, together", () => {
    expect(read("03/04/2026", "25/12/2026").holidays).toEqual(["2026-04-03", "2026-12-25"]);
    expect(read("03/04/2026", "12/25/2026").holidays).toEqual(["2026-03-04", "2026-12-25"]);
  });
  it("name the line that is no date, is none there is, or can be read in two ways; the others are kept", () => {
    expect(read("2026-12-25", "", "Christmas", "2026-02-30", "03/04/2026")).toEqual({
      holidays: ["2026-12-25"],
      halfDays: [],
      faults: [
        { line: 3, sentence: '"Christmas" does not begin with a date.' },
        { line: 4, sentence: '"2026-02-30" is no date.' },
        { line: 5, sentence: '"03/04/2026" can be read in two ways: write it as year-month-day.' },
      ],
    });
  });
  it("are written so that they are read back", () => {
    const spec = { zone: "UTC", sessions: [], holidays: ["2026-12-25"], halfDays: { "2026-12-24": "13:00" } };
    expect(readClosures(closuresText(spec))).toEqual({
      holidays: ["2026-12-25"],
      halfDays: [{ date: "2026-12-24", close: "13:00" }],
      faults: [],
    });
  });
});
