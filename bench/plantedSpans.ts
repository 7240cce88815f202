import { fromBars, barAt, type Bar, type Series } from "#core/series/series";
import { DAY } from "#core/time/dates";
import { SpanCounter, SPANNING, type Span } from "#core/waves/spans";
import type { Wave } from "#core/waves/wave";
import { isComplete } from "#core/waves/wave";
import { NOISES, plantCount, type PlantedCount } from "../demo/plantedCounts.ts";
import { seeded } from "../demo/random.ts";

/** A planted count at the end of a longer history that is foreign to it. */
export interface Embedded {
  planted: PlantedCount;
  series: Series;
  /** Bars before the planted ones. */
  before: number;
}

/**
 * A planted count after foreign bars, which are `share` of all: a walk of the same volatility, whose last sixth goes
 * against the count so that its start is a turn. With a share of 0 the planted bars alone.
 */
export function embedded(seed: string, noise: number, share: number): Embedded {
  const planted = plantCount(seed, noise);
  const random = seeded(`${seed} before`);
  const { length, close } = planted.series;
  const before = Math.round((share / (1 - share)) * length);
  let squares = 0;
  for (let i = 1; i < length; i++) squares += Math.log(close[i] / close[i - 1]) ** 2;
  const deviation = Math.sqrt(squares / length);
  const sign = planted.root.turns[1].price > planted.root.turns[0].price ? 1 : -1;
  const height = Math.abs(Math.log(planted.root.turns[1].price / planted.root.turns[0].price));
  const last = Math.round(before / 6);
  const drift = ((0.5 + random.next()) * height) / Math.max(1, last);
  // From the first planted price backwards.
  const prices = [planted.series.open[0]];
  for (let i = 0; i < before; i++)
    prices.push(prices[i] * Math.exp(deviation * random.normal() + (i < last ? sign * drift : 0)));
  const bars: Bar[] = [];
  for (let i = before; i > 0; i--) {
    const [open, end] = [prices[i], prices[i - 1]];
    const reach = 0.3 * deviation * Math.abs(random.normal());
    const [low, high] = [Math.min(open, end) * Math.exp(-reach), Math.max(open, end) * Math.exp(reach)];
    bars.push({ time: 0, open, high, low, close: end, volume: 1 });
  }
  // Nothing before it reaches past its own first price at its very last bars.
  for (let i = 0; i < length; i++) bars.push(barAt(planted.series, i));
  return {
    planted,
    before,
    series: fromBars(bars.map((bar, i) => ({ ...bar, time: planted.series.time[0] + (i - before) * DAY }))),
  };
}

/** Whether a wave has the planted pattern and its pivots, each within one finest swing of the planted one. */
export function isPlantedWave({ pattern, pivots }: Wave, { planted, series, before }: Embedded): boolean {
  const { root, finished, finest, complete } = planted;
  if (pattern !== root.pattern || isComplete({ pattern, pivots }) !== complete || pivots.length !== finished + 1)
    return false;
  const timeOf = (bar: number) => series.time[Math.max(0, Math.min(series.length - 1, before + bar))];
  return pivots.every(({ time }, i) => {
    const at = finest.indexOf(root.turns[i].bar);
    return time >= timeOf(finest[at - 1] ?? -5) && time <= timeOf(finest[at + 1] ?? Infinity);
  });
}

/** A count holds when it, or a wave of its root, is the planted one. */
export const holds = (root: Wave, one: Embedded): boolean =>
  [root, ...root.inner].some((wave) => wave && isPlantedWave(wave, one));

export interface SpanResult {
  one: Embedded;
  spans: Span[];
  /** Counts told with their odds and whether they hold. */
  told: { odds: number; holds: boolean }[];
  /** Place of the span that begins where the planted count does, from 1; 0 where none does. */
  span: number;
  /** Place of the count that holds, from 1, in the best span; 0 where none does. */
  place: number;
}

export function runEmbedded(seed: string, count: number, share: (i: number) => number): SpanResult[] {
  return Array.from({ length: count }, (_, i) => {
    const one = embedded(`${seed} ${i}`, NOISES[i % NOISES.length], share(i));
    const { series } = one;
    const spans = new SpanCounter(series, { ...SPANNING, degrees: 3 }).at(series.length - 1);
    const told = spans.flatMap(({ counts }) => counts.map(({ odds, root }) => ({ odds, holds: holds(root, one) })));
    const near = one.planted.finest[1] - one.planted.finest[0];
    const span = spans.findIndex(({ from }) => Math.abs(from - one.before) <= near) + 1;
    const places = spans
      .map(({ counts }) => counts.findIndex(({ root }) => holds(root, one)) + 1)
      .filter((at) => at > 0);
    return { one, spans, told, span, place: places.length > 0 ? Math.min(...places) : 0 };
  });
}
