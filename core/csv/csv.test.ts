import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { readBars, recognise } from "#core/csv/barfile";
import { readNumber, readVolume, recogniseNumbers, recogniseVolumes, saidFormat } from "#core/csv/numbers";
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
    expect(format.numbers).toMatchObject({ decimal: ",", ambiguous: false });
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
    expect(timeReader(format, "UTC").read("1985-04-12T23:20:50.52Z")).toBe(Date.parse("1985-04-12T23:20:50Z"));
    expect(timeReader(format, "Asia/Tokyo").read("1996-12-19T16:39:57-08:00")).toBe(Date.parse("1996-12-20T00:39:57Z"));
  });
  it("clock times through the nights the clocks change are read one by one", () => {
    const format = recogniseTime(["2026-03-28 12:00"]);
    if (typeof format === "string") throw new Error(format);
    const { read } = timeReader(format, "Europe/Lisbon");
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
    expect(timeReader(seconds, "UTC").read("1700000000")).toBe(timeReader(milliseconds, "UTC").read("1700000000000"));
  });
});

describe("numbers of a file", () => {
  it.each<[string, "." | ",", number]>([
    ["1.5", ".", 1.5],
    ["1,5", ",", 1.5],
    ["\u22122", ".", -2],
    ["1e-8", ".", 1e-8],
    [".5", ".", 0.5],
  ])("%s with %s is %d", (text, decimal, value) => expect(readNumber(text, { decimal, thousands: "" })).toBe(value));
  it.each(["1,234.5", "0x10", "1 2", "", "--1", "1e999", "9".repeat(40)])("%j is none", (text) =>
    expect(Number.isFinite(readNumber(text, { decimal: ".", thousands: "" }))).toBe(false),
  );
});

describe("numbers of a whole column", () => {
  it.each([
    [["38,250", "38,500"], { decimal: ".", thousands: ",", ambiguous: true }],
    [["110.250", "109.875"], { decimal: ".", thousands: "", ambiguous: true }],
    [["38,250", "1,038,250"], { decimal: ".", thousands: ",", ambiguous: false }],
    [["38,250", "38,25"], { decimal: ",", thousands: "", ambiguous: false }],
    [["38,250", "0,250"], { decimal: ",", thousands: "", ambiguous: false }],
    [["38,250", "38250"], { decimal: ",", thousands: "", ambiguous: false }],
    [["38,250.50", "900"], { decimal: ".", thousands: ",", ambiguous: false }],
    [["38.250,50", "900"], { decimal: ",", thousands: ".", ambiguous: false }],
    [["38 250,50", "39\u00a0000,00"], { decimal: ",", thousands: " ", ambiguous: false }],
    [["38'250.50"], { decimal: ".", thousands: "'", ambiguous: false }],
    [["$187.43", "$1,187.43"], { decimal: ".", thousands: ",", ambiguous: false }],
    [["38", "39"], { decimal: ".", thousands: "", ambiguous: false }],
  ])("%j", (cells, format) => expect(recogniseNumbers(cells)).toEqual(format));
  it("that are written in two ways are refused in a sentence", () => {
    expect(recogniseNumbers(["1,234.5", "1.234,5"])).toMatch(/written in two ways/);
  });
  it("that can be read both ways are read as somebody says", () => {
    const commas = { decimal: ".", thousands: "," } as const;
    expect(readNumber("38,250", saidFormat(commas, "decimals"))).toBe(38.25);
    expect(readNumber("38,250", saidFormat(commas, "thousands"))).toBe(38_250);
    expect(readNumber("38.250", saidFormat({ decimal: ".", thousands: "" }, "thousands"))).toBe(38_250);
  });
  it.each(["1,23,4", "12,34", "1,2345", "1,234,56"])("%j has its thousands in no place they have", (cell) =>
    expect(readNumber(cell, { decimal: ".", thousands: "," })).toBeNaN(),
  );
  it("of volumes are read by their own cells, or by the prices beside them; unknown ones leave the price", () => {
    const [point, comma] = [{ decimal: ".", thousands: "" } as const, { decimal: ",", thousands: "" } as const];
    const volumes = (cells: string[], prices: typeof point | typeof comma) => {
      const format = recogniseVolumes(cells, prices);
      return cells.map((cell) => readVolume(cell, format));
    };
    expect(volumes(["1.234.567", "900"], point)).toEqual([1_234_567, 900]);
    expect(volumes(["12.345"], comma)).toEqual([12_345]);
    expect(volumes(["12,345", "N/A", "-", ""], point)).toEqual([12_345, 0, 0, 0]);
    expect(volumes(["1.2M", "350K"], point)).toEqual([1_200_000, 350_000]);
    expect(readVolume("many", point)).toBeNaN();
  });
  it("makes 38250 of 38,250 in a whole file once that is said, and of a bar what its adjusted close is", () => {
    const { format } = accepted('date,open,high,low,close\n2024-01-02,"38,250","38,500","38,000","38,400"\n');
    expect(format.numbers).toMatchObject({ ambiguous: true, thousands: "," });
    const text = "date,open,high,low,close,adj close,volume\n2024-01-02,10,12,8,10,5,100\n";
    const [header = [], ...rows] = Papa.parse<string[]>(text, { skipEmptyLines: true }).data;
    const found = recognise(header, rows, "UTC");
    if (typeof found === "string") throw new Error(found);
    expect(readBars(rows, found, () => 2).series.high[0]).toBe(12);
    const { series } = readBars(rows, { ...found, isAdjusted: true }, () => 2);
    expect([series.open[0], series.high[0], series.low[0], series.close[0], series.volume[0]]).toEqual([
      5, 6, 4, 5, 100,
    ]);
  });
});

describe("dates as files write them", () => {
  const day = Date.UTC(2024, 0, 2);
  it.each([
    ["02-01-2024", "16-01-2024"],
    ["02-01-24", "16-01-24"],
    ["01/02/24", "01/16/24"],
    ["02-Jan-2024", "16-Jan-2024"],
    ["2 January 2024", "16 January 2024"],
    ["Jan 02, 2024", "Jan 16, 2024"],
    ["Tue, 2 Jan 2024", "Tue, 16 Jan 2024"],
    ["2. Januar 2024", "16. Januar 2024"],
    ["02.01.2024 00:00:00.000", "16.01.2024 00:00:00.000"],
    ["2024-01-02 00:00:00 UTC", "2024-01-16 00:00:00 UTC"],
    ["1/2/2024 12:00 AM", "1/16/2024 12:00 AM"],
  ])("%s", (first, later) => {
    const format = recogniseTime([first, later]);
    if (typeof format === "string") throw new Error(format);
    const reader = timeReader(format, "UTC");
    expect([first, later].map((cell) => reader.read(cell))).toEqual([day, day + 14 * 86_400_000]);
  });
  it("a year of two digits is of 1969 to 2068 (POSIX.1-2017, strptime)", () => {
    const format = recogniseTime(["12/31/69"]);
    if (typeof format === "string") throw new Error(format);
    const { read } = timeReader(format, "UTC");
    expect([read("12/31/69"), read("12/31/68")]).toEqual([Date.UTC(1969, 11, 31), Date.UTC(2068, 11, 31)]);
  });
  it("seconds of nine digits are of before September 2001; impossible dates and hours are none", () => {
    const seconds = recogniseTime(["999999999", "1000000000"]);
    if (typeof seconds === "string") throw new Error(seconds);
    expect(timeReader(seconds, "UTC").read("999999999")).toBe(Date.UTC(2001, 8, 9, 1, 46, 39));
    const named = recogniseTime(["1 Jan 2024 10:00 AM"]);
    if (typeof named === "string") throw new Error(named);
    const { read } = timeReader(named, "UTC");
    expect(["31 Feb 2024 10:00 AM", "1 Foo 2024 10:00 AM", "1 Jan 2024 13:00 PM"].map((cell) => read(cell))).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe("heads as files write them", () => {
  it.each([
    ["Gmt time,Open,High,Low,Close,Volume", "02.01.2024 00:00:00.000,1,3,1,2,5"],
    ["Date,Close/Last,Volume,Open,High,Low", "01/16/2024,$2.00,N/A,$1.00,$3.00,$1.00"],
    ["Datum;Er\u00f6ffnung;Hoch;Tief;Schlusskurs;Umsatz", "02.01.2024;1,00;3,00;1,00;2,00;1.234.567"],
    ["Fecha;\u00daltimo;Apertura;M\u00e1ximo;M\u00ednimo", "02-01-2024;2,0;1,0;3,0;1,0"],
  ])("%s", (head, row) => {
    const { series, faults } = accepted(`${head}\n${row}\n`);
    expect(faults).toEqual([]);
    expect([series.open[0], series.high[0], series.low[0], series.close[0]]).toEqual([1, 3, 1, 2]);
  });
});
