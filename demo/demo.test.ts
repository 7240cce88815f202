import { sampleCorrelation } from "simple-statistics";
import { describe, expect, it } from "vitest";
import { deriveSeries } from "#core/series/formula";
import { deriveFromLayers } from "#core/series/layers";
import { resample } from "#core/series/resample";
import { barAt, concat, firstAtOrAfter } from "#core/series/series";
import { Calendar, checkCalendar } from "#core/time/calendar";
import { DAY as DAY_MS, parseDate, weekday } from "#core/time/dates";
import type { Timeframe } from "#core/time/timeframe";
import { readImpulse } from "#core/waves/impulse";
import { makeBars, type DemoBars } from "./market.ts";
import { seeded } from "./random.ts";
import { releasesOf } from "./releases.ts";
import { plant, skeleton, type PlantedWave } from "./waves.ts";
import { DERIVED, MARKETS, SPAN } from "./world.ts";

const DAY = { count: 1, unit: "day" } as const;
const QUARTER = { count: 15, unit: "minute" } as const;
const MINUTE = { count: 1, unit: "minute" } as const;
const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

function all(wave: PlantedWave): PlantedWave[] {
  return [wave, ...wave.children.flatMap(all)];
}

describe("planted waves", () => {
  it("every impulse keeps the rules, on the log scale it was laid out in", () => {
    for (let seed = 0; seed < 40; seed++) {
      const root = plant(
        { day: 0, log: 4 },
        { day: 900, log: seed % 2 === 0 ? 5.2 : 3.1 },
        "impulse",
        3,
        seeded(`waves ${seed}`),
      );
      for (const { pattern, start, children } of all(root).filter((wave) => wave.pattern === "impulse")) {
        const pivots = [start, ...children.map(({ end }) => end)].map(({ day, log }) => ({
          time: day,
          price: Math.exp(log),
        }));
        expect(
          readImpulse(pivots, "log").rules.filter(({ holds }) => !holds),
          `${pattern} of seed ${seed}`,
        ).toEqual([]);
      }
    }
  });
  it("the skeleton runs through every turn in order of time", () => {
    const turns = skeleton(plant({ day: 0, log: 4 }, { day: 500, log: 5 }, "impulse", 4, seeded("order")));
    for (let i = 1; i < turns.length; i++) expect(turns[i].day).toBeGreaterThan(turns[i - 1].day);
    expect([turns[0].log, turns[turns.length - 1].log]).toEqual([4, 5]);
  });
});

const worlds = new Map(MARKETS.map((market) => [market.id, makeBars(market, SPAN, MARKETS)]));
const worldOf = (id: string): DemoBars => worlds.get(id)!;
const layersOf = ({ daily, quarters, minutes, tape }: DemoBars) => [
  { base: DAY, series: daily },
  { base: QUARTER, series: quarters },
  { base: MINUTE, series: concat([minutes, tape]) },
];
const market = (id: string) => MARKETS.find((one) => one.id === id)!;
const daysOf = (id: string) => deriveFromLayers(layersOf(worldOf(id)), DAY, new Calendar(market(id).calendar));

describe("the Isles", () => {
  it("have two dozen markets of every kind, each under a name of its own, and some made of others", () => {
    const count = (kind: string) => MARKETS.filter((one) => one.kind === kind).length;
    expect(["currency", "commodity", "index", "share"].map(count)).toEqual([6, 7, 3, 8]);
    expect(new Set(MARKETS.map(({ id }) => id)).size).toBe(MARKETS.length);
    for (const { legs } of DERIVED) for (const leg of legs) expect(MARKETS.map(({ id }) => id)).toContain(leg.market);
  });
  it("have holidays on working days only, and clocks in both halves of the world", () => {
    for (const { calendar } of MARKETS) {
      expect(checkCalendar(calendar)).toEqual([]);
      for (const date of calendar.holidays ?? []) expect(weekday(parseDate(date)!), date).toBeLessThan(6);
    }
    expect(new Set(MARKETS.map(({ calendar }) => calendar.zone))).toEqual(
      new Set(["Europe/Lisbon", "Australia/Adelaide", "Asia/Kolkata"]),
    );
  });
  it("are the same on every machine", () => {
    const again = makeBars(market("isles-40"), SPAN, MARKETS);
    expect([...again.minutes.close.slice(-50)]).toEqual([...worldOf("isles-40").minutes.close.slice(-50)]);
  });
  it(
    "a release moves what it is about: the quarter of an hour after it ranges wider than others at that time " +
      "of day",
    () => {
      const { quarters } = worldOf("verin-corran");
      const releases = new Set(releasesOf("Corran", SPAN.firstQuarterDay, SPAN.firstMinuteDay).map(({ time }) => time));
      const clocks = new Set([...releases].map((time) => time % DAY_MS));
      const ranges: { after: number[]; else: number[] } = { after: [], else: [] };
      for (let i = 0; i < quarters.length; i++)
        if (clocks.has(quarters.time[i] % DAY_MS))
          ranges[releases.has(quarters.time[i]) ? "after" : "else"].push(quarters.high[i] - quarters.low[i]);
      expect(ranges.after.length).toBeGreaterThan(15);
      expect(mean(ranges.after)).toBeGreaterThan(2 * mean(ranges.else));
    },
  );
  it("a sibling goes with its index, fear against it, a later month at a small premium", () => {
    const returns = (id: string) =>
      Array.from(daysOf(id).close).map((close, i, all) => (i === 0 ? 0 : Math.log(close / all[i - 1])));
    const index = returns("isles-200");
    expect(sampleCorrelation(index, returns("isles-40"))).toBeGreaterThan(0.9);
    expect(sampleCorrelation(index, returns("isles-alarm"))).toBeLessThan(-0.5);
    expect(sampleCorrelation(index, returns("mirren-bank"))).toBeGreaterThan(0.3);
    const [spot, later] = [daysOf("sable-tin"), daysOf("sable-tin-march")];
    const premium = later.close.map((close, i) => close / spot.close[i] - 1);
    expect(Math.max(...premium.map(Math.abs))).toBeLessThan(0.04);
  });
  it("a cross closes where its legs' closes put it, and its days are its minutes", () => {
    const [cross] = DERIVED;
    const legs = cross.legs.map(({ market: id }) => ({
      calendar: new Calendar(market(id).calendar),
      layers: layersOf(worldOf(id)),
    }));
    const derive = (timeframe: Timeframe) =>
      deriveSeries(
        legs.map((leg) => deriveFromLayers(leg.layers, timeframe, leg.calendar)),
        cross,
        cross,
      );
    const days = derive(DAY);
    const made = resample(derive(MINUTE), MINUTE, DAY, legs[0].calendar);
    const at = firstAtOrAfter(days, made.time[0]);
    for (let i = 0; i < made.length; i++) {
      expect(made.close[i]).toBeCloseTo(days.close[at + i], 8);
      expect(made.high[i]).toBeLessThanOrEqual(days.high[at + i] + 1e-9);
    }
  });
});

describe.each(MARKETS.map((one) => [one.name, one] as const))("%s", (_name, one) => {
  const { daily, quarters, minutes, tape, truth } = worldOf(one.id);
  const calendar = new Calendar(one.calendar);

  it("has twenty years of days, a year of quarters, weeks of minutes behind the present and ahead of it", () => {
    expect((daily.time[daily.length - 1] - daily.time[0]) / DAY_MS / 365.25).toBeGreaterThan(20.9);
    expect((quarters.time[quarters.length - 1] - quarters.time[0]) / DAY_MS).toBeGreaterThan(335);
    expect(minutes.time[minutes.length - 1] + 60_000).toBeLessThanOrEqual(SPAN.now);
    expect(tape.time[0] + 60_000).toBeGreaterThan(SPAN.now);
    expect((tape.time[tape.length - 1] - tape.time[0]) / DAY_MS).toBeGreaterThan(28);
  });
  it("trades in its sessions only, each time once, on the tick grid", () => {
    const faults: string[] = [];
    for (const series of [quarters, concat([minutes, tape])])
      for (let i = 0; i < series.length; i += 13) {
        const bar = barAt(series, i);
        const inside = [bar.open, bar.close].every((price) => price <= bar.high && price >= bar.low);
        const onGrid = [bar.open, bar.high, bar.low, bar.close].every(
          (price) => Math.abs(price / one.tick - Math.round(price / one.tick)) < 1e-6,
        );
        if (!calendar.sessionAt(bar.time) || !inside || !onGrid || (i > 0 && bar.time <= series.time[i - 1]))
          faults.push(new Date(bar.time).toISOString());
      }
    expect(faults).toEqual([]);
  });
  it("its days are its finer bars, and each resolution goes on where the last ends", () => {
    const series = deriveFromLayers(layersOf(worldOf(one.id)), DAY, calendar);
    const fromQuarters = resample(quarters, QUARTER, DAY, calendar);
    const fromMinutes = resample(concat([minutes, tape]), MINUTE, DAY, calendar);
    expect(series.length).toBe(daily.length + fromQuarters.length + fromMinutes.length);
    const joined = concat([daily, fromQuarters, fromMinutes]);
    for (const column of ["time", "open", "high", "low", "close", "volume"] as const)
      expect(series[column]).toEqual(joined[column]);
    const seam = Math.abs(Math.log(quarters.open[0] / daily.close[daily.length - 1]));
    expect(seam).toBeLessThan(4 * Math.max(one.route.swing, one.led ? market(one.led.by).route.swing : 0));
  });
  it.skipIf(one.route.straight || one.led)(
    "trades its planted turns: each extreme is within a swing of what was planted",
    () => {
      const series = deriveFromLayers(layersOf(worldOf(one.id)), DAY, calendar);
      for (const { end } of truth.children.slice(0, -1)) {
        const at = Math.min(series.length - 1, Math.floor(end.day));
        const near = [-1, 0, 1].map((step) => Math.max(0, Math.min(series.length - 1, at + step)));
        const price = Math.exp(end.log);
        expect(price).toBeGreaterThan(Math.min(...near.map((i) => series.low[i])) * (1 - one.route.swing));
        expect(price).toBeLessThan(Math.max(...near.map((i) => series.high[i])) * (1 + one.route.swing));
      }
    },
  );
});
