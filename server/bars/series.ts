import { LRUCache } from "lru-cache";
import { hasOvernight, regularCalendar, regularLayers, type Hours } from "#core/series/hours";
import { deriveFromLayers, growFromLayers } from "#core/series/layers";
import { resample } from "#core/series/resample";
import type { Series } from "#core/series/series";
import type { Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { divides, isIntraday, nominalLength, type Timeframe } from "#core/time/timeframe";
import { currentTransaction } from "../database/connection.ts";
import type { Market } from "../database/models.ts";
import { bytesOf, layersKnownAt, layersOf } from "./layers.ts";
import { calendarOf } from "./markets.ts";
import { readTimeframe } from "./timeframes.ts";

const ROOM = 512 * 1024 * 1024;

/** Derived series by market, hours and timeframe; the newest few, for a chart asks again and again. */
const kept = new LRUCache<string, { revision: number; history: number; series: Series }>({
  maxSize: ROOM,
  sizeCalculation: ({ series }) => 1 + bytesOf(series),
});

/**
 * Bars of a market on any timeframe, from the finest stored resolution that covers each. Where bars were only added
 * since
 * it was last asked, the series grows from its last bar.
 */
export async function seriesOf(market: Market, timeframe: string, hours: Hours = "all"): Promise<Series> {
  const asked = readTimeframe(timeframe);
  const key = `${market.id} ${hours} ${timeframe}`;
  const { revision, history } = market;
  const known = kept.get(key);
  if (known?.revision === revision && known.history === history) return known.series;
  const before = known?.history === history ? known.series : undefined;
  const series = await derive(market, asked, hours, before);
  // What a transaction has read may never come to be.
  if (!currentTransaction()) kept.set(key, { revision, history, series });
  return series;
}

async function derive(market: Market, asked: Timeframe, hours: Hours, before: Series | undefined): Promise<Series> {
  const all = await layersOf(market);
  const layers = hours === "all" ? all : regularLayers(all, calendarOf(market));
  const calendar = hoursOf(market, hours);
  // What is longer than a day is made of days; those are made once for all of them.
  const viaDays = nominalLength(asked) > DAY && divides(ONE_DAY, asked) && layers.some(({ base }) => isIntraday(base));
  if (viaDays) return resample(await seriesOf(market, "P1D", hours), ONE_DAY, asked, calendar);
  return before ? growFromLayers(before, layers, asked, calendar) : deriveFromLayers(layers, asked, calendar);
}

const ONE_DAY: Timeframe = { count: 1, unit: "day" };

/**
 * The same as it was known at an instant, made of bars from an earlier one on: nothing that came later has any part in
 * it.
 */
export async function seriesAsOf(
  market: Market,
  timeframe: string,
  hours: Hours,
  instant: number,
  since = -Infinity,
): Promise<Series> {
  const asked = readTimeframe(timeframe);
  const known = await layersKnownAt(market, instant, since);
  return deriveFromLayers(
    hours === "all" ? known : regularLayers(known, calendarOf(market)),
    asked,
    hoursOf(market, hours),
  );
}

/** The calendar a view of a market's hours is cut by. */
export function hoursOf(market: Market, hours: Hours): Calendar {
  const { calendar } = market;
  return calendarOf(hours === "regular" && hasOvernight(calendar) ? { calendar: regularCalendar(calendar) } : market);
}
