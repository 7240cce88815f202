import { describe, expect, it } from "vitest";
import { gapsOf, jumpsOf } from "#core/csv/remarks";
import { fromBars, type Bar } from "#core/series/series";
import { sp500 } from "#core/testing/openData";
import { Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { parseTimeframe } from "#core/time/timeframe";

const bar = (time: number, price = 10): Bar => ({
  time,
  open: price,
  high: price + 1,
  low: price - 1,
  close: price,
  volume: 1,
});
const days = new Calendar({
  zone: "America/New_York",
  sessions: [{ days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" }],
  holidays: ["2024-01-15"],
});

describe("remarks on a file of bars", () => {
  it("a price ten times too high is a jump there and a jump back", () => {
    const bars = Array.from({ length: 60 }, (_, i) => bar(i * DAY, i === 40 ? 100 : 10));
    const { count, listed } = jumpsOf(fromBars(bars));
    // After the first the range itself is wide, so the way back measures less.
    expect(count).toBeGreaterThanOrEqual(1);
    expect(listed[0].time).toBe(40 * DAY);
    expect(listed[0].size).toBeCloseTo(45, 9);
  });
  it("ten years of an index have none: opens near the last close, even in a crisis (open data)", () =>
    expect(jumpsOf(sp500()).count).toBe(0));
  it("only the largest are listed, in order of time", () => {
    const bars = Array.from({ length: 2000 }, (_, i) => bar(i * DAY, i % 100 === 99 ? 500 + i : 10));
    const { count, listed } = jumpsOf(fromBars(bars));
    expect(count).toBeGreaterThan(10);
    expect(listed).toHaveLength(5);
    expect([...listed].sort((a, b) => a.time - b.time)).toEqual(listed);
  });
  it("a trading date that is not there is a gap, a weekend and a holiday are none", () => {
    const dates = ["2024-01-11", "2024-01-12", "2024-01-16", "2024-01-19"].map((date) => bar(Date.parse(date)));
    expect(gapsOf(fromBars(dates), parseTimeframe("P1D")!, days)).toEqual({
      count: 1,
      listed: [{ time: Date.parse("2024-01-19"), size: 2 }],
    });
  });
  it("minutes that are not there are counted inside a session only", () => {
    const minute = (text: string) => bar(Date.parse(`${text}:00-05:00`));
    const minutes = [
      "2024-01-11T09:30",
      "2024-01-11T09:31",
      "2024-01-11T09:45",
      "2024-01-11T15:59",
      "2024-01-12T09:31",
      "2024-01-12T09:32",
    ].map(minute);
    const { count, listed } = gapsOf(fromBars(minutes), parseTimeframe("PT1M")!, days);
    expect([count, ...listed.map(({ size }) => size)]).toEqual([2, 13, 373]);
  });
  it("longer bars and a single one have no gaps", () => {
    expect(gapsOf(fromBars([bar(0), bar(100 * DAY)]), parseTimeframe("P1M")!, days).count).toBe(0);
    expect(gapsOf(fromBars([bar(0)]), parseTimeframe("PT1M")!, days).count).toBe(0);
    expect(jumpsOf(fromBars([bar(0)])).count).toBe(0);
  });
});
