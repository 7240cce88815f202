import { describe, expect, it } from "vitest";
import { readChosenStudy, studiesOn } from "#core/studies/chosen";
import { FollowedStudy } from "#core/studies/followed";
import { MOST_PANELS } from "#core/studies/limits";
import { parameterType, usualOf } from "#core/studies/params";
import { sayStudy, studyName, valueText, type Columns } from "#core/studies/reading";
import { STUDIES, studyOf } from "#core/studies/registry";
import { columnsOf, type StudyParams } from "#core/studies/study";
import { barAt, slice } from "#core/series/series";
import { Track } from "#core/series/track";
import { days, sp500 } from "#core/testing/openData";

const series = sp500();
const market = { decimals: 2 };

/** A study with columns that are made up: what it reads is what is tested. */
function made(name: string, columns: number[][], params: StudyParams = {}): Columns {
  return { study: studyOf(name)!, params, columns: columns.map((one) => Float64Array.from(one)) };
}

describe("what a study reads, in words", () => {
  const at = (of: Columns, i: number, close: number[] = []) => sayStudy(of, close, i, market);

  it("is its value, where that stands among its levels, for how long, and which way it goes", () => {
    const rsi = made("rsi", [[NaN, 60, 69, 71, 75, 71.2]], { period: 14, of: "close" });
    expect(at(rsi, 5)).toBe("at 71.2: above 70 for 3 bars, falling");
    expect(at(rsi, 4)).toBe("at 75.0: above 70 for 2 bars, rising");
    expect(at(rsi, 2)).toBe("at 69.0: between 30 and 70 for 2 bars, rising");
    expect(at(rsi, 0)).toBe("no value yet");
    expect(at(rsi, 9)).toBe("no value yet");
    expect(studyName(rsi.study, rsi.params)).toBe("RSI 14");
    expect(studyName(rsi.study, { period: 9, of: "open" })).toBe("RSI 9, open");
  });
  it("holds the close against a line among prices, and against a band", () => {
    const sma = made("sma", [[10, 11, 12, 12]], { period: 2, of: "close" });
    expect(at(sma, 3, [9, 12, 13, 14])).toBe("at 12.00: the close above it for 3 bars");
    expect(at(sma, 2, [9, 12, 12, 14])).toBe("at 12.00: the close stands on it, rising");
    const bands = made(
      "bollinger",
      [
        [10, 10, 10],
        [12, 12, 12],
        [8, 8, 8],
      ],
      { period: 20, deviations: 2 },
    );
    expect(at(bands, 2, [13, 11, 9])).toBe("at 10.00: the close within the band for 2 bars");
    expect(at(bands, 2, [13, 11, 7])).toBe("at 10.00: the close below the band for 1 bar");
  });
  it("compares a close with the cloud that stands at the bar, which was computed before", () => {
    const cloud = made(
      "cloud",
      [
        [5, 5, 5, 5],
        [5, 5, 5, 5],
        [10, 10, 1, 1],
        [12, 12, 2, 2],
      ],
      { conversion: 1, base: 2, span: 3 },
    );
    expect(at(cloud, 3, [0, 0, 0, 11])).toContain("the close within the band for 1 bar");
    expect(at(cloud, 3, [0, 0, 5, 5])).toContain("the close below the band for 2 bars");
  });
  it("says which of two lines is above the other", () => {
    const macd = made(
      "macd",
      [
        [1, -1, 2],
        [0, 0, 1],
        [1, -1, 1],
      ],
      { fast: 12, slow: 26, signal: 9 },
    );
    expect(at(macd, 2)).toBe("at 2.00: above 0 for 1 bar, macd above signal for 1 bar, rising");
  });
  it.each([
    [0.1234, "share", "12.3 %"],
    [-2, "atr", "\u22122.00 ATR"],
    [1234567.4, "volume", "1,234,567"],
    [-0.00001, "price", "0.00"],
    [1, "flag", "yes"],
  ] as const)("%d as %s is %s", (value, unit, text) => expect(valueText(value, unit, market)).toBe(text));

  it.each(STUDIES.map(({ name }) => name))("%s reads something on real bars, and nothing that is no number", (name) => {
    const study = studyOf(name)!;
    const params = Object.fromEntries(study.parameters.map((one) => [one.name, usualOf(one) ?? series.time[10]]));
    const periodAt = (time: number) => Math.floor(time / (30 * 86_400_000));
    const columns = columnsOf(study, params, series, { tick: 0.01, other: series, periodAt });
    const said = sayStudy({ study, params, columns }, series.close, series.length - 1, market);
    expect(said).not.toMatch(/NaN|undefined|Infinity/);
    // An opening range of thirty minutes is on no daily bar.
    expect(said).toMatch(/^(at|closes at) /);
  });
});

describe("a study that is followed", () => {
  it.each(["rsi", "cloud", "linearRegression", "onBalanceVolume"])(
    "%s: grown by bars it is what it is at once",
    (name) => {
      const study = studyOf(name)!;
      const params = Object.fromEntries(study.parameters.map((one) => [one.name, usualOf(one)!]));
      const bars = slice(series, 0, 400);
      const whole = columnsOf(study, params, bars, { tick: 0.01 });
      const followed = new FollowedStudy(study, params, { tick: 0.01 });
      const track = new Track(slice(bars, 0, 100), 0.01);
      followed.follow(slice(bars, 0, 100), true);
      for (let i = 100; i < bars.length; i++) {
        track.push({ ...barAt(bars, i), close: bars.low[i] });
        // The bar that is being made says one thing, and another when it has closed.
        followed.follow(track.series, true);
        track.close[i] = bars.close[i];
      }
      const last = followed.follow(track.series, false);
      whole.forEach((column, n) => expect([...last[n]]).toEqual([...column]));
    },
  );
});

describe("a chosen study from outside", () => {
  it("is completed by what is usual, and shown where it says", () => {
    const rsi = readChosenStudy({ study: "rsi", rungs: ["P1D"] });
    expect(rsi).toEqual({ study: "rsi", params: { period: 14, of: "close" }, rungs: ["P1D"], height: 0.14 });
    if (typeof rsi === "string") throw new Error(rsi);
    expect(studiesOn([rsi], "P1D")).toEqual([rsi]);
    expect(studiesOn([rsi], "P1W")).toEqual([]);
    expect(studiesOn([{ ...rsi, hidden: true }], "P1D")).toEqual([]);
    const many = Array.from({ length: 9 }, () => rsi);
    expect(studiesOn(many, "P1D")).toHaveLength(MOST_PANELS);
  });
  it.each([
    [{ study: "rsi", params: { period: 0 } }, '"period" of Relative strength index must be a whole number from 1.'],
    [{ study: "rsi", params: { period: -3 } }, '"period" of Relative strength index must be a whole number from 1.'],
    [{ study: "rsi", params: { period: 1e9 } }, '"period" of Relative strength index must be a whole number from 1.'],
    [{ study: "rsi", params: { period: "x" } }, '"period" of Relative strength index must be a whole number from 1.'],
    [{ study: "rsi", params: { of: "median" } }, '"of" of Relative strength index must be one of open, high'],
    [
      { study: "keltner", params: { multiple: 0 } },
      '"multiple" of Average with bands of range must be a number above 0.',
    ],
    [{ study: "rangeUse", params: { period: "PT1H" } }, '"period" of Use of the range must be an ISO 8601 duration'],
    [{ study: "anchoredAverage" }, '"from" of Anchored average must be a time.'],
    [{ study: "rsi", params: { colour: 1 } }, 'Relative strength index has no "colour".'],
    [{ study: "magic" }, 'There is no study named "magic".'],
    [{ study: "rsi", rungs: ["day"] }, "Rungs must be a list of timeframes."],
    [{ study: "rsi", height: 2 }, "A panel takes 6 to 40 % of its chart."],
    [{ study: "rsi", extra: 1 }, 'A study has no "extra".'],
    [7, "A study must be an object."],
  ])("%j is refused in a sentence", (raw, sentence) => expect(readChosenStudy(raw)).toContain(sentence));
  it("every parameter has a type in words", () =>
    expect(STUDIES.flatMap(({ parameters }) => parameters.map(parameterType)).every((text) => text.length > 3)).toBe(
      true,
    ));
});

describe("studies that hold for whole periods, by hand", () => {
  const two = (time: number) => Math.floor((time - days([1, 1, 1, 1]).time[0]) / (2 * 86_400_000));
  const bars = days([10, 14, 8, 12], [12, 13, 9, 11], [11, 12, 10, 10], [10, 11, 7, 8], [8, 9, 8, 9]);
  const lines = (name: string, params: StudyParams, periodAt = two) => {
    const study = studyOf(name)!;
    const columns = columnsOf(study, params, bars, { tick: 1, periodAt });
    return Object.fromEntries(study.lines.map((line, n) => [line.name, [...columns[n]]]));
  };
  // Floor traders' practice, no source: P = (14 + 8 + 11) / 3.
  it("pivots of the period before", () => {
    const { P, R1, S1, R2, S2 } = lines("pivotLevels", { period: "P2D" });
    expect(P).toEqual([NaN, NaN, 11, 11, expect.closeTo(9, 12)]);
    expect([R1[2], S1[2], R2[2], S2[2]]).toEqual([14, 8, 17, 5]);
  });
  it("the expected range about the close before", () => {
    const { upper, lower } = lines("rangeAhead", { period: "P2D", n: 1 });
    expect(upper).toEqual([NaN, NaN, 17, 17, 13]);
    expect(lower).toEqual([NaN, NaN, 5, 5, 3]);
    expect(lines("rangeAhead", { period: "P2D", n: 2 }).upper).toEqual([NaN, NaN, NaN, NaN, 8 + 5.5]);
  });
  it("the opening range is known once it is over", () => {
    const day = (minutes: number) => lines("openingRange", { minutes, period: "P1D" }, () => 0);
    expect(day(1).upper).toEqual([NaN, 14, 14, 14, 14]);
    // Minutes that take in the second bar too: known from the third on.
    expect(day(2_000).lower).toEqual([NaN, NaN, 8, 8, 8]);
  });
});
