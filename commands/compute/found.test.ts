import { mkdtempSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { SP500_FILE, sp500 } from "#core/testing/openData";
import { compute } from "./compute.ts";

const folder = mkdtempSync("/tmp/compass-found-");
function fileOf(bars: readonly (readonly [number, number, number, number])[]): string {
  const path = join(folder, `${Math.random()}.csv`);
  const date = (i: number) => new Date(Date.UTC(2024, 0, 1 + i)).toISOString().slice(0, 10);
  writeFileSync(path, ["date,open,high,low,close", ...bars.map((bar, i) => [date(i), ...bar].join(","))].join("\n"));
  return path;
}
const ask = (file: string, request: object) => compute({ bars: { file }, ask: [request] }).answers[0].values;

describe("found by request", () => {
  it("structure: times of the bar and of the swing, up to what was known", () => {
    const closes = [10, 12, 14, 13, 11, 13, 15, 17, 16, 15, 18, 14];
    const file = fileOf(
      closes.map((close, i) => [
        closes[Math.max(0, i - 1)],
        Math.max(close, closes[Math.max(0, i - 1)]) + 0.5 + (i % 2) / 10,
        Math.min(close, closes[Math.max(0, i - 1)]) - 0.5 - (i % 2) / 10,
        close,
      ]),
    );
    expect(ask(file, { quantity: "structure", k: 1 })).toEqual([
      { time: "2024-01-07", event: "break", direction: "up", price: 14.6, swingTime: "2024-01-04" },
      { time: "2024-01-11", event: "break", direction: "up", price: 17.6, swingTime: "2024-01-08" },
      { time: "2024-01-12", event: "shift", direction: "down", price: 14.4, swingTime: "2024-01-10" },
    ]);
  });
  it("zones: edges, kind, life and grade of a base price left in a hurry", () => {
    const lively = Array.from({ length: 20 }, (_, i) =>
      i % 2 === 0 ? ([100, 104, 100, 104] as const) : ([104, 104, 100, 100] as const),
    );
    const file = fileOf([
      ...lively,
      [100, 101, 99.5, 99.8],
      [99.8, 100.5, 99, 100.2],
      [100.2, 105, 100.2, 105],
      [105, 110, 104, 110],
      [110, 110, 99.9, 103],
    ]);
    const [zone] = ask(file, { quantity: "zones" });
    expect(zone).toMatchObject({
      time: "2024-01-23",
      kind: "drop-base-rally",
      side: "demand",
      bottom: 99,
      top: 100,
      state: "touched",
      touches: 1,
      knownAt: "2024-01-24",
    });
    expect(zone.deepest).toBeCloseTo(0.1, 9);
    expect(zone.grade).toBeGreaterThan(40);
    expect(zone.events).toMatchObject([
      { time: "2024-01-25", event: "touched", touches: 1 },
      { time: "2024-01-25", event: "left" },
    ]);
  });
  it("equal levels: their times, the outermost price and whether they were run", () => {
    const series = sp500();
    const levels = ask(SP500_FILE, { quantity: "equalLevels" }) as {
      times: string[];
      price: number;
      side: "high" | "low";
      state: string;
    }[];
    expect(levels.length).toBeGreaterThan(20);
    for (const { times, price, side, state } of levels) {
      const at = times.map((time) => series.time.indexOf(Date.parse(time)));
      const prices = at.map((i) => series[side][i]);
      expect(price).toBe(side === "high" ? Math.max(...prices.slice(0, 2)) : Math.min(...prices.slice(0, 2)));
      const later = Math.max(...at) + 4;
      const beyond = (value: number) => (side === "high" ? value > price : value < price);
      const taken = [...series.close.slice(later)].some(beyond);
      const swept = [...series[side].slice(later)].some(beyond);
      expect(state).toBe(taken ? "taken" : swept ? "swept" : "untouched");
    }
  });
  it("areas: of at least two rungs, heavier with more reasons", () => {
    const areas = ask(SP500_FILE, { quantity: "areas", timeframes: ["P1D", "P1W", "P1M"] }) as {
      bottom: number;
      top: number;
      weight: number;
      reasons: { rung: string }[];
    }[];
    expect(areas.length).toBeGreaterThan(0);
    for (const { bottom, top, reasons, weight } of areas) {
      expect(top).toBeGreaterThanOrEqual(bottom);
      expect(new Set(reasons.map(({ rung }) => rung)).size).toBeGreaterThan(1);
      expect(weight).toBeGreaterThan(0);
    }
    expect(() => ask(SP500_FILE, { quantity: "areas", timeframes: ["weekly"] })).toThrow(/ISO 8601/);
    expect(() => ask(SP500_FILE, { quantity: "areas", timeframes: ["PT1H"] })).toThrow(/do not make/);
  });
});
