import { RungReader } from "#core/finding/reader";
import { mergeFindings } from "#core/finding/merge";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { readingOf } from "#core/finding/reading";
import { resample } from "#core/series/resample";
import { barAt, slice, type Series } from "#core/series/series";
import { Track } from "#core/series/track";
import { ASKED_STUDIES } from "#core/conditions/study";
import { usualOf } from "#core/studies/params";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { DEFAULT_SET } from "#core/time/rungs";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { judgeDemo, judgePlanted, type Judged } from "../demo/planted.ts";
import { millionBars, scan } from "./core.ts";
import type { Side } from "./side.ts";
import { sized } from "./size.ts";

const calendar = new Calendar(ALL_HOURS);
const MINUTE: Timeframe = { count: 1, unit: "minute" };
const DAY: Timeframe = { count: 1, unit: "day" };

/** The ten rungs of the set everybody has, from a million minutes: those above a day by way of the day. */
function rungsOf(minutes: Series): { timeframe: Timeframe; series: Series }[] {
  const days = resample(minutes, MINUTE, DAY, calendar);
  return DEFAULT_SET.rungs.map(({ rung }) => {
    const timeframe = parseTimeframe(rung) ?? MINUTE;
    if (rung === "PT1M") return { timeframe, series: minutes };
    const above = timeframe.unit !== "minute" && timeframe.unit !== "hour";
    return {
      timeframe,
      series:
        rung === "P1D"
          ? days
          : above
            ? resample(days, DAY, timeframe, calendar)
            : resample(minutes, MINUTE, timeframe, calendar),
    };
  });
}

const lookedBack = ({ timeframe, series }: { timeframe: Timeframe; series: Series }, bars: number) =>
  new RungReader(slice(series, Math.max(0, series.length - bars), series.length), timeframe, calendar, 1);

/**
 * Everything that is found on ten rungs above a million minutes, against reading the minutes once; and one more bar of
 * every rung.
 */
export function foundSides(): Side[] {
  const minutes = millionBars();
  const rungs = rungsOf(minutes);
  const readAll = (bars: number) =>
    mergeFindings(
      rungs.map((one) => readingOf(lookedBack(one, bars)).found),
      1,
      minutes.close[minutes.length - 1],
    );
  const longest = 2 * FINDING_DEFAULTS.lookBack;
  const scanned = { other: () => scan(minutes), otherName: "a plain scan of 1,000,000 minutes", pairs: 5 };
  const before = rungs.map(({ timeframe, series }) =>
    lookedBack({ timeframe, series: slice(series, 0, series.length - 1) }, longest),
  );
  const fresh = () =>
    before.map((reader, i) => {
      const { series } = rungs[i];
      reader.push({ ...barAt(series, series.length - 1), time: reader.track.time[reader.track.length - 1] + 60_000 });
      return readingOf(reader);
    });
  return [
    { name: `10 rungs found, each from ${longest} bars`, ours: () => readAll(longest), ...scanned },
    { name: "the same, the rungs made of minutes first", ours: () => (rungsOf(minutes), readAll(longest)), ...scanned },
    { name: "10 rungs found, each from 20,000 bars", ours: () => readAll(20_000), ...scanned },
    { name: "a new bar on all 10 rungs at once", ours: fresh, ...scanned },
    {
      name: `a new bar on all 10 rungs, each of ${ASKED_STUDIES.length} studies`,
      ours: newBarOfStudies(rungs),
      ...scanned,
    },
  ];
}

/** Every study that bars alone make, following the bars of every rung; then one bar more of each. */
function newBarOfStudies(rungs: readonly { series: Series }[]): () => number {
  const followed = rungs.map(({ series }) => {
    const track = new Track(series, 1);
    const runs = ASKED_STUDIES.map((study) =>
      study.begin(Object.fromEntries(study.parameters.map((one) => [one.name, usualOf(one)!])), { tick: 1 }),
    );
    for (let i = 0; i < track.length; i++) for (const run of runs) run(track, i);
    return { track, runs };
  });
  return () => {
    let sum = 0;
    for (const { track, runs } of followed) {
      track.push({ ...barAt(track.series, track.length - 1), time: track.time[track.length - 1] + 60_000 });
      for (const run of runs) sum += run(track, track.length - 1)[0];
    }
    return sum;
  };
}

/** How many of the planted facts are found, and how much of what is found was planted. */
export function foundLines(): string[] {
  const seeds = Array.from({ length: sized(40, 1) }, (_, i) => `planted ${i}`);
  const line = ({ name, planted, found, hit, right }: Judged) =>
    `${name.padEnd(44)} recall ${((100 * hit) / planted).toFixed(1)} % of ` +
    `${planted}${found > 0 ? `, precision ${((100 * right) / found).toFixed(1)} % of ${found}` : ""}`;
  return [...judgePlanted(seeds), judgeDemo()].map(line);
}
