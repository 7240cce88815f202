import { describe, expect, it } from "vitest";
import { deriveFromLayers } from "#core/series/layers";
import { resample } from "#core/series/resample";
import { barAt, concat } from "#core/series/series";
import { Calendar, checkCalendar } from "#core/time/calendar";
import { readImpulse } from "#core/waves/impulse";
import { makeBars } from "./market.ts";
import { seeded } from "./random.ts";
import { plant, skeleton, type PlantedWave } from "./waves.ts";
import { MARKETS, SPAN } from "./world.ts";

const DAY = { count: 1, unit: "day" } as const;
const MINUTE = { count: 1, unit: "minute" } as const;

function all(wave: PlantedWave): PlantedWave[] {
  return [wave, ...wave.children.flatMap(all)];
}

describe("planted waves", () => {
  it("every impulse keeps the rules, on the log scale it was laid out in", () => {
    for (let seed = 0; seed < 40; seed++) {
      const root = plant({ day: 0, log: 4 }, { day: 900, log: seed % 2 === 0 ? 5.2 : 3.1 }, "impulse", 3, seeded(`waves ${seed}`));
      for (const { pattern, start, children } of all(root).filter((wave) => wave.pattern === "impulse")) {
        const pivots = [start, ...children.map(({ end }) => end)].map(({ day, log }) => ({ time: day, price: Math.exp(log) }));
        expect(readImpulse(pivots, "log").rules.filter(({ holds }) => !holds), `${pattern} of seed ${seed}`).toEqual([]);
      }
    }
  });
  it("the skeleton runs through every turn in order of time", () => {
    const turns = skeleton(plant({ day: 0, log: 4 }, { day: 500, log: 5 }, "impulse", 4, seeded("order")));
    for (let i = 1; i < turns.length; i++) expect(turns[i].day).toBeGreaterThan(turns[i - 1].day);
    expect([turns[0].log, turns[turns.length - 1].log]).toEqual([4, 5]);
  });
});

describe.each(MARKETS.map((market) => [market.name, market] as const))("%s", (_name, market) => {
  const { daily, minutes, tape, truth } = makeBars(market, SPAN);
  const calendar = new Calendar(market.calendar);

  it("has a calendar that can be", () => expect(checkCalendar(market.calendar)).toEqual([]));
  it("is the same on every machine", () => {
    const again = makeBars(market, SPAN);
    expect([...again.minutes.close.slice(-5)]).toEqual([...minutes.close.slice(-5)]);
  });
  it("has years of days, weeks of minutes behind the present and weeks ahead of it", () => {
    expect(daily.length).toBeGreaterThan(1900);
    expect(minutes.time[minutes.length - 1] + 60_000).toBeLessThanOrEqual(SPAN.now);
    expect(tape.time[0] + 60_000).toBeGreaterThan(SPAN.now);
    expect(tape.length).toBeGreaterThan(10_000);
  });
  it("trades in its sessions only, each minute once, on the tick grid", () => {
    const whole = concat([minutes, tape]);
    for (let i = 0; i < whole.length; i += 17) {
      const bar = barAt(whole, i);
      if (!calendar.sessionAt(bar.time)) expect.fail(`${new Date(bar.time).toISOString()} is outside every session`);
      if (i > 0) expect(bar.time).toBeGreaterThan(whole.time[i - 1]);
      for (const price of [bar.open, bar.high, bar.low, bar.close]) expect(Math.abs(price / market.tick - Math.round(price / market.tick))).toBeLessThan(1e-6);
      expect(bar.high >= Math.max(bar.open, bar.close) && bar.low <= Math.min(bar.open, bar.close)).toBe(true);
    }
  });
  it("its days are its minutes, and follow on the days before without a seam", () => {
    const series = deriveFromLayers([{ base: DAY, series: daily }, { base: MINUTE, series: minutes }], DAY, calendar);
    const made = resample(minutes, MINUTE, DAY, calendar);
    expect(series.length).toBe(daily.length + made.length);
    expect(series.open[daily.length]).toBe(daily.close[daily.length - 1]);
  });
  it("trades its planted turns: each extreme is within a swing of what was planted", () => {
    const series = deriveFromLayers([{ base: DAY, series: daily }, { base: MINUTE, series: concat([minutes, tape]) }], DAY, calendar);
    for (const { end } of truth.children.slice(0, 4)) {
      const at = Math.min(series.length - 1, Math.floor(end.day));
      const near = [-1, 0, 1].map((step) => Math.max(0, Math.min(series.length - 1, at + step)));
      const price = Math.exp(end.log);
      const [low, high] = [Math.min(...near.map((i) => series.low[i])), Math.max(...near.map((i) => series.high[i]))];
      expect(price).toBeGreaterThan(low * (1 - market.swing));
      expect(price).toBeLessThan(high * (1 + market.swing));
    }
  });
});
