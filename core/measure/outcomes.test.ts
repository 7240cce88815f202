import { describe, expect, it } from "vitest";
import { birthsOf } from "#core/measure/births";
import { MEASURED_KINDS, OUTCOME_RULES, type BandAtBirth, type Outcome } from "#core/measure/measured";
import { outcomesOf } from "#core/measure/outcomes";
import { slice } from "#core/series/series";
import { turned } from "#core/testing/mirror";
import { days, sp500 } from "#core/testing/openData";
import { plainOutcome } from "#core/testing/plainMeasure";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { allHours } from "#core/testing/told";

const DAILY = { count: 1, unit: "day" } as const;
const demand: BandAtBirth = { side: "demand", bottom: 98, top: 100, knownAt: 0 };

/** Bars by hand under a fixed ATR of 2, with a tick of 0.01. */
function became(band: BandAtBirth, bars: [number, number, number, number][], rules = { horizon: 3, away: 1 }): Outcome {
  const series = days([103, 104, 102, 103], ...bars);
  const atr = new Float64Array(series.length).fill(2);
  return outcomesOf([band], { ...series, atr, tick: 0.01 }, series.length, rules)[0];
}

describe("what becomes of a band, by hand", () => {
  it.each<[string, [number, number, number, number][], Outcome]>([
    ["is nothing while no wick reaches the near edge", [[103, 104, 100.02, 101]], { result: "untouched" }],
    ["is respected by the touching bar's own close, an ATR away", [[103, 104, 100, 102]], ended("respected", 1, 1)],
    ["is not yet by a close a tick less far away", [[103, 104, 100, 101.99]], { result: "open", touchedAt: 1 }],
    ["is broken by a close beyond the far edge", [[101, 101, 97, 97.99]], ended("broken", 1, 1)],
    ["is not broken by a wick, nor by a close at the edge", [[101, 101, 90, 98]], { result: "open", touchedAt: 1 }],
    [
      "is what the first close says that decides",
      [
        [101, 101, 99, 99],
        [99, 103, 99, 102],
        [97, 97, 96, 96],
      ],
      ended("respected", 1, 2),
    ],
    [
      "is given up when the horizon has closed without a word",
      [
        [101, 101, 99, 99],
        [99, 100, 99, 99],
        [99, 100, 99, 99],
        [99, 100, 99, 99],
        [99, 110, 99, 110],
      ],
      ended("open", 1, 4),
    ],
  ])("%s", (_, bars, expected) => expect(became(demand, bars)).toEqual(expected));

  it("reaches within a thousandth of a tick", () => {
    expect(became(demand, [[103, 104, 100.000009, 101]]).touchedAt).toBe(1);
    expect(became(demand, [[103, 104, 100.00002, 101]]).touchedAt).toBeUndefined();
  });
});

function ended(result: Outcome["result"], touchedAt: number, at: number): Outcome {
  return { result, touchedAt, at };
}

describe("findings at their birth", () => {
  const series = slice(sp500(), 0, 1500);
  const { born, bars } = birthsOf(series, DAILY, allHours, 0.01);
  const outcomes = outcomesOf(born, bars, series.length, OUTCOME_RULES);

  it("are of every kind, with room, in order and never two alike (open data)", () => {
    expect(new Set(born.map(({ kind }) => kind))).toEqual(new Set(MEASURED_KINDS));
    const keys = born.map(({ kind, side, bottom, top, knownAt }) => `${kind} ${side} ${bottom} ${top} ${knownAt}`);
    expect(new Set(keys).size).toBe(keys.length);
    for (const { side, bottom, top, knownAt } of born) {
      expect(side === "demand" ? series.close[knownAt] - top : bottom - series.close[knownAt]).toBeGreaterThan(0);
      expect(knownAt).toBeGreaterThanOrEqual(14);
    }
    expect(born.map(({ knownAt }) => knownAt)).toEqual(born.map(({ knownAt }) => knownAt).sort((a, b) => a - b));
  });

  it("become what a second implementation, bar by bar, says of them", () => {
    const plain = born.map((band) => plainOutcome(band, bars, series.length, OUTCOME_RULES, 0.01));
    expect(outcomes).toEqual(plain);
  });

  it("are the same, with all that was known of them, from bars that end later", () => {
    const cut = 900;
    const before = birthsOf(slice(series, 0, cut), DAILY, allHours, 0.01).born;
    expect(before).toEqual(born.filter(({ knownAt }) => knownAt < cut));
  });

  it("scale with the price unit and mirror with the prices", () => {
    const large = birthsOf(
      turned(series, (price) => price * 1024),
      DAILY,
      allHours,
      10.24,
    ).born;
    expect(large.map(({ features }) => features)).toEqual(born.map(({ features }) => features));
    expect(large.map(({ bottom }) => bottom / 1024)).toEqual(born.map(({ bottom }) => bottom));
    const mirrored = birthsOf(
      turned(series, (price) => 4096 - price),
      DAILY,
      allHours,
      0.01,
    ).born;
    // Whole numbers of a gap's sides are mirrored exactly; zones take the last bearish body on both sides alike.
    const gapsOf = (list: typeof born) => list.filter(({ kind }) => kind === "gap").length;
    expect(Math.abs(gapsOf(mirrored) - gapsOf(born))).toBeLessThanOrEqual(1);
  });

  it("wait for the calendar to end a period: its last bar, or the first of the next where all hours are open", () => {
    const week = new Calendar({ ...ALL_HOURS, sessions: [{ days: [1, 2, 3, 4, 5], open: "09:00", close: "17:00" }] });
    const weekdays = (calendar: Calendar) =>
      new Set(
        birthsOf(series, DAILY, calendar, 0.01)
          .born.filter(({ kind }) => kind === "periodExtreme")
          .map(({ knownAt }) => new Date(series.time[knownAt]).getUTCDay()),
      );
    expect(weekdays(allHours).has(1)).toBe(true);
    expect([...weekdays(week)].filter((weekday) => weekday === 5)).toHaveLength(1);
  });
});
