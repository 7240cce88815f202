import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { knownAt } from "#core/series/asOf";
import { deriveFromLayers } from "#core/series/layers";
import { resample } from "#core/series/resample";
import { barAt, firstAtOrAfter, fromBars, slice, type Bar, type Series } from "#core/series/series";
import { Calendar } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";

const tf = (text: string) => parseTimeframe(text)!;
const bars = (series: Series) => Array.from({ length: series.length }, (_, i) => barAt(series, i));
const calendar = new Calendar({
  zone: "America/New_York",
  sessions: [
    { days: [1, 2, 3, 4, 5], open: "18:00", close: "09:30", opensDayBefore: true, kind: "overnight" },
    { days: [1, 2, 3, 4, 5], open: "09:30", close: "16:00" },
  ],
});
const START = Date.UTC(2024, 2, 3, 23);

/** Quarters of an hour over both a weekend and the change of the clocks of 10 March 2024, in sessions only. */
function quarters(): Bar[] {
  const out: Bar[] = [];
  for (let time = START, n = 0; time < START + 14 * 86_400_000; time += 900_000)
    if (calendar.sessionAt(time)) {
      const price = 100 + ((n++ * 7919) % 37);
      out.push({ time, open: price, high: price + 2, low: price - 2, close: price + 1, volume: 1 });
    }
  return out;
}

describe("what was known at an instant", () => {
  const fine = quarters();
  const daily = bars(resample(fromBars(fine), tf("PT15M"), tf("P1D"), calendar));

  it("holds nothing of what came after: poisoned later bars change no rung", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 14 * 96 }),
        fc.constantFrom("PT15M", "PT45M", "PT4H", "P1D", "P1W", "P1M"),
        (step, rung) => {
          const instant = START + step * 900_000;
          const poison = (bar: Bar, over: boolean): Bar =>
            over ? bar : { ...bar, open: 1e9, high: 1e9, low: -1e9, close: 1e9, volume: 1e9 };
          const derive = (from: readonly Bar[], days: readonly Bar[]) => {
            const layers = [
              { base: tf("P1D"), series: fromBars(days) },
              { base: tf("PT15M"), series: fromBars(from) },
            ];
            return bars(deriveFromLayers(knownAt(layers, instant, calendar), tf(rung), calendar));
          };
          const isOver = ({ time }: Bar) => time + 900_000 <= instant;
          const dayIsOver = ({ time }: Bar) => calendar.close(time / 86_400_000) <= instant;
          const seen = derive(
            fine.map((bar) => poison(bar, isOver(bar))),
            daily.map((bar) => poison(bar, dayIsOver(bar))),
          );
          expect(seen).toEqual(derive(fine.filter(isOver), daily.filter(dayIsOver)));
          for (const { high } of seen) expect(high).toBeLessThan(1e6);
        },
      ),
      { numRuns: 150 },
    );
  });
  it("the running bar of a rung is what had been made of it by then", () => {
    const series = fromBars(fine);
    const instant = fine[10].time + 900_000;
    const [{ series: known }] = knownAt([{ base: tf("PT15M"), series }], instant, calendar);
    expect(known.length).toBe(11);
    const day = bars(resample(known, tf("PT15M"), tf("P1D"), calendar)).at(-1)!;
    const part = slice(series, firstAtOrAfter(series, fine[0].time), 11);
    expect(day).toMatchObject({ open: fine[0].open, close: fine[10].close, high: Math.max(...part.high), volume: 11 });
  });
  it("before the first bar there is nothing", () => {
    expect(knownAt([{ base: tf("PT15M"), series: fromBars(fine) }], START - 1, calendar)[0].series.length).toBe(0);
  });
});
