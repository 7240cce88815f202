import { cloud } from "#core/studies/cloud";
import { sma } from "#core/studies/sma";
import type { Direction } from "#core/marks/bearing";
import { countText } from "#core/marks/wording";
import type { RungReader } from "#core/finding/reader";

/** One thing that speaks for a direction, in words with its numbers' places left as prices. */
export interface BearingReason {
  /** What speaks: "structure", "closes", "cloud", "long average", "ranges", "sideways". */
  what: string;
  direction: Direction;
  weight: number;
  /** Price the reason hangs on, where it has one: the line of the next shift, an average, an edge. */
  price?: number;
  /** In words, without that price: "3 closes above the 50-bar average". */
  says: string;
  /** What on the chart it rests on, by name, price and the bar it began at. */
  rests: { name: string; bottom: number; top: number; time: number }[];
}

export interface MachineBearing {
  direction: Direction;
  /** From -1 (all down) to 1 (all up): the weighted mean of what speaks. */
  score: number;
  reasons: BearingReason[];
}

/** The mean must be at least this far from zero to be a direction (definition our own). */
const LEAST = 0.3;

const WEIGHTS = { structure: 3, closes: 1, cloud: 1, average: 1, ranges: 1, sideways: 2 };
const VALUE: Record<Direction, number> = { up: 1, sideways: 0, down: -1 };
/** Ranges price has left that are asked whether they were respected. */
const RANGES = 3;

/**
 * Which way a rung goes by its own closed bars, with the reasons: the trend of structure, n closes in a row about an
 * average the analyst chooses, the side of the cloud and of the long average, ranges left and respected; a range price
 * is in speaks for sideways (each common practice, no source; the weights are our own). What cannot be judged yet does
 * not speak.
 */
export function machineBearing(reader: RungReader): MachineBearing {
  const reasons = [
    structureReason(reader),
    closesReason(reader),
    cloudReason(reader),
    averageReason(reader),
    rangesReason(reader),
    sidewaysReason(reader),
  ].filter((reason) => reason !== undefined);
  const total = reasons.reduce((sum, { weight }) => sum + weight, 0);
  const score =
    total > 0 ? reasons.reduce((sum, { direction, weight }) => sum + VALUE[direction] * weight, 0) / total : 0;
  return { direction: score >= LEAST ? "up" : score <= -LEAST ? "down" : "sideways", score, reasons };
}

function sideOf(price: number, of: number): Direction {
  return price > of ? "up" : price < of ? "down" : "sideways";
}

function structureReason({ structure: { trend }, track }: RungReader): BearingReason | undefined {
  if (!trend) return undefined;
  const { price, index } = trend.line;
  const rests = [
    { name: trend.way === "up" ? "swing low" : "swing high", bottom: price, top: price, time: track.time[index] },
  ];
  return {
    what: "structure",
    direction: trend.way,
    weight: WEIGHTS.structure,
    price: trend.line.price,
    says: `structure is ${trend.way} until a close ${trend.way === "up" ? "below" : "above"}`,
    rests,
  };
}

function closesReason({ track: { series }, params: { closes, reference } }: RungReader): BearingReason | undefined {
  const mean = sma(series.close, reference);
  const last = series.length - 1;
  if (last < closes - 1 || Number.isNaN(mean[last - closes + 1] ?? NaN)) return undefined;
  const sides = Array.from({ length: closes }, (_, i) => sideOf(series.close[last - i], mean[last - i]));
  const [side] = sides;
  const all = sides.every((one) => one === side);
  const says =
    all && side !== "sideways"
      ? `${countText(closes, "close")} ${side === "up" ? "above" : "below"} the ${reference}-bar average`
      : `the last ${countText(closes, "close")} ${closes === 1 ? "lies" : "lie"} about the ${reference}-bar average`;
  return {
    what: "closes",
    direction: all ? side : "sideways",
    weight: WEIGHTS.closes,
    price: mean[last],
    says,
    rests: [averageOf(reference, mean[last], series.time[last])],
  };
}

function averageOf(bars: number, price: number, time: number): BearingReason["rests"][number] {
  return { name: `${bars}-bar average`, bottom: price, top: price, time };
}

/** Spans are compared with the close 26 bars after they were computed (Hosoda 1969). */
function cloudReason({ track: { series } }: RungReader): BearingReason | undefined {
  const { spanA, spanB } = cloud(series, 9, 26, 52);
  const last = series.length - 1;
  const at = last - 25;
  if (at < 0 || Number.isNaN(spanB[at])) return undefined;
  const [bottom, top] = [Math.min(spanA[at], spanB[at]), Math.max(spanA[at], spanB[at])];
  const close = series.close[last];
  const rests = [{ name: "cloud", bottom, top, time: series.time[at] }];
  if (close > top)
    return {
      what: "cloud",
      direction: "up",
      weight: WEIGHTS.cloud,
      price: top,
      says: "above the cloud, whose top is",
      rests,
    };
  if (close < bottom)
    return {
      what: "cloud",
      direction: "down",
      weight: WEIGHTS.cloud,
      price: bottom,
      says: "below the cloud, whose bottom is",
      rests,
    };
  return { what: "cloud", direction: "sideways", weight: WEIGHTS.cloud, says: "inside the cloud", rests };
}

function averageReason({ track: { series }, params: { long } }: RungReader): BearingReason | undefined {
  const mean = sma(series.close, long).at(-1);
  if (mean === undefined || Number.isNaN(mean)) return undefined;
  const direction = sideOf(series.close[series.length - 1], mean);
  return {
    what: "long average",
    direction,
    weight: WEIGHTS.average,
    price: mean,
    says: `${direction === "up" ? "above" : direction === "down" ? "below" : "at"} the ${long}-bar average`,
    rests: [averageOf(long, mean, series.time[series.length - 1])],
  };
}

/** Bullish ranges that are tapped and hold say up, bearish ones down. */
function rangesReason({ ranges, track }: RungReader): BearingReason | undefined {
  const left = ranges.found.flatMap((range) => (range.left ? [{ ...range.left, range }] : [])).slice(-RANGES);
  const held = left.filter(({ life }) => life.state.status !== "broken" && life.state.status !== "flipped");
  if (held.length === 0) return undefined;
  const sum = held.reduce((total, { way }) => total + VALUE[way], 0);
  const direction = sum > 0 ? "up" : sum < 0 ? "down" : "sideways";
  return {
    what: "ranges",
    direction,
    weight: WEIGHTS.ranges,
    says:
      `${held.length} of the last ${left.length} ranges ` +
      `hold${direction === "sideways" ? ", both ways" : ` ${direction}`}`,
    rests: held.map(({ range: { bottom, top, from } }) => ({ name: "range", bottom, top, time: track.time[from] })),
  };
}

function sidewaysReason({ ranges, track }: RungReader): BearingReason | undefined {
  const range = ranges.found.at(-1);
  if (!range || range.left) return undefined;
  return {
    what: "sideways",
    direction: "sideways",
    weight: WEIGHTS.sideways,
    price: range.top,
    says: `${track.length - range.from} bars in a range whose top is`,
    rests: [{ name: "range", bottom: range.bottom, top: range.top, time: track.time[range.from] }],
  };
}
