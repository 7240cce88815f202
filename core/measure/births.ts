import { FINDING_DEFAULTS } from "#core/finding/params";
import { RungReader } from "#core/finding/reader";
import { EqualLevels } from "#core/levels/equal";
import { pivotsOf } from "#core/levels/pivots";
import { periodExtremes } from "#core/levels/periodExtremes";
import { featuresAt, type FeatureBars } from "#core/measure/features";
import {
  edgesOfBand,
  MEASURED_KINDS,
  signOf,
  type BandAtBirth,
  type BandSide,
  type Born,
  type MeasuredKind,
} from "#core/measure/measured";
import { closeOfBar, resample } from "#core/series/resample";
import { barAt, type Series } from "#core/series/series";
import { run } from "#core/series/track";
import { SwingDetector } from "#core/structure/swingDetector";
import { atr } from "#core/studies/atr";
import { bucketOfBar } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { formatTimeframe, parseTimeframe, type Timeframe } from "#core/time/timeframe";

/** A gap smaller than this says little: in ATR at its third candle. */
const LEAST_GAP = 0.3;
const PERIODS = ["P1W", "P1M", "P3M", "P1Y"].map((text) => parseTimeframe(text) as Timeframe);
const MONTH = parseTimeframe("P1M") as Timeframe;

/** A band as a detector gives it, with what of itself counts as a feature. */
interface Drawn extends BandAtBirth {
  kind: MeasuredKind;
  own?: Record<string, number>;
}

/**
 * Every finding of the whole past of one timeframe, as it was born: nothing is left out because it is old, used up or
 * far away. Where the ATR is not there yet, or price stood at or beyond the near edge, there is no room for price to
 * come back, and it is none here. In order of `knownAt`, then kind, `bottom`, `top`; no two are alike.
 */
export function birthsOf(
  series: Series,
  timeframe: Timeframe,
  calendar: Calendar,
  tick: number,
): { born: Born[]; bars: FeatureBars; reader: RungReader } {
  const reader = new RungReader(series, timeframe, calendar, tick, FINDING_DEFAULTS);
  const bars: FeatureBars = featureBars(series, tick);
  const drawn = [
    ...zones(reader),
    ...blocks(reader),
    ...ranges(reader),
    ...gaps(reader, bars),
    ...equals(reader),
    ...(formatTimeframe(timeframe) === "P1D"
      ? [...extremes(series, timeframe, calendar), ...monthPivots(series, timeframe, calendar)]
      : []),
  ];
  const same = tick / 1000;
  const roomy = drawn.filter((band) => {
    const { near } = edgesOfBand(band);
    return bars.atr[band.knownAt] > 0 && signOf(band.side) * (bars.close[band.knownAt] - near) > same;
  });
  const order = (kind: MeasuredKind) => MEASURED_KINDS.indexOf(kind);
  roomy.sort(
    (a, b) =>
      a.knownAt - b.knownAt ||
      order(a.kind) - order(b.kind) ||
      a.bottom - b.bottom ||
      a.top - b.top ||
      a.side.localeCompare(b.side),
  );
  const single = roomy.filter((band, i) => i === 0 || !isAlike(roomy[i - 1], band));
  const around = featuresAt(reader, bars);
  return { reader, bars, born: single.map(({ own, ...band }) => ({ ...band, features: { ...around(band), ...own } })) };
}

function isAlike(a: Drawn, b: Drawn): boolean {
  return a.knownAt === b.knownAt && a.kind === b.kind && a.side === b.side && a.bottom === b.bottom && a.top === b.top;
}

/** Bars with what features and outcomes are read from. */
function featureBars(series: Series, tick: number): FeatureBars {
  return { ...series, atr: atr(series), tick };
}

const zones = ({ bases }: RungReader): Drawn[] =>
  bases.found.map(({ side, bottom, top, knownAt, departure, from, to }) => ({
    kind: "zone",
    ...{ side, bottom, top, knownAt },
    own: { departure, bars: to - from + 1 },
  }));

const blocks = ({ orderBlocks }: RungReader): Drawn[] =>
  orderBlocks.found.map(({ side, bottom, top, knownAt }) => ({ kind: "orderBlock", side, bottom, top, knownAt }));

const ranges = (reader: RungReader): Drawn[] =>
  reader.ranges.found.flatMap(({ left, bottom, top, from, to }): Drawn[] =>
    left
      ? [
          {
            kind: "range",
            side: left.way === "up" ? "demand" : "supply",
            ...{ bottom, top, knownAt: left.at },
            own: { bars: to - from + 1 },
          },
        ]
      : [],
  );

const gaps = (reader: RungReader, { atr: unit, tick }: FeatureBars): Drawn[] =>
  reader.gaps.found.flatMap(({ at, direction, bottom, top }): Drawn[] =>
    top - bottom >= LEAST_GAP * unit[at] - tick / 1000
      ? [{ kind: "gap", side: direction === "up" ? "demand" : "supply", bottom, top, knownAt: at }]
      : [],
  );

/** Equal highs and lows at the price they were born with, from swings that are strictly beyond their neighbours. */
function equals({ track, params }: RungReader): Drawn[] {
  const swings = new SwingDetector(track, { k: params.k, ties: "none" });
  const equal = new EqualLevels(track, swings, params.equal);
  run(track, [swings, equal]);
  return equal.found.map(({ side, price, knownAt }) => ({
    kind: "equalLevel",
    side: side === "low" ? "demand" : "supply",
    ...{ bottom: price, top: price, knownAt },
  }));
}

/** Index of the first bar that closes no earlier than the calendar ends the period; -1 where there is none yet. */
function endOf(period: Timeframe, label: number, from: number, series: Series, own: Timeframe, calendar: Calendar) {
  const { to } = bucketOfBar(label, period, calendar);
  for (let i = from; i < series.length; i++) if (closeOfBar(series.time[i], own, calendar) >= to) return i;
  return -1;
}

function extremes(series: Series, timeframe: Timeframe, calendar: Calendar): Drawn[] {
  return PERIODS.flatMap((period) => {
    let from = 0;
    return periodExtremes(series, timeframe, period, calendar).flatMap(({ time, high, low }): Drawn[] => {
      const knownAt = endOf(period, time, from, series, timeframe, calendar);
      if (knownAt < 0) return [];
      from = knownAt;
      return [
        { kind: "periodExtreme", side: "supply", bottom: high, top: high, knownAt },
        { kind: "periodExtreme", side: "demand", bottom: low, top: low, knownAt },
      ];
    });
  });
}

/** Pivots of the months that are over, also of the one to come, on the side price stood on when they were known. */
function monthPivots(series: Series, timeframe: Timeframe, calendar: Calendar): Drawn[] {
  const months = resample(series, timeframe, MONTH, calendar);
  const out: Drawn[] = [];
  let from = 0;
  for (let m = 0; m < months.length; m++) {
    const knownAt = endOf(MONTH, months.time[m], from, series, timeframe, calendar);
    if (knownAt < 0) break;
    from = knownAt;
    const close = series.close[knownAt];
    for (const price of Object.values(pivotsOf(barAt(months, m))) as number[]) {
      const side: BandSide = close > price ? "demand" : "supply";
      if (price > 0) out.push({ kind: "pivot", side, bottom: price, top: price, knownAt });
    }
  }
  return out;
}
