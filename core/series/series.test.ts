import { DateTime } from "luxon";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { deriveFromLayers } from "#core/series/layers";
import { merge, unmerge } from "#core/series/merge";
import { resample } from "#core/series/resample";
import {
  barAt,
  concat,
  firstAtOrAfter,
  fromBars,
  fromBuffer,
  lastAtOrBefore,
  slice,
  toBuffer,
  type Bar,
  type Series,
} from "#core/series/series";
import { sp500 } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { parseTimeframe } from "#core/time/timeframe";

const tf = (text: string) => parseTimeframe(text)!;
const calendar = new Calendar(ALL_HOURS);
const bars = (series: Series) => Array.from({ length: series.length }, (_, i) => barAt(series, i));
const bar = (time: number, close = 1): Bar => ({
  time,
  open: close,
  high: close + 1,
  low: close - 1,
  close,
  volume: 1,
});

describe("resampling", () => {
  // Reference: grouping by luxon's startOf, an independent computation, on open data.
  it.each([
    ["P1W", "week"],
    ["P1M", "month"],
    ["P3M", "quarter"],
    ["P1Y", "year"],
  ] as const)("%s bars of open data equal plain groups", (text, unit) => {
    const series = sp500();
    const groups = new Map<number, Bar[]>();
    for (const one of bars(series)) {
      const key = DateTime.fromMillis(one.time, { zone: "utc" }).startOf(unit).toMillis();
      groups.set(key, [...(groups.get(key) ?? []), one]);
    }
    const expected = [...groups].map(([time, group]) => ({
      time,
      open: group[0].open,
      high: Math.max(...group.map(({ high }) => high)),
      low: Math.min(...group.map(({ low }) => low)),
      close: group[group.length - 1].close,
      volume: group.reduce((sum, { volume }) => sum + volume, 0),
    }));
    expect(bars(resample(series, tf("P1D"), tf(text), calendar))).toEqual(expected);
  });
  it("a day of minutes is one bar of the trading date, whatever the zone's midnight", () => {
    const night = new Calendar({
      zone: "America/New_York",
      sessions: [{ days: [1, 2, 3, 4, 5], open: "18:00", close: "17:00", opensDayBefore: true }],
    });
    const series = fromBars([
      bar(Date.UTC(2024, 5, 2, 22), 5),
      bar(Date.UTC(2024, 5, 3, 20, 59), 6),
      bar(Date.UTC(2024, 5, 3, 22), 7),
    ]);
    expect(bars(resample(series, tf("PT1M"), tf("P1D"), night)).map(({ time, close }) => [time, close])).toEqual([
      [Date.UTC(2024, 5, 3), 6],
      [Date.UTC(2024, 5, 4), 7],
    ]);
  });
  it("through an hour or directly, a day comes out the same", () => {
    const minutes = fromBars(Array.from({ length: 3000 }, (_, i) => bar(i * 60_000, 100 + ((i * 7919) % 50))));
    const viaHour = resample(resample(minutes, tf("PT1M"), tf("PT1H"), calendar), tf("PT1H"), tf("P1D"), calendar);
    expect(bars(viaHour)).toEqual(bars(resample(minutes, tf("PT1M"), tf("P1D"), calendar)));
  });
});

describe("bars from several resolutions", () => {
  const daily = { base: tf("P1D"), series: fromBars([0, 1, 2, 3].map((day) => bar(day * DAY, 10 + day))) };
  const minutesFrom = (start: number, days: number) => ({
    base: tf("PT1M"),
    series: fromBars(Array.from({ length: days * 1440 }, (_, i) => bar(start + i * 60_000, 50))),
  });
  it("the finer takes over at the first day it holds from the open", () => {
    const found = deriveFromLayers([daily, minutesFrom(2 * DAY, 2)], tf("P1D"), calendar);
    expect(bars(found).map(({ close }) => close)).toEqual([10, 11, 50, 50]);
  });
  it("a day of which the finer has only a part stays with the coarser", () => {
    const found = deriveFromLayers([daily, minutesFrom(2 * DAY + 3_600_000, 2)], tf("P1D"), calendar);
    expect(
      bars(found)
        .map(({ close }) => close)
        .slice(0, 4),
    ).toEqual([10, 11, 12, 50]);
  });
  it("a week may begin with daily bars and end with minutes", () => {
    const monday = 4 * DAY;
    const layers = [
      { base: tf("P1D"), series: fromBars([bar(monday, 10), bar(monday + DAY, 99)]) },
      minutesFrom(monday + 2 * DAY, 2),
    ];
    expect(bars(deriveFromLayers(layers, tf("P1W"), calendar))).toMatchObject([
      { time: monday, open: 10, high: 100, close: 50 },
    ]);
  });
  it("a last day that the finer has seen less of stays with the coarser", () => {
    const minutes = minutesFrom(2 * DAY, 2);
    const cut = { base: minutes.base, series: slice(minutes.series, 0, 1440 + 60) };
    const wide = {
      base: daily.base,
      series: fromBars([0, 1, 2, 3].map((day) => ({ ...bar(day * DAY, 50), high: 60, low: 40 }))),
    };
    expect(bars(deriveFromLayers([wide, cut], tf("P1D"), calendar)).map(({ high }) => high)).toEqual([60, 60, 51, 60]);
  });
  it("what no base divides does not exist", () =>
    expect(deriveFromLayers([daily], tf("PT1H"), calendar).length).toBe(0));
});

describe("columns", () => {
  const times = fc
    .uniqueArray(fc.nat(60), { maxLength: 30 })
    .map((list) => fromBars(list.sort((a, b) => a - b).map((time) => bar(time, time % 3))));
  it("go to one buffer and come back", () => {
    fc.assert(
      fc.property(times, (series) => {
        expect(bars(fromBuffer(toBuffer(series)))).toEqual(bars(series));
      }),
    );
  });
  it("searching finds what a scan finds", () => {
    fc.assert(
      fc.property(times, fc.integer({ min: -2, max: 62 }), (series, time) => {
        const list = [...series.time];
        const scan = list.findIndex((one) => one >= time);
        expect(firstAtOrAfter(series, time)).toBe(scan < 0 ? list.length : scan);
        expect(lastAtOrBefore(series, time)).toBe(list.filter((one) => one <= time).length - 1);
      }),
    );
  });
  it("cut and joined they are the same", () => {
    fc.assert(
      fc.property(times, fc.nat(30), (series, cut) => {
        const at = Math.min(cut, series.length);
        expect(bars(concat([slice(series, 0, at), slice(series, at, series.length)]))).toEqual(bars(series));
      }),
    );
  });
  it("merging keeps every time once, and counts what was new, alike and different", () => {
    const stored = fromBars([bar(1, 1), bar(2, 2), bar(3, 3)]);
    const incoming = fromBars([bar(2, 2), bar(3, 9), bar(4, 4)]);
    const kept = merge(stored, incoming, "stored");
    expect([kept.added, kept.same, kept.differing, kept.changedFrom]).toEqual([1, 1, 1, 4]);
    expect([...kept.series.close]).toEqual([1, 2, 3, 4]);
    const taken = merge(stored, incoming, "incoming");
    expect([...taken.series.close]).toEqual([1, 2, 9, 4]);
    expect(taken.changedFrom).toBe(3);
    expect(merge(stored, stored, "incoming").changedFrom).toBe(Infinity);
  });
  it("what a merge changed is undone exactly, whatever was new or replaced", () => {
    const other = times.map((series) =>
      fromBars(bars(series).map((one) => ({ ...one, close: one.close + (one.time % 2) }))),
    );
    fc.assert(
      fc.property(times, other, (stored, incoming) => {
        for (const prefer of ["stored", "incoming"] as const) {
          const merged = merge(stored, incoming, prefer);
          expect(bars(unmerge(merged.series, merged))).toEqual(bars(stored));
        }
      }),
    );
  });
  it("undoing leaves alone what came after", () => {
    const merged = merge(fromBars([bar(1), bar(5)]), fromBars([bar(2), bar(3), bar(5, 7)]), "incoming");
    const later = concat([merged.series, fromBars([bar(9, 9)])]);
    expect(bars(unmerge(later, merged))).toEqual([bar(1), bar(5), bar(9, 9)]);
  });
});
