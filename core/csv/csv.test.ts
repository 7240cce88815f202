import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { readBars, readNumber, recognise, type BarFormat } from "#core/csv/barfile";
import { recogniseTime, timeReader } from "#core/csv/times";

function read(text: string, zone = "UTC") {
  const [header = [], ...rows] = Papa.parse<string[]>(text, { skipEmptyLines: true }).data;
  const format = recognise(header, rows, zone);
  return typeof format === "string" ? format : { format, ...readBars(rows, format, (i) => i + 2) };
}

function accepted(text: string, zone?: string) {
  const result = read(text, zone);
  if (typeof result === "string") throw new Error(result);
  return result;
}

describe("files of bars", () => {
  // RFC 4180, section 2: CRLF line ends, quoted fields, doubled quotes inside them.
  it("reads the quoting of RFC 4180", () => {
    const { series } = accepted(
      '"date","open","high","low","close","note"\r\n"2024-01-02","1","2","1","2","said ""hold"",\r\nthen ' +
        'left"\r\n2024-01-03,2,3,2,3,plain\r\n',
    );
    expect([...series.close]).toEqual([2, 3]);
  });
  it("recognises semicolons with decimal commas", () => {
    const { series, format } = accepted(
      "Datum;Open;High;Low;Close\n".replace("Datum", "Date") + "02.01.2024;1,5;2,25;1,25;2\n",
    );
    expect(format.decimal).toBe(",");
    expect(series.high[0]).toBe(2.25);
  });
  it("finds columns by name in any order, date and clock apart", () => {
    const { series } = accepted("Close,Low,High,Open,Date,Time\n2,1,3,1.5,2024-01-02,09:30\n", "America/New_York");
    expect(series.time[0]).toBe(Date.UTC(2024, 0, 2, 14, 30));
    expect(series.open[0]).toBe(1.5);
  });
  it.each([
    ["day,open\n1,2\n", /names no column for high, low, close/],
    ["date,open,high,low,close\n", /header and no rows/],
    ["date,open,high,low,close\nyesterday,1,1,1,1\n", /written in no way that is known/],
    ["", /names no column/],
  ])("tells why %j is no file of bars", (text, words) => expect(read(text)).toMatch(words));

  it.each([
    ["2024-02-30,1,2,1,2", "is not a date"],
    ["2024-01-05,1,2,3,2", "high is below the low"],
    ["2024-01-05,5,2,1,2", "open is outside"],
    ["2024-01-05,1,2,1,3", "close is outside"],
    ["2024-01-05,0,2,0,1", "above zero"],
    ["2024-01-05,-1,2,-1,1", "above zero"],
    ["2024-01-05,1,NaN,1,1", "not a number"],
    ["2024-01-05,1,Infinity,1,1", "not a number"],
    ["2024-01-05,=1+1,2,1,1", '"=1+1" is not a number'],
    ["2024-01-05,1,2", "has 3 cells"],
    ["2024-01-03,9,9,9,9", "same time and other values"],
  ])("names the row %j with its line", (row, words) => {
    const { faults, series } = accepted(`date,open,high,low,close\n2024-01-03,1,2,1,2\n${row}\n2024-01-08,1,2,1,2\n`);
    expect(faults).toEqual([{ line: 3, reason: expect.stringContaining(words) as string }]);
    expect(series.length).toBe(2);
  });
  it("puts rows in order, and takes what is said twice once", () => {
    const { series, repeated, faults } = accepted(
      "date,open,high,low,close\n2024-01-04,1,2,1,2\n2024-01-03,1,2,1,2\n2024-01-04,1,2,1,2\n",
    );
    expect([series.length, repeated, faults.length]).toEqual([2, 1, 0]);
    expect(series.time[0]).toBeLessThan(series.time[1]);
  });
});

it("the hour that comes twice when the clocks go back is read twice, in the order of the rows", () => {
  // Lisbon, 25 October 2026: at 02:00 of summer time the clocks go back to 01:00.
  const rows = ["00:30", "01:00", "01:30", "01:00", "01:30", "02:00"].map((clock) => `2026-10-25 ${clock},1,2,1,2`);
  const { series, faults } = accepted(`time,open,high,low,close\n${rows.join("\n")}\n`, "Europe/Lisbon");
  expect(faults).toEqual([]);
  expect([...series.time].map((time) => new Date(time).toISOString().slice(5, 16))).toEqual([
    "10-24T23:30",
    "10-25T00:00",
    "10-25T00:30",
    "10-25T01:00",
    "10-25T01:30",
    "10-25T02:00",
  ]);
});

describe("times of a file", () => {
  it.each([
    [["31/12/2023", "01/02/2024"], "dmy", false],
    [["12/31/2023", "01/02/2024"], "mdy", false],
    [["01/02/2024", "03/04/2024"], "mdy", true],
    [["2023/12/31"], "ymd", false],
    [["1.2.2024"], "dmy", true],
  ])("%j is %s", (samples, order, ambiguous) => expect(recogniseTime(samples)).toMatchObject({ order, ambiguous }));
  // RFC 3339, section 5.8, examples (seconds of a leap second and fractions apart).
  it("reads the offsets of RFC 3339", () => {
    const format = recogniseTime(["1985-04-12T23:20:50.52Z"]);
    if (typeof format === "string") throw new Error(format);
    expect(timeReader(format, "UTC")("1985-04-12T23:20:50.52Z")).toBe(Date.parse("1985-04-12T23:20:50Z"));
    expect(timeReader(format, "Asia/Tokyo")("1996-12-19T16:39:57-08:00")).toBe(Date.parse("1996-12-20T00:39:57Z"));
  });
  it("clock times through the nights the clocks change are read one by one", () => {
    const format = recogniseTime(["2026-03-28 12:00"]);
    if (typeof format === "string") throw new Error(format);
    const read = timeReader(format, "Europe/Lisbon");
    expect(
      ["2026-03-28 12:00", "2026-03-29 00:30", "2026-03-29 12:00", "2026-03-29 25:00", "2026-04-10 12:00"].map((cell) =>
        read(cell),
      ),
    ).toEqual([
      Date.UTC(2026, 2, 28, 12),
      Date.UTC(2026, 2, 29, 0, 30),
      Date.UTC(2026, 2, 29, 11),
      undefined,
      Date.UTC(2026, 3, 10, 11),
    ]);
  });
  it("reads seconds and milliseconds since 1970", () => {
    const seconds = recogniseTime(["1700000000"]);
    const milliseconds = recogniseTime(["1700000000000"]);
    if (typeof seconds === "string" || typeof milliseconds === "string") throw new Error("not recognised");
    expect(timeReader(seconds, "UTC")("1700000000")).toBe(timeReader(milliseconds, "UTC")("1700000000000"));
  });
});

describe("numbers of a file", () => {
  it.each<[string, BarFormat["decimal"], number]>([
    ["1.5", ".", 1.5],
    ["1,5", ",", 1.5],
    ["\u22122", ".", -2],
    ["1e-8", ".", 1e-8],
    [".5", ".", 0.5],
  ])("%s with %s is %d", (text, decimal, value) => expect(readNumber(text, decimal)).toBe(value));
  it.each(["1,234.5", "0x10", "1 2", "", "--1", "1e999", "9".repeat(40)])("%j is none", (text) =>
    expect(Number.isFinite(readNumber(text, "."))).toBe(false),
  );
});
