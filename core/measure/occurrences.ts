import type { RungReader } from "#core/finding/reader";
import { pivotsOf } from "#core/levels/pivots";
import { resample } from "#core/series/resample";
import { barAt } from "#core/series/series";
import { candleAt } from "#core/structure/candles";
import { alternating } from "#core/structure/legs";
import { divergencesOf } from "#core/studies/divergences";
import { rsi } from "#core/studies/rsi";
import { bucketOfBar } from "#core/time/boundaries";
import { formatTimeframe, parseTimeframe, type Timeframe } from "#core/time/timeframe";

/** What the trade says something follows on, and what it is called. */
export const RATE_KINDS = {
  shift: "a shift of structure",
  break: "a break of structure",
  sweep: "a sweep taken back",
  rejection: "a long wick at a 20-bar extreme",
  engulfing: "an engulfing candle",
  insideBreak: "a close out of an inside bar",
  halfBack: "a pullback to half of a leg with the trend",
  threeCloses: "three closes one way",
  fiveCloses: "five closes one way",
  beyondR2: "a close beyond R2 or S2 of the month",
  divergence: "a regular divergence of RSI 14",
} as const;
export type RateKind = keyof typeof RATE_KINDS;

/** Something that happened at the close of bar `at`; the trade expects price to go on up (1) or down (-1). */
export interface Occurrence {
  kind: RateKind;
  at: number;
  way: 1 | -1;
}

/** Bars of which a wick has to be the furthest to be at an extreme, and its share of the bar's range. */
const EXTREME = 20;
const WICK = 2 / 3;
const MONTH = parseTimeframe("P1M") as Timeframe;

/**
 * Everything of these kinds on the bars of a rung, each known at its bar's close; by kind, then in order of time. A bar
 * that swept two swings at once is one case.
 */
export function occurrencesOf(reader: RungReader): Occurrence[] {
  const all = [structure, rejections, engulfing, insideBreaks, halfBacks, rows, beyondR2, divergences].flatMap((of) =>
    of(reader),
  );
  return [...new Map(all.map((one) => [`${one.kind} ${one.at} ${one.way}`, one])).values()];
}

const wayOf = (up: boolean): 1 | -1 => (up ? 1 : -1);

function structure({ structure: { events } }: RungReader): Occurrence[] {
  return events.flatMap(({ event, direction, at, inner }): Occurrence[] => {
    if (event === "failedBreak" || (event === "break" && inner)) return [];
    // A high that was swept and not held speaks for the way down.
    return [{ kind: event, at, way: wayOf((direction === "up") === (event !== "sweep")) }];
  });
}

/** A bar that made the high or low of twenty with a wick of two thirds of its range. */
function rejections({ track: { open, high, low, close, length } }: RungReader): Occurrence[] {
  const out: Occurrence[] = [];
  for (let i = EXTREME - 1; i < length; i++) {
    const range = high[i] - low[i];
    if (!(range > 0)) continue;
    const [body, top] = [Math.min(open[i], close[i]), Math.max(open[i], close[i])];
    let [isLow, isHigh] = [body - low[i] >= WICK * range, high[i] - top >= WICK * range];
    for (let j = i - EXTREME + 1; j < i && (isLow || isHigh); j++) {
      if (low[j] < low[i]) isLow = false;
      if (high[j] > high[i]) isHigh = false;
    }
    if (isLow !== isHigh) out.push({ kind: "rejection", at: i, way: wayOf(isLow) });
  }
  return out;
}

function engulfing({ track }: RungReader): Occurrence[] {
  const out: Occurrence[] = [];
  for (let i = 1; i < track.length; i++) {
    const candle = candleAt(track, i, track.tick);
    if (candle && candle !== "indecision")
      out.push({ kind: "engulfing", at: i, way: wayOf(candle === "engulfing up") });
  }
  return out;
}

/** The first close beyond a bar that held the one after it wholly. */
function insideBreaks({ track: { high, low, close, length } }: RungReader): Occurrence[] {
  const out: Occurrence[] = [];
  let mother: number | undefined;
  for (let i = 1; i < length; i++) {
    if (mother !== undefined && (close[i] > high[mother] || close[i] < low[mother])) {
      out.push({ kind: "insideBreak", at: i, way: wayOf(close[i] > high[mother]) });
      mother = undefined;
    }
    if (mother === undefined && high[i] <= high[i - 1] && low[i] >= low[i - 1]) mother = i - 1;
  }
  return out;
}

/** The first bar that gives back half of a confirmed leg which made the last extreme of its trend. */
function halfBacks({ swings: { found }, track: { high, low, length } }: RungReader): Occurrence[] {
  const out: Occurrence[] = [];
  const turns = alternating(found);
  for (let n = 1; n < turns.length; n++) {
    const [from, to] = [turns[n - 1], turns[n]];
    const before = turns[n - 2];
    const way = wayOf(to.price > from.price);
    if (before && way * (to.price - before.price) <= 0) continue;
    const half = (from.price + to.price) / 2;
    const last = Math.min(length, turns[n + 2]?.knownAt ?? length);
    for (let i = to.knownAt; i < last; i++) {
      if (way * ((way > 0 ? high[i] : low[i]) - to.price) > 0) break;
      if (way * ((way > 0 ? low[i] : high[i]) - half) > 0) continue;
      out.push({ kind: "halfBack", at: i, way });
      break;
    }
  }
  return out;
}

/** Closes one way, the third and the fifth of a row. */
function rows({ track: { close, length } }: RungReader): Occurrence[] {
  const out: Occurrence[] = [];
  let row = 0;
  for (let i = 1; i < length; i++) {
    const step = Math.sign(close[i] - close[i - 1]);
    row = step === 0 ? 0 : Math.sign(row) === step ? row + step : step;
    const kind = Math.abs(row) === 3 ? "threeCloses" : Math.abs(row) === 5 ? "fiveCloses" : undefined;
    if (kind) out.push({ kind, at: i, way: wayOf(row > 0) });
  }
  return out;
}

/** The first close of a month beyond the second pivots of the month before it; of days only. */
function beyondR2({ track: { series, close, length }, timeframe, calendar }: RungReader): Occurrence[] {
  if (formatTimeframe(timeframe) !== "P1D" || length === 0) return [];
  const months = resample(series, timeframe, MONTH, calendar);
  const out: Occurrence[] = [];
  let i = 0;
  for (let m = 1; m < months.length; m++) {
    const { R2, S2 } = pivotsOf(barAt(months, m - 1));
    const { from, to } = bucketOfBar(months.time[m], MONTH, calendar);
    while (i < length && series.time[i] < from) i++;
    for (let j = i; j < length && series.time[j] < to; j++) {
      if (close[j] <= R2 && close[j] >= S2) continue;
      out.push({ kind: "beyondR2", at: j, way: wayOf(close[j] > R2) });
      break;
    }
  }
  return out;
}

function divergences({ track, params }: RungReader): Occurrence[] {
  const { series } = track;
  const found = divergencesOf(series, rsi(series.close, 14), { k: params.k, longest: 60, tick: track.tick });
  const indexOf = new Map(Array.from(series.time, (time, i) => [time, i]));
  return found
    .filter(({ kind }) => kind === "regular")
    .map(({ direction, knownAt }) => ({
      kind: "divergence" as const,
      at: indexOf.get(knownAt) ?? 0,
      way: wayOf(direction === "up"),
    }));
}
