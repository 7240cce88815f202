import { describe, expect, it } from "vitest";
import { hasOvernight, regularCalendar, regularLayers } from "#core/series/hours";
import { deriveFromLayers } from "#core/series/layers";
import { barAt, fromBars, type Series } from "#core/series/series";
import { Calendar, checkCalendar, type CalendarSpec } from "#core/time/calendar";
import { parseTimeframe } from "#core/time/timeframe";

const tf = (text: string) => parseTimeframe(text)!;
const NIGHT_AND_DAY: CalendarSpec = {
  zone: "America/Chicago",
  sessions: [
    { days: [1, 2, 3, 4, 5], open: "17:00", close: "08:30", opensDayBefore: true, kind: "overnight" },
    { days: [1, 2, 3, 4, 5], open: "08:30", close: "15:00", kind: "regular" },
  ],
  halfDays: { "2024-07-03": "12:00" },
};
const calendar = new Calendar(NIGHT_AND_DAY);
const bars = (series: Series) => Array.from({ length: series.length }, (_, i) => barAt(series, i));

/** Every half hour from Sunday evening to Friday afternoon in July 2024, priced by its number. */
function halfHours(): Series {
  const out = [];
  for (let time = Date.UTC(2024, 5, 30, 22), n = 0; time < Date.UTC(2024, 6, 5, 20); time += 1_800_000)
    if (calendar.sessionAt(time)) out.push({ time, open: n, high: n, low: n, close: n++, volume: 1 });
  return fromBars(out);
}

describe("regular hours alone", () => {
  const layers = regularLayers(
    [
      { base: tf("PT30M"), series: halfHours() },
      { base: tf("P1D"), series: fromBars([]) },
    ],
    calendar,
  );
  const only = new Calendar(regularCalendar(NIGHT_AND_DAY));

  it("are a calendar of their own, with the same dates", () => {
    expect(hasOvernight(NIGHT_AND_DAY)).toBe(true);
    expect(checkCalendar(only.spec)).toEqual([]);
    expect(only.sessions(19905).map(({ kind }) => kind)).toEqual(["regular"]);
  });
  it("hold the bars from 8:30 to 15:00, to 12:00 on the half day", () => {
    const days = bars(deriveFromLayers(layers, tf("P1D"), only));
    expect(days.map(({ time, volume }) => [new Date(time).toISOString().slice(0, 10), volume])).toEqual([
      ["2024-07-01", 13],
      ["2024-07-02", 13],
      ["2024-07-03", 7],
      ["2024-07-04", 13],
      ["2024-07-05", 13],
    ]);
    expect(days[0].open).toBe(31);
  });
  it("begin their hours with the regular open", () => {
    const [first] = bars(deriveFromLayers(layers, tf("PT4H"), only));
    expect(new Date(first.time).toISOString()).toBe("2024-07-01T13:30:00.000Z");
  });
  it("leave out a bar that is half night, and days from which the night cannot be taken", () => {
    const straddling = fromBars(
      [Date.UTC(2024, 6, 1, 13), Date.UTC(2024, 6, 1, 14)].map((time) => ({
        time,
        open: 1,
        high: 1,
        low: 1,
        close: 1,
        volume: 1,
      })),
    );
    const day = {
      base: tf("P1D"),
      series: fromBars([{ time: Date.UTC(2024, 5, 28), open: 1, high: 1, low: 1, close: 1, volume: 1 }]),
    };
    const found = regularLayers([{ base: tf("PT1H"), series: straddling }, day], calendar);
    expect(found.map(({ series }) => [...series.time])).toEqual([[Date.UTC(2024, 6, 1, 14)]]);
  });
  it("are all hours where nothing trades overnight", () => {
    const plain = new Calendar({ ...NIGHT_AND_DAY, sessions: [NIGHT_AND_DAY.sessions[1]] });
    const layer = { base: tf("PT30M"), series: halfHours() };
    expect(regularLayers([layer], plain)).toEqual([layer]);
  });
});
