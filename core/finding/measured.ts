import { keyOf, type Draft } from "#core/finding/draft";
import type { RungReader } from "#core/finding/reader";
import { cycle } from "#core/marks/measuring/cycle";
import { measuredMove } from "#core/marks/measuring/measuredMove";
import { projection } from "#core/marks/measuring/projection";
import { countText, percentText } from "#core/marks/wording";
import { cycleFit } from "#core/projections/cycleFit";
import { medianOf } from "#core/statistics/median";
import { alternating } from "#core/structure/legs";
import { isSwing, type Swing } from "#core/structure/swings";
import { divergencesOf } from "#core/studies/divergences";
import { rsi } from "#core/studies/rsi";
import { slice } from "#core/series/series";

/**
 * What the machine lays off: the projection of the current swing in its usual direction, the measured move of the range
 * that was just left, a divergence that stands, and a cycle that is more even than chance. One of each at most.
 */
export function measuredDrafts(reader: RungReader): Draft[] {
  if (reader.track.length < LEAST) return [];
  return [projectionDraft, moveDraft, divergenceDraft, cycleDraft].flatMap((of) => of(reader) ?? []);
}

const LEAST = 60;
/** A range counts as just left, and a divergence as new, for so many bars. */
const RECENT = 40;
const stamp = (time: number) => new Date(time).toISOString();
const anchorOf = ({ time, price }: Pick<Swing, "time" | "price">) => ({ time, price });

/** The lowest and the highest price since a bar, that bar left out. */
function since({ track: { low, high, length } }: RungReader, index: number): { low: number; high: number } {
  let [bottom, top] = [Infinity, -Infinity];
  for (let i = index + 1; i < length; i++) [bottom, top] = [Math.min(bottom, low[i]), Math.max(top, high[i])];
  return { low: bottom, high: top };
}

/** A leg with the trend and the way back from it that ended: the leg laid off once more from there. */
function projectionDraft(reader: RungReader): Draft | undefined {
  const { track, rung, swings, structure } = reader;
  const [a, b, c] = alternating(swings.found).slice(-3);
  if (!c || !structure.trend) return undefined;
  const sign = b.price > a.price ? 1 : -1;
  if ((sign > 0 ? "up" : "down") !== structure.trend.way || sign * (c.price - a.price) <= 0) return undefined;
  const target = c.price + (b.price - a.price);
  const { low, high } = since(reader, c.index);
  const isOver = sign > 0 ? low < c.price || high >= target : high > c.price || low <= target;
  if (isOver) return undefined;
  const back = (b.price - c.price) / (b.price - a.price);
  const beyond = sign * (track.close[track.length - 1] - b.price) > 0;
  return {
    ...{ key: keyOf("projection", rung, stamp(a.time), stamp(b.time), stamp(c.time)), step: "projections" },
    ...{ kind: "projection", anchors: [a, b, c].map(anchorOf), props: { ...projection.readProps({}) } },
    name: `Projection of the last leg ${sign > 0 ? "up" : "down"}, ${percentText(back, 0)} given back`,
    ...{ knownAt: c.knownAt, bottom: target, top: target, role: sign > 0 ? "resistance" : "support" },
    state: beyond ? "in force" : "waiting",
    freshness: 1,
    why: [`${countText(track.length - 1 - c.index, "bar")} since`],
    bars: [[a.index, c.index]],
  };
}

/** The height of the last range that was left, laid off from the edge it was left at. */
function moveDraft(reader: RungReader): Draft | undefined {
  const { track, rung, ranges } = reader;
  const range = ranges.found.findLast(({ left }) => left !== undefined);
  if (!range?.left || track.length - 1 - range.left.at > RECENT) return undefined;
  const { left, from, to } = range;
  // Wicks belong to it, beyond the edges that closes were held against.
  let [bottom, top, lowest, highest] = [Infinity, -Infinity, from, from];
  for (let i = from; i <= to; i++) {
    if (track.low[i] < bottom) [bottom, lowest] = [track.low[i], i];
    if (track.high[i] > top) [top, highest] = [track.high[i], i];
  }
  const sign = left.way === "up" ? 1 : -1;
  const [far, near] = sign > 0 ? [bottom, top] : [top, bottom];
  const target = near + (near - far);
  const { low, high } = since(reader, to);
  if (sign > 0 ? low < far || high >= target : high > far || low <= target) return undefined;
  let broke = false;
  for (let i = left.at; i < track.length; i++) broke ||= sign * (track.close[i] - near) > 0;
  const anchors = [lowest, highest].map((i, n) => ({ time: track.time[i], price: n === 0 ? bottom : top }));
  return {
    ...{ key: keyOf("move", rung, stamp(track.time[from]), left.way), step: "projections", kind: "measuredMove" },
    anchors: sign > 0 ? anchors : anchors.reverse(),
    props: { ...measuredMove.readProps({}) },
    name: `Measured move of the range that was left ${left.way}`,
    ...{ knownAt: left.at, bottom: target, top: target, role: sign > 0 ? "resistance" : "support" },
    state: broke ? "in force" : "waiting",
    freshness: 1,
    why: [`${countText(to - from + 1, "bar")} within it`, `left as a ${left.as}`],
    bars: [[from, left.at]],
  };
}

const RSI = { study: "rsi", params: { period: 14, of: "close" }, field: "value" };

/** The last divergence of price and RSI 14 at confirmed swings, where neither a shift nor a new extreme ended it. */
function divergenceDraft(reader: RungReader): Draft | undefined {
  const { track, rung, params } = reader;
  // What is looked at reaches back as far as a divergence and the study's memory do.
  const first = Math.max(0, track.length - 400);
  const series = slice(track.series, first, track.length);
  const found = divergencesOf(series, rsi(series.close, 14), { k: params.k, longest: 60, tick: track.tick }).at(-1);
  if (!found) return undefined;
  const [from, to] = [found.from, found.to].map(({ time }) => first + series.time.indexOf(time));
  if (track.length - 1 - to > RECENT) return undefined;
  const isUp = found.direction === "up";
  const { low, high } = since(reader, to);
  if (isUp ? low < found.to.price : high > found.to.price) return undefined;
  let shift = isUp ? -Infinity : Infinity;
  for (let i = from; i <= to; i++) shift = isUp ? Math.max(shift, track.high[i]) : Math.min(shift, track.low[i]);
  for (let i = to + 1; i < track.length; i++)
    if (isUp ? track.close[i] > shift : track.close[i] < shift) return undefined;
  const values: [number, number] = [found.from.value, found.to.value];
  return {
    ...{ key: keyOf("divergence", rung, stamp(found.from.time), stamp(found.to.time)), step: "projections" },
    ...{ kind: "divergence", anchors: [found.from, found.to].map(anchorOf), props: { ...RSI, values } },
    name:
      `${isUp ? "Bullish" : "Bearish"} ${found.kind} divergence of RSI 14, ` +
      values.map((one) => one.toFixed(1)).join(" to "),
    ...{ knownAt: first + series.time.indexOf(found.knownAt), bottom: found.to.price, top: found.to.price },
    ...{ role: isUp ? "support" : "resistance", state: "stands" },
    freshness: 1,
    ...(found.kind === "regular" ? { rate: "divergence" as const } : {}),
    why: [`${countText(track.length - 1 - to, "bar")} since`],
    bars: [[from, to]],
  };
}

/** Bars on each side of a low of a cycle, its lows at least and at most, and how rare by chance it has to be. */
const CYCLE = { k: 10, least: 5, most: 12, chance: 0.1 };

/** The last lows as a cycle, where their spans are more even than shuffled lows'. */
function cycleDraft({ track, rung }: RungReader): Draft | undefined {
  const lows: number[] = [];
  for (let i = track.length - 1 - CYCLE.k; i >= CYCLE.k && lows.length < CYCLE.most; i--)
    if (isSwing(track.low, i, CYCLE.k, "low", "last")) lows.unshift(i);
  if (lows.length < CYCLE.least) return undefined;
  const spans = lows.slice(1).map((at, n) => at - lows[n]);
  const { p, shuffles } = cycleFit(spans, CYCLE.k + 1);
  if (p > CYCLE.chance) return undefined;
  const last = lows[lows.length - 1];
  const price = track.low[last];
  return {
    ...{ key: keyOf("cycle", rung, stamp(track.time[lows[0]]), stamp(track.time[last])), step: "projections" },
    ...{ kind: "cycle", anchors: lows.slice(-8).map((i) => ({ time: track.time[i], price: track.low[i] })) },
    props: { ...cycle.readProps({}) },
    name:
      `Cycle of about ${Math.round(medianOf(spans))} bars, ${lows.length} lows; ` +
      `${percentText(p, 1)} of ${shuffles} shuffles were as even`,
    ...{ knownAt: last + CYCLE.k, bottom: price, top: price, role: "level", state: "ahead" },
    freshness: 1,
    why: [],
    bars: [[lows[0], last]],
  };
}
