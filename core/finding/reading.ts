import { answeredCandles, type AnsweredCandle } from "#core/candles/answered";
import { machineBearing, type MachineBearing } from "#core/finding/bearing";
import { findingsOf } from "#core/finding/findings";
import type { Found } from "#core/finding/found";
import type { RungReader } from "#core/finding/reader";
import type { Way } from "#core/structure/structure";
import { labelled, type SwingLabel } from "#core/structure/labels";
import { candleAt, type Candle } from "#core/structure/candles";
import { legsOf } from "#core/structure/legs";

interface Point {
  time: number;
  price: number;
}

/** What a rung says at its last closed bar: plain data, to be kept and sent. */
export interface Reading {
  rung: string;
  /** `time` of the last closed bar; none when there is no bar. */
  until: number | undefined;
  /** ATR(14) at it. */
  atr: number;
  close: number;
  trend: { way: Way; since: number; extreme: Point; line: Point; origin: Point } | undefined;
  /**
   * The last two completed legs between swings, older first: how fast (ATR a bar), and the share of the leg before that
   * each gave back.
   */
  legs: { direction: Way; bottom: number; top: number; speed: number; retraced: number | undefined }[];
  /** The last swings as higher and lower highs and lows. */
  labels: { time: number; price: number; side: "high" | "low"; label: SwingLabel }[];
  /** The own range of the last closed bar and of the one before it, and what candle the last one is. */
  lastBar: { bottom: number; top: number } | undefined;
  barBefore: { bottom: number; top: number } | undefined;
  candle: Candle | undefined;
  /** Candles of the last bars, the newest first. */
  candles: AnsweredCandle[];
  /** Bars since the trend of structure began. */
  sinceShift: number | undefined;
  bearing: MachineBearing;
  found: Found[];
}

/** What a page is told of a rung besides what was found on it. */
export type RungReading = Omit<Reading, "found" | "sinceShift">;

/** What a board says of a rung. */
export interface RungSummary {
  rung: string;
  /** Last closed price; none when there is no bar. */
  close: number | undefined;
  /** `time` of the last closed bar. */
  until: number | undefined;
  bearing: Pick<MachineBearing, "direction" | "score">;
  /** Whether one of the last three bars shifted structure, and the close that would shift it next. */
  shifted: boolean;
  shiftAt: number | undefined;
}

/** Bars that a shift counts as new for. */
const NEW = 3;

export function summaryOf({
  rung,
  until,
  close,
  bearing: { direction, score },
  trend,
  sinceShift,
}: Reading): RungSummary {
  return {
    rung,
    close: until === undefined ? undefined : close,
    until,
    bearing: { direction, score },
    shifted: sinceShift !== undefined && sinceShift < NEW,
    shiftAt: trend?.line.price,
  };
}

/** Swings that labels and legs are made of. */
const LATELY = 40;

export function readingOf(reader: RungReader): Reading {
  const { track, structure, swings, rung } = reader;
  const last = track.length - 1;
  const point = ({ price, index }: { price: number; index: number }): Point => ({ price, time: track.time[index] });
  const { trend } = structure;
  // A bounded number of swings: the last turns are all that is asked for.
  const lately = swings.found.slice(-LATELY);
  return {
    rung,
    until: last >= 0 ? track.time[last] : undefined,
    atr: last >= 0 ? track.atr[last] : 0,
    close: last >= 0 ? track.close[last] : 0,
    trend: trend && {
      way: trend.way,
      since: track.time[trend.since],
      extreme: point(trend.extreme),
      line: point(trend.line),
      origin: point(trend.origin),
    },
    legs: legsOf(track, lately)
      .slice(-2)
      .map(({ direction, from, to, speed, retraced }) => ({
        direction,
        bottom: Math.min(from.price, to.price),
        top: Math.max(from.price, to.price),
        speed,
        retraced,
      })),
    labels: labelled(lately, track.atr).flatMap(({ time, price, side, label }) =>
      label ? [{ time, price, side, label }] : [],
    ),
    lastBar: rangeAt(track, last),
    barBefore: rangeAt(track, last - 1),
    candle: last >= 0 ? candleAt(track, last, track.tick) : undefined,
    candles: answeredCandles(track, track.tick),
    sinceShift: trend && last - trend.since,
    bearing: machineBearing(reader),
    found: findingsOf(reader),
  };
}

function rangeAt({ low, high }: RungReader["track"], i: number): { bottom: number; top: number } | undefined {
  return i >= 0 ? { bottom: low[i], top: high[i] } : undefined;
}
