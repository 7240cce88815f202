import { readFileSync } from "node:fs";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { readBars, recognise } from "#core/csv/barfile";
import { gapsOf } from "#core/csv/remarks";
import { sessionsOf, sessionsText } from "#core/csv/sessions";
import { resample } from "#core/series/resample";
import { SP500_FILE, sp500 } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { offsetAt } from "#core/time/zone";

/** Daily bars of an index, open data carried by the vega-datasets package, written as files of ten zones write them. */
const ROWS = readFileSync(SP500_FILE, "utf8").trim().split("\n").slice(1);
const WHOLE = sp500();
const [DAY, WEEK] = ["P1D", "P1W"].map((text) => parseTimeframe(text) as Timeframe);

const ZONES = [
  ...["UTC", "Europe/London", "Europe/Berlin", "Europe/Athens", "Africa/Cairo"],
  ...["Asia/Kolkata", "Asia/Tokyo", "Pacific/Auckland", "America/New_York", "America/Los_Angeles"],
];

/** The file with its dates written otherwise. */
const written = (write: (date: string) => string) =>
  ["date,open,high,low,close,adjclose,volume", ...ROWS.map((row) => write(row.slice(0, 10)) + row.slice(10))].join(
    "\n",
  );

function read(text: string, zone: string) {
  const [header = [], ...rows] = Papa.parse<string[]>(text, { skipEmptyLines: true }).data;
  const format = recognise(header, rows, zone);
  if (typeof format === "string") throw new Error(format);
  return readBars(rows, format, (i) => i + 2);
}

/** Midnight of a date in a zone, as an instant told in UTC. */
const midnight = (date: string, zone: string) => {
  const civil = Date.parse(date);
  return new Date(civil - offsetAt(civil - offsetAt(civil, zone), zone)).toISOString().replace(".000", "");
};
const offset = (date: string, zone: string) => {
  const minutes = offsetAt(Date.parse(date), zone) / 60_000;
  const two = (n: number) => String(Math.floor(Math.abs(n))).padStart(2, "0");
  return `${minutes < 0 ? "-" : "+"}${two(minutes / 60)}:${two(Math.abs(minutes) % 60)}`;
};

describe("a real file of daily bars with clock times", () => {
  it.each(
    ZONES.flatMap((zone) => [
      [zone, "midnight of its zone", (date: string) => `${date} 00:00`],
      [zone, "midnight with its offset", (date: string) => `${date}T00:00:00${offset(date, zone)}`],
      [zone, "midnight of its zone, told in UTC", (date: string) => midnight(date, zone)],
      [zone, "midnight of its zone, in seconds", (date: string) => String(Date.parse(midnight(date, zone)) / 1000)],
    ]) as [string, string, (date: string) => string][],
  )("%s, %s: dates, weeks and gaps are the file's", (zone, _how, write) => {
    const { series, faults } = read(written(write), zone);
    expect(faults).toEqual([]);
    expect([...series.time]).toEqual([...WHOLE.time]);
    const week = { ...ALL_HOURS, zone, sessions: sessionsOf(series, DAY, zone) ?? [] };
    expect(sessionsText(week.sessions)).toBe("Mon to Fri");
    const calendar = new Calendar(week);
    const plain = new Calendar({ ...week, zone: "UTC" });
    expect(gapsOf(series, DAY, calendar).count).toBe(gapsOf(WHOLE, DAY, plain).count);
    const [own, its] = [resample(series, DAY, WEEK, calendar), resample(WHOLE, DAY, WEEK, plain)];
    expect([[...own.open], [...own.close]]).toEqual([[...its.open], [...its.close]]);
  });

  it("the open of a session as an instant belongs to its date, and no day is missing for it", () => {
    const { series } = read(
      written((date) => `${date}T14:30:00Z`),
      "America/New_York",
    );
    expect([...series.time]).toEqual([...WHOLE.time]);
  });

  it("minutes stay where they are, and so does a bar alone that nobody said the length of", () => {
    const minutes = "time,open,high,low,close\n2024-01-02T09:00Z,1,2,1,2\n2024-01-02T09:01Z,1,2,1,2\n";
    expect([...read(minutes, "Asia/Tokyo").series.time]).toEqual([Date.UTC(2024, 0, 2, 9), Date.UTC(2024, 0, 2, 9, 1)]);
    const alone = minutes.split("\n").slice(0, 2).join("\n");
    expect(read(alone, "Asia/Tokyo").series.time[0]).toBe(Date.UTC(2024, 0, 2, 9));
  });
});
