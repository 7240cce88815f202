import { candlesAt, type CandleName, type CandleSeen } from "#core/candles/candles";
import type { Series } from "#core/series/series";

/** A candle that closed lately, and how the bar after it answered. */
export interface AnsweredCandle {
  name: CandleName;
  way?: CandleSeen["way"];
  /** `time` of its first and of its last bar, and of the bar after it where that has come. */
  since: number;
  time: number;
  next?: number;
  /** Of its last bar. */
  low: number;
  high: number;
  /** Where the next bar closed against its high and low; absent while that bar is to come. */
  answer?: "above" | "below" | "within";
}

/** Bars that are looked back on. */
const LATELY = 5;
/** Of several at one close the one that says most (definition our own): what is made of more bars comes first. */
const FIRST: readonly CandleName[] = ["star", "three", "engulfing", "outside", "shaven", "pin", "inside", "indecision"];

/** Candles of the last bars, the newest first, one a bar. `length` bars have closed. */
export function answeredCandles(
  prices: Pick<Series, "time" | "open" | "high" | "low" | "close" | "length">,
  tick: number,
): AnsweredCandle[] {
  const { time, high, low, close, length } = prices;
  const out: AnsweredCandle[] = [];
  for (let i = length - 1; i >= Math.max(0, length - LATELY); i--) {
    const seen = candlesAt(prices, i, tick).sort((a, b) => FIRST.indexOf(a.name) - FIRST.indexOf(b.name));
    const [first] = seen;
    if (!first) continue;
    const next = i + 1 < length ? close[i + 1] : undefined;
    const answer = next === undefined ? undefined : next > high[i] ? "above" : next < low[i] ? "below" : "within";
    out.push({
      name: first.name,
      ...(first.way ? { way: first.way } : {}),
      ...{ since: time[first.from], time: time[i], low: low[i], high: high[i] },
      ...(i + 1 < length ? { next: time[i + 1] } : {}),
      ...(answer ? { answer } : {}),
    });
  }
  return out;
}

/** Candles at an area: a candle says something where it stands, and nothing anywhere else. */
export function atPlaces<T extends { bottom: number; top: number }>(
  candles: readonly AnsweredCandle[],
  areas: readonly T[],
): { candle: AnsweredCandle; area: T }[] {
  return candles.flatMap((candle) => {
    const area = areas.find(({ bottom, top }) => candle.low <= top && candle.high >= bottom);
    return area ? [{ candle, area }] : [];
  });
}

/** An end of a wave that a count says, as the count labels it. */
export interface WaveEnd {
  time: number;
  price: number;
  label: string;
}

/** Candles within whose bars a counted wave ended. */
export function atWaveEnds(
  candles: readonly AnsweredCandle[],
  ends: readonly WaveEnd[],
): { candle: AnsweredCandle; end: WaveEnd }[] {
  return candles.flatMap((candle) => {
    const { since, next = Infinity } = candle;
    const end = ends.find(({ time }) => time >= since && time < next);
    return end ? [{ candle, end }] : [];
  });
}

const NAMES: Readonly<Record<CandleName, string>> = {
  engulfing: "Engulfing candle",
  pin: "Pin",
  inside: "Inside bar",
  outside: "Outside bar",
  indecision: "Indecision",
  star: "Star",
  three: "Three in a row",
  shaven: "Shaven candle",
};

/** "Pin up", "Morning star", "Inside bar". */
export function candleTitle({ name, way }: Pick<AnsweredCandle, "name" | "way">): string {
  if (name === "star") return way === "up" ? "Morning star" : "Evening star";
  return way ? `${NAMES[name]} ${way}` : NAMES[name];
}

/** How the next bar answered, in words. */
export function answerText({ answer }: Pick<AnsweredCandle, "answer">): string {
  if (answer === undefined) return "not answered yet";
  return answer === "within" ? "the next bar closed within it" : `the next bar closed ${answer} it`;
}
