import { describe, expect, it } from "vitest";
import { fromBars } from "#core/series/series";
import { Calendar } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";
import { stepFrom } from "./walk.ts";

const calendar = new Calendar({ zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5], open: "08:00", close: "16:00" }] });
const at = (text: string) => Date.parse(`2024-01-${text}:00Z`);
const hours = (...texts: string[]) =>
  fromBars(texts.map((text) => ({ time: at(text), open: 1, high: 1, low: 1, close: 1, volume: 1 })));
const step = (asOf: string, direction: 1 | -1, bars: ReturnType<typeof hours>, rung = "PT4H") =>
  new Date(stepFrom(at(asOf), direction, bars, parseTimeframe(rung)!, calendar)).toISOString().slice(8, 16);

describe("walking bar by bar", () => {
  it("ends the bar that runs, then the next one, over a night and a weekend", () => {
    expect(step("04T09:30", 1, hours("04T08:00"))).toBe("04T12:00");
    expect(step("04T12:00", 1, hours("04T08:00"))).toBe("04T16:00");
    expect(step("04T16:00", 1, hours("04T08:00", "04T12:00"))).toBe("05T12:00");
    expect(step("05T16:00", 1, hours("05T12:00"))).toBe("08T12:00");
  });
  it("goes back to the last close before, whether a bar runs or not", () => {
    expect(step("08T09:30", -1, hours("05T12:00", "08T08:00"))).toBe("05T16:00");
    expect(step("05T16:00", -1, hours("05T08:00", "05T12:00"))).toBe("05T12:00");
  });
  it("on days goes from close to close", () => {
    const days = hours("04T00:00", "05T00:00");
    expect(step("05T16:00", 1, days, "P1D")).toBe("08T16:00");
    expect(step("05T16:00", -1, days, "P1D")).toBe("04T16:00");
  });
  it("goes on from the instant itself, even where the bars at hand end some closes before it", () => {
    expect(step("05T16:00", 1, hours("03T00:00"), "P1D")).toBe("08T16:00");
    expect(step("08T12:00", 1, hours("04T08:00"))).toBe("08T16:00");
  });
  it("goes on by one bar from an instant that is behind the bars at hand", () => {
    expect(step("04T12:00", 1, hours("04T08:00", "04T12:00", "05T08:00"))).toBe("04T16:00");
  });
  it("before the first bar it stays, and finds the first one", () => {
    expect(step("04T08:00", -1, hours())).toBe("04T08:00");
    expect(step("04T08:00", 1, hours())).toBe("04T12:00");
  });
});
