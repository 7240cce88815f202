import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Heap } from "#core/levels/heap";
import { periodExtremes } from "#core/levels/periodExtremes";
import { fromBars, slice } from "#core/series/series";
import { resample } from "#core/series/resample";
import { sp500, walk } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";

const tf = (text: string) => parseTimeframe(text)!;
const calendar = new Calendar(ALL_HOURS);
const steps = fc.array(
  fc.tuple(fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
  { minLength: 1, maxLength: 90 },
);

describe("period extremes", () => {
  const day = (n: number, high: number, low: number, close: number) => ({
    time: Date.UTC(2024, 0, 1 + n),
    open: close,
    high,
    low,
    close,
    volume: 1,
  });
  it("a wick beyond last week's high sweeps it, a close beyond takes it, touching it does neither", () => {
    const state = (...later: ReturnType<typeof day>[]) =>
      periodExtremes(fromBars([day(0, 10, 5, 8), ...later]), tf("P1D"), tf("P1W"), calendar)[0].highState;
    expect(state(day(7, 10, 6, 9))).toBe("untouched");
    expect(state(day(7, 11, 6, 9))).toBe("swept");
    expect(state(day(7, 11, 6, 10))).toBe("swept");
    expect(state(day(7, 11, 6, 10.5))).toBe("taken");
    expect(state(day(7, 11, 6, 9), day(8, 12, 6, 11))).toBe("taken");
    expect(state(day(1, 12, 6, 11))).toBe("untouched");
  });
  // Common practice, no source: an inside week takes out neither extreme of the week before.
  it("a week within the one before is inside, equal extremes included", () => {
    const inside = (high: number, low: number) =>
      periodExtremes(fromBars([day(0, 10, 5, 8), day(7, high, low, 7)]), tf("P1D"), tf("P1W"), calendar).map(
        ({ insidePrevious }) => insidePrevious,
      );
    expect(inside(9, 6)).toEqual([undefined, true]);
    expect(inside(10, 5)).toEqual([undefined, true]);
    expect(inside(10.1, 6)).toEqual([undefined, false]);
    expect(inside(9, 4.9)).toEqual([undefined, false]);
  });
  it.each(["P1W", "P1M", "P3M", "P1Y"])("%s agrees with a plain second implementation on open data", (text) => {
    const series = sp500();
    const found = periodExtremes(series, tf("P1D"), tf(text), calendar);
    const bars = resample(series, tf("P1D"), tf(text), calendar);
    expect(found.map(({ high, low, time }) => [time, high, low])).toEqual(
      Array.from({ length: bars.length }, (_, i) => [bars.time[i], bars.high[i], bars.low[i]]),
    );
    const end = (i: number) => (i + 1 < bars.length ? bars.time[i + 1] : Infinity);
    found.forEach(({ high, low, highState, lowState }, n) => {
      let [swept, taken, sweptLow, takenLow] = [false, false, false, false];
      for (let i = series.length - 1; i >= 0 && series.time[i] >= end(n); i--) {
        swept ||= series.high[i] > high;
        taken ||= series.close[i] > high;
        sweptLow ||= series.low[i] < low;
        takenLow ||= series.close[i] < low;
      }
      expect([highState, lowState]).toEqual([
        taken ? "taken" : swept ? "swept" : "untouched",
        takenLow ? "taken" : sweptLow ? "swept" : "untouched",
      ]);
    });
  });
  it("minutes and the days made of them have the same extremes", () => {
    const minutes = fromBars(
      Array.from({ length: 6000 }, (_, i) => {
        const close = 100 + ((i * 37) % 91) - (i % 13);
        return { time: i * 60_000, open: close, high: close + 1, low: close - 1, close, volume: 1 };
      }),
    );
    const days = resample(minutes, tf("PT1M"), tf("P1D"), calendar);
    const fine = periodExtremes(minutes, tf("PT1M"), tf("P1D"), calendar);
    expect(fine.map(({ time, high, low }) => [time, high, low])).toEqual(
      Array.from({ length: days.length }, (_, i) => [days.time[i], days.high[i], days.low[i]]),
    );
    expect(fine[0].highTime).toBe(
      minutes.time[[...minutes.high].findIndex((high, i) => high === fine[0].high && i < 1440)],
    );
  });
  it("mirrored prices swap high and low", () => {
    fc.assert(
      fc.property(steps, (drawn) => {
        const series = walk(drawn);
        const mirror = (values: Float64Array) => values.map((value) => 1000 - value);
        const turned = {
          ...series,
          open: mirror(series.open),
          close: mirror(series.close),
          high: mirror(series.low),
          low: mirror(series.high),
        };
        const plain = periodExtremes(series, tf("P1D"), tf("P1W"), calendar);
        expect(
          periodExtremes(turned, tf("P1D"), tf("P1W"), calendar).map(({ lowState, highState, insidePrevious }) => [
            lowState,
            highState,
            insidePrevious,
          ]),
        ).toEqual(plain.map(({ lowState, highState, insidePrevious }) => [highState, lowState, insidePrevious]));
      }),
    );
  });
  it("a state only ever goes on: cut later, nothing is taken back", () => {
    const rank = { untouched: 0, swept: 1, taken: 2 };
    fc.assert(
      fc.property(steps, fc.nat(90), (drawn, at) => {
        const series = walk(drawn);
        const cut = periodExtremes(slice(series, 0, Math.min(at, series.length)), tf("P1D"), tf("P1W"), calendar);
        const whole = periodExtremes(series, tf("P1D"), tf("P1W"), calendar);
        // The last period of the cut may still be running: its extremes may yet move.
        cut.slice(0, -1).forEach((before, n) => {
          expect([whole[n].high, whole[n].low]).toEqual([before.high, before.low]);
          expect(rank[whole[n].highState]).toBeGreaterThanOrEqual(rank[before.highState]);
        });
      }),
    );
  });
});

describe("the heap", () => {
  it("gives its keys in order", () => {
    fc.assert(
      fc.property(fc.array(fc.integer()), (keys) => {
        const heap = new Heap<number>();
        keys.forEach((key) => heap.push(key, key));
        expect(keys.map(() => heap.pop())).toEqual([...keys].sort((a, b) => a - b));
        expect([heap.pop(), heap.size, heap.least]).toEqual([undefined, 0, Infinity]);
      }),
    );
  });
});
