import { parse } from "papaparse";
import { describe, expect, it } from "vitest";
import { readBars } from "../bars/chunks.ts";
import { aMarket, anAnalyst, dailyFile, failureOf, withTables } from "../testing.ts";
import { csvOfJson } from "../tasks/jsonBars.ts";
import { importSent, SENT } from "./sent.ts";

withTables();

const failureIn = async (text: string) => {
  const [market, { id }] = [await aMarket(), await anAnalyst()];
  const body = new Blob([text]).stream() as never;
  return failureOf(importSent(market.id, body, "bars.csv", SENT, id, { isJson: true }));
};

describe("bars as JSON", () => {
  it("are the table they say, in its order of columns, with volume where any has one", () => {
    const day = Date.parse("2026-11-27T00:00:00Z");
    expect(csvOfJson(JSON.stringify([{ close: 1.5, open: 1, high: 2, low: 0.5, time: day }]))).toBe(
      "time,open,high,low,close\r\n2026-11-27T00:00:00.000Z,1,2,0.5,1.5",
    );
    expect(
      csvOfJson(
        JSON.stringify([{ time: "2026-11-27", open: 1, high: 2, low: 0.5, close: 1, volume: 3 }, { time: "x" }]),
      ),
    ).toBe("time,open,high,low,close,volume\r\n2026-11-27,1,2,0.5,1,3\r\nx,,,,,");
  });

  it("are stored as the same table is, and it twice changes nothing", async () => {
    const [market, { id }] = [await aMarket(), await anAnalyst()];
    const send = (text: string) =>
      importSent(market.id, new Blob([text]).stream() as never, "bars.csv", SENT, id, { isJson: true });
    const { data } = parse<Record<string, string>>(dailyFile(0, 10), { header: true, skipEmptyLines: true });
    const bars = data.map((row) => {
      const [time, open, high, low, close] = Object.values(row);
      return { time, open: Number(open), high: Number(high), low: Number(low), close: Number(close) };
    });
    expect(await send(JSON.stringify(bars))).toMatchObject({ added: 10 });
    expect(await send(JSON.stringify(bars))).toMatchObject({ added: 0, already: true });
    expect(await readBars({ marketId: market.id, base: "P1D", shelf: "live" })).toHaveLength(10);
  });

  it("that are none are refused with what is wrong with them", async () => {
    expect(await failureIn("{")).toMatchObject({ sentence: "This is no JSON.", status: 422 });
    expect(await failureIn('{"bars":[]}')).toMatchObject({ sentence: "Bars are a list." });
    expect(await failureIn("[[1,2,3]]")).toMatchObject({ sentence: expect.stringMatching(/^Bar 1 of the list/) });
    expect(await failureIn('[{"time":"2026-01-01","open":{"$gt":1}}]')).toMatchObject({
      sentence: "Bar 1 of the list: its open is neither a number nor a text.",
    });
  });
});
