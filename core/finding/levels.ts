import { keyOf, nearestEachSide, type Draft } from "#core/finding/draft";
import type { RungReader } from "#core/finding/reader";
import { ema } from "#core/studies/ema";
import { cloud } from "#core/studies/cloud";
import { sma } from "#core/studies/sma";
import type { Cluster } from "#core/levels/clusters";
import { expectedNext, EXPECTED_FORMULA } from "#core/levels/expected";
import { periodExtremes, type ExtremeState, type PeriodExtremes } from "#core/levels/periodExtremes";
import { pivotsOf } from "#core/levels/pivots";
import { roundNumbers } from "#core/levels/round";
import { closeOfBar, resample } from "#core/series/resample";
import { barAt, lastAtOrBefore, slice } from "#core/series/series";
import { bucketOfBar } from "#core/time/boundaries";
import { DAY } from "#core/time/dates";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { countText } from "#core/marks/wording";
import type { MeasuredKind } from "#core/measure/measured";

const MOST = { pools: 2, clusters: 2, older: 1 };
const YEAR = 365 * DAY;
const PERIODS: readonly { period: string; name: string }[] = [
  { period: "P1Y", name: "year" },
  { period: "P3M", name: "quarter" },
  { period: "P1M", name: "month" },
  { period: "P1W", name: "week" },
  { period: "P1D", name: "day" },
];

/**
 * Levels and resting orders of a rung; the day's rung also speaks for the periods, pivots, averages and round numbers.
 */
export function levelDrafts(reader: RungReader): Draft[] {
  const { track, equal, clusters, params, rung } = reader;
  if (track.length === 0) return [];
  const price = track.close[track.length - 1];
  const spot = <T extends { price: number }>(one: T) => ({ one, bottom: one.price, top: one.price });
  const near = <T extends { price: number }>(list: readonly T[], most: number) =>
    nearestEachSide(list.map(spot), price, most).map(({ one }) => one);
  const strong = clusters.found.filter((one) => one.swings.length >= params.touches);
  return [
    ...near(
      equal.found.filter(({ state }) => state !== "taken"),
      MOST.pools,
    ).map((pool) => poolDraft(reader, pool, `Equal ${pool.side}s`, "equal", "equalLevel")),
    ...near(
      equal.rows.filter(({ state }) => state === "untouched"),
      1,
    ).map((row) => poolDraft(reader, row, row.side === "low" ? "Row of rising lows" : "Row of falling highs", "row")),
    ...near(strong, MOST.clusters).map((cluster) => clusterDraft(reader, cluster, price)),
    ...(rung === "P1D" ? [...periodDrafts(reader, price), ...referenceDrafts(reader, price)] : []),
  ];
}

const RESTING: Record<ExtremeState, number> = { untouched: 1, swept: 0.4, taken: 0 };

function poolDraft(
  { track, rung }: RungReader,
  pool: RungReader["equal"]["rows"][number],
  name: string,
  of: string,
  measured?: MeasuredKind,
): Draft {
  const { side, price, state, swings, knownAt } = pool;
  return {
    key: keyOf(of, side, rung, new Date(swings[0].time).toISOString()),
    step: "levels",
    kind: "pool",
    anchors: swings.slice(0, 8).map((swing) => ({ time: swing.time, price: swing.price })),
    props: { side, of },
    name: `${name} (${swings.length})`,
    knownAt,
    bottom: price,
    top: price,
    role: side === "high" ? "resistance" : "support",
    state,
    freshness: RESTING[state],
    why: [`first ${countText(track.length - 1 - swings[0].index, "bar")} ago`],
    ...(measured ? { measured } : {}),
    bars: swings.map(({ index }) => [index, index] as const),
  };
}

function clusterDraft({ track, rung }: RungReader, { price, swings, highs, lows }: Cluster, close: number): Draft {
  const last = swings[swings.length - 1];
  const now = track.time[track.length - 1];
  const lately = swings.filter(({ time }) => time > now - YEAR).length;
  return {
    key: keyOf("touches", rung, price, new Date(swings[0].time).toISOString()),
    step: "levels",
    kind: "level",
    // Followed from now on: closes through it so far are part of what it is.
    anchors: [{ time: now, price }],
    props: { label: `${swings.length} touches${highs > 0 && lows > 0 ? ", both ways" : ""}` },
    name:
      `${close >= price ? "Support" : "Resistance"}, ${swings.length} ` +
      `touches${highs > 0 && lows > 0 ? ", both ways" : ""}`,
    knownAt: last.knownAt,
    bottom: price,
    top: price,
    role: close >= price ? "support" : "resistance",
    state: `last met ${track.length - 1 - last.index} bars ago`,
    freshness: 1,
    // A level hit about four times within twelve months is significant (common practice, no source).
    why: [`${lately} of them in twelve months`],
    bars: swings.slice(-12).map(({ index }) => [index, index] as const),
  };
}

/** Highs and lows of the period before, of older ones still untouched, and of all time. */
function periodDrafts(reader: RungReader, price: number): Draft[] {
  const { track, timeframe, calendar } = reader;
  const out: Draft[] = [];
  for (const { period, name } of PERIODS) {
    const all = periodExtremes(track.series, timeframe, parseTimeframe(period) as Timeframe, calendar);
    // The last one is none of these while it is running.
    const closed = isOver(reader, all.at(-1)?.time, period) ? all : all.slice(0, -1);
    const before = closed.at(-1);
    if (!before) continue;
    const end = (one: PeriodExtremes) =>
      lastAtOrBefore(track.series, (all[all.indexOf(one) + 1]?.time ?? Infinity) - 1);
    for (const side of ["high", "low"] as const) {
      const stateOf = (one: PeriodExtremes) => one[side === "high" ? "highState" : "lowState"];
      if (stateOf(before) !== "taken")
        out.push(
          extremeDraft(
            reader,
            before,
            side,
            `Previous ${name}'s ${side}${before.insidePrevious ? `, inside ${name}` : ""}`,
            end(before),
            period,
          ),
        );
      if (period === "P1D") continue;
      const rests = closed.slice(0, -1).filter((one) => stateOf(one) === "untouched");
      const nearest = rests.sort((a, b) => Math.abs(a[side] - price) - Math.abs(b[side] - price)).slice(0, MOST.older);
      for (const one of nearest)
        out.push(extremeDraft(reader, one, side, `${labelOfPeriod(one.time, name)}'s ${side}`, end(one), period));
    }
  }
  return [...out, ...allTime(reader)];
}

/** Whether the reader's last bar was the last of a period. */
function isOver({ track, timeframe, calendar }: RungReader, period: number | undefined, name: string): boolean {
  if (period === undefined) return false;
  return (
    closeOfBar(track.time[track.length - 1], timeframe, calendar) >=
    bucketOfBar(period, parseTimeframe(name) as Timeframe, calendar).to
  );
}

function labelOfPeriod(time: number, name: string): string {
  const text = new Date(time).toISOString();
  if (name === "year") return text.slice(0, 4);
  if (name === "quarter") return `Quarter ${Math.floor(new Date(time).getUTCMonth() / 3) + 1} of ${text.slice(0, 4)}`;
  return name === "month" ? text.slice(0, 7) : `Week of ${text.slice(0, 10)}`;
}

function extremeDraft(
  { track, rung }: RungReader,
  one: PeriodExtremes,
  side: "high" | "low",
  name: string,
  knownAt: number,
  period: string,
): Draft {
  const price = one[side];
  const time = side === "high" ? one.highTime : one.lowTime;
  const state = side === "high" ? one.highState : one.lowState;
  const index = lastAtOrBefore(track.series, time);
  return {
    key: keyOf("extreme", side, rung, new Date(time).toISOString(), name.replace(/^Previous (\w+).*/, "$1")),
    step: "levels",
    kind: "pool",
    anchors: [{ time, price }],
    props: { side, of: name },
    name,
    knownAt,
    bottom: price,
    top: price,
    role: side === "high" ? "resistance" : "support",
    state,
    freshness: RESTING[state],
    why: [`made ${countText(track.length - 1 - index, "bar")} ago`],
    ...(period === "P1D" ? {} : { measured: "periodExtreme" as const }),
    bars: [[index, index]],
  };
}

/** The highest high and the lowest low of all bars there are; an extreme of the last bar is still being made. */
function allTime({ track, rung }: RungReader): Draft[] {
  return (["high", "low"] as const).flatMap((side): Draft[] => {
    let index = 0;
    const prices = track[side];
    for (let i = 1; i < track.length; i++)
      if (side === "high" ? prices[i] > prices[index] : prices[i] < prices[index]) index = i;
    if (index === track.length - 1) return [];
    const time = track.time[index];
    return [
      {
        key: keyOf("extreme", side, rung, new Date(time).toISOString(), "all"),
        step: "levels",
        kind: "pool",
        anchors: [{ time, price: prices[index] }],
        props: { side, of: `All-time ${side}` },
        name: `All-time ${side}`,
        knownAt: index + 1,
        bottom: prices[index],
        top: prices[index],
        role: side === "high" ? "resistance" : "support",
        state: "untouched",
        freshness: 1,
        why: [`made ${countText(track.length - 1 - index, "bar")} ago`],
        bars: [[index, index]],
      },
    ];
  });
}

/**
 * Prices that are worked out rather than traded: averages, the cloud, pivots, the range expected of the next period,
 * round numbers.
 */
function referenceDrafts(reader: RungReader, price: number): Draft[] {
  const { track, timeframe, calendar } = reader;
  const { series } = track;
  const last = series.length - 1;
  const unit = track.atr[last];
  const drafts: Draft[] = [];
  const add = (what: string, value: number, name: string, state: string, since = last) => {
    if (Number.isNaN(value) || Math.abs(value - price) > REACH_ATR * unit) return;
    const rounded = Math.round(value / track.tick) * track.tick;
    drafts.push(referenceDraft(reader, what, Number(rounded.toPrecision(12)), name, state, since, price));
  };
  add("sma200", sma(series.close, 200)[last] ?? NaN, "200-day simple average", "moves with each bar");
  add("ema200", ema(series.close, 200)[last] ?? NaN, "200-day exponential average", "moves with each bar");
  const { spanA, spanB } = cloud(series, 9, 26, 52);
  const shift = last - 25;
  if (shift >= 0) {
    add("spanA", spanA[shift], "Cloud, leading span A", "of this bar");
    add("spanB", spanB[shift], "Cloud, leading span B", "of this bar");
  }
  const months = resample(series, timeframe, { count: 1, unit: "month" }, calendar);
  if (months.length > 1) {
    // Those of the running month come from the one before it.
    const at = months.length - 2;
    const begin = lastAtOrBefore(series, months.time[at + 1]) + 1;
    const label = new Date(months.time[at + 1]).toISOString().slice(0, 7);
    for (const [name, value] of Object.entries(pivotsOf(barAt(months, at))))
      add(
        `pivot ${name} ${label}`,
        value,
        `Pivot ${name} of ${label}`,
        "holds for the month",
        Math.max(0, Math.min(last, begin - 1)),
      );
  }
  for (const { period, name } of PERIODS.slice(0, -1)) {
    const bars = resample(series, timeframe, parseTimeframe(period) as Timeframe, calendar);
    if (bars.length < 2) continue;
    const closed = slice(bars, 0, bars.length - 1);
    const next = expectedNext(closed);
    if (!next) continue;
    const hit = `${Math.round(100 * next.within)} % of ${next.n} stayed within; ${EXPECTED_FORMULA}`;
    const begin = Math.max(0, lastAtOrBefore(series, bars.time[bars.length - 1]));
    const label = new Date(bars.time[bars.length - 1]).toISOString().slice(0, 10);
    add(`expected high ${period} ${label}`, next.high, `High expected of the ${name}`, hit, begin);
    add(`expected low ${period} ${label}`, next.low, `Low expected of the ${name}`, hit, begin);
  }
  for (const value of roundNumbers(price, 4 * unit, 6 * unit)) add(`round ${value}`, value, "Round number", "stands");
  return drafts;
}

/** References further away than this say nothing today. */
const REACH_ATR = 6;

function referenceDraft(
  { track, rung }: RungReader,
  what: string,
  value: number,
  name: string,
  state: string,
  since: number,
  price: number,
): Draft {
  return {
    key: keyOf("reference", what, rung),
    step: "levels",
    kind: "level",
    anchors: [{ time: track.time[track.length - 1], price: value }],
    props: { label: name },
    name,
    knownAt: since,
    bottom: value,
    top: value,
    role: price >= value ? "support" : "resistance",
    state,
    freshness: 1,
    why: [],
    ...(what.startsWith("pivot") ? { measured: "pivot" as const } : {}),
    bars: [[since, since]],
  };
}
