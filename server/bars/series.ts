import { LRUCache } from "lru-cache";
import { hasOvernight, regularCalendar, regularLayers, type Hours } from "#core/series/hours";
import { deriveFromLayers } from "#core/series/layers";
import type { Series } from "#core/series/series";
import type { Calendar } from "#core/time/calendar";
import type { Market } from "../database/models.ts";
import { bytesOf, layersOf } from "./layers.ts";
import { calendarOf } from "./markets.ts";
import { readTimeframe } from "./timeframes.ts";

const ROOM = 512 * 1024 * 1024;

/** Derived series by market, hours and timeframe, each for one revision; the newest few, for a chart asks again and again. */
const kept = new LRUCache<string, { revision: number; series: Series }>({ maxSize: ROOM, sizeCalculation: ({ series }) => 1 + bytesOf(series) });

/** Bars of a market on any timeframe, from the finest stored resolution that covers each. */
export async function seriesOf(market: Market, timeframe: string, hours: Hours = "all"): Promise<Series> {
  const asked = readTimeframe(timeframe);
  const key = `${market.id} ${hours} ${timeframe}`;
  const known = kept.get(key);
  if (known?.revision === market.revision) return known.series;
  const layers = await layersOf(market);
  const calendar = calendarOf(market);
  const series = deriveFromLayers(hours === "all" ? layers : regularLayers(layers, calendar), asked, hoursOf(market, hours));
  kept.set(key, { revision: market.revision, series });
  return series;
}

/** The calendar a view of a market's hours is cut by. */
export function hoursOf(market: Market, hours: Hours): Calendar {
  const { calendar } = market;
  return calendarOf(hours === "regular" && hasOvernight(calendar) ? { calendar: regularCalendar(calendar) } : market);
}
