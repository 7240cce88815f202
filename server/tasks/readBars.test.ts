import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { readColumns } from "#core/csv/heads";
import { fromBuffer } from "#core/series/series";
import readFile, { type FileOptions, type ReadFile } from "./readBars.ts";
import splitFile from "./splitBars.ts";

const folder = mkdtempSync(path.join(tmpdir(), "bars-"));
const day = (i: number) => new Date(Date.UTC(2015, 0, 5 + i)).toISOString().slice(0, 10);

function outcome(lines: readonly string[], options: Partial<FileOptions> = {}): ReturnType<typeof readFile> {
  const file = path.join(folder, "bars.csv");
  writeFileSync(file, lines.join("\n"));
  return readFile({ path: file, options: { zone: "UTC", ...options } });
}

function whole(found: ReturnType<typeof readFile>): ReadFile {
  if (typeof found === "string" || "open" in found) throw new Error(JSON.stringify(found));
  return found;
}

const read = (rows: readonly string[], head = "Date,Open,High,Low,Close,Volume") => whole(outcome([head, ...rows]));

/** Prices that were adjusted for what was paid out: the older the further off any grid; the newest as traded. */
const adjusted = (write: (price: number) => string) =>
  read(
    Array.from({ length: 900 }, (_, i) => {
      const traded = Math.round(15_000 + 4_000 * Math.sin(i / 40) + ((i * 7919) % 97)) / 100;
      const factor = i > 870 ? 1 : 0.9 - (900 - i) / 6_000;
      const cells = [traded, traded * 1.01, traded * 0.99, traded].map((price) =>
        write((Math.round(price * 100) / 100) * factor),
      );
      return [day(i), ...cells, "1000"].join(",");
    }),
  );

describe("the grid of a file's prices", () => {
  // Single precision holds 24 bits: 188.59 is kept as 188.58999633789062 (IEEE 754, binary32).
  it("is that of its newest rows, whatever noise of storage they have", () => {
    expect(adjusted((price) => Math.fround(price).toFixed(6)).decimals).toBe(2);
    expect(adjusted((price) => String(Math.fround(price))).decimals).toBe(2);
    expect(adjusted((price) => price.toFixed(4)).decimals).toBe(2);
  });
  it("keeps decimals that prices use, and none where they have none", () => {
    const quoted = Array.from({ length: 80 }, (_, i) => (1.2 + ((i * 7919) % 1013) / 1e5).toFixed(5));
    expect(read(quoted.map((price, i) => `${day(i)},${price},${price},${price},${price},0`)).decimals).toBe(5);
    const whole = quoted.map((_, i) => 38_000 + 5 * ((i * 7919) % 101));
    expect(read(whole.map((price, i) => `${day(i)},${price},${price},${price},${price},0`)).decimals).toBe(0);
  });
  it("is not taken from prices that stand still alone", () => {
    const still = Array.from({ length: 200 }, (_, i) =>
      i < 150 ? (1.2 + ((i * 7919) % 1013) / 1e5).toFixed(5) : "1.20000",
    );
    expect(read(still.map((price, i) => `${day(i)},${price},${price},${price},${price},0`)).decimals).toBe(5);
  });
});

describe("a file whose heads are not known", () => {
  const odd = ["Tag;Beginn;Spitze;Boden;Ende", "2024-01-02;1;3;0,5;2", "2024-01-03;2;4;1,5;3"];
  it("is not refused: what is missing is asked for, with its first rows", () => {
    expect(outcome(odd)).toMatchObject({
      open: "columns",
      sentence: "The header names no column for date or time, open, high, low, close.",
      sample: [["Tag", "Beginn", "Spitze", "Boden", "Ende"], ["2024-01-02", "1", "3", "0,5", "2"], expect.anything()],
    });
  });
  it("is read by what was said by hand", () => {
    const { bars, rows } = whole(outcome(odd, { columns: "time:1,open:2,high:3,low:4,close:5" }));
    expect(rows).toBe(2);
    expect([...fromBuffer(bars).close]).toEqual([2, 3]);
    expect([...fromBuffer(bars).low]).toEqual([0.5, 1.5]);
  });
  it("without a header begins with its first bar", () => {
    const bare = ["2024-01-02,1,3,0.5,2,10", "2024-01-03,2,4,1.5,3,20"];
    expect(outcome(bare)).toMatchObject({ open: "columns" });
    const { bars } = whole(outcome(bare, { columns: "time:1,open:2,high:3,low:4,close:5,volume:6" }));
    expect([...fromBuffer(bars).close]).toEqual([2, 3]);
    expect([...fromBuffer(bars).volume]).toEqual([10, 20]);
  });
  it.each(["time:1,open:1,high:3,low:4,close:5", "time:0", "day:1", "time", "time:1,time:2"])(
    "what says no columns is told: %s",
    (columns) => {
      expect(readColumns(columns)).toBeUndefined();
      expect(outcome(odd, { columns })).toMatch(/does not say which column is which/);
    },
  );
});

describe("a file of several markets", () => {
  const several = [
    "Symbol,Date,Open,High,Low,Close,Note",
    'TIN,2024-01-02,1,3,0.5,2,"a, b"',
    "ZINC,2024-01-02,10,30,5,20,",
    "TIN,2024-01-03,2,4,1.5,3,",
  ];
  it("is not read as one: its markets are named, with their rows", () => {
    expect(outcome(several)).toMatchObject({
      open: "markets",
      sentence: "The file holds bars of 2 markets.",
      markets: [
        { name: "TIN", rows: 2 },
        { name: "ZINC", rows: 1 },
      ],
    });
  });
  it("is taken apart into one file for each, in which nothing is lost", () => {
    outcome(several);
    const parts = splitFile({ path: path.join(folder, "bars.csv"), folder });
    if (typeof parts === "string") throw new Error(parts);
    expect(parts).toMatchObject([
      { name: "TIN", rows: 2 },
      { name: "ZINC", rows: 1 },
    ]);
    const [tin] = parts.map(({ id }) =>
      whole(readFile({ path: path.join(folder, `${id}.csv`), options: { zone: "UTC" } })),
    );
    expect([...fromBuffer(tin.bars).close]).toEqual([2, 3]);
    expect(tin.sample[1]).toContain("a, b");
  });
  it("of one market alone is read as it is", () => {
    expect(whole(outcome(several.filter((line) => !line.startsWith("ZINC")))).rows).toBe(2);
  });
});
