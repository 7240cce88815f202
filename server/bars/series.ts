import { QueryTypes } from "sequelize";
import { deriveFromLayers, type Layer } from "#core/series/layers";
import type { Series } from "#core/series/series";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { BarChunk, type Market } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { readBars } from "./chunks.ts";
import { calendarOf } from "./markets.ts";

/** Derived series by market, revision and timeframe; the newest few, for a chart asks for the same again and again. */
const cache = new Map<string, Promise<Series>>();
const KEPT = 64;

export function readTimeframe(text: string): Timeframe {
  const timeframe = parseTimeframe(text);
  if (!timeframe) throw new Failure("timeframe", `"${text.slice(0, 20)}" is not a timeframe such as PT4H, P1D or P3M.`, { status: 400 });
  return timeframe;
}

/** Bars of a market on any timeframe, from the finest stored resolution that covers each. */
export function seriesOf(market: Market, timeframe: string): Promise<Series> {
  const key = `${market.id} ${market.revision} ${timeframe}`;
  const known = cache.get(key);
  if (known) return known;
  const made = layersOf(market).then((layers) => deriveFromLayers(layers, readTimeframe(timeframe), calendarOf(market)));
  made.catch(() => cache.delete(key));
  cache.set(key, made);
  for (const old of cache.keys()) {
    if (cache.size <= KEPT) break;
    cache.delete(old);
  }
  return made;
}

const layerCache = new Map<string, { revision: number; layers: Promise<Layer[]> }>();

function layersOf(market: Market): Promise<Layer[]> {
  const known = layerCache.get(market.id);
  if (known?.revision === market.revision) return known.layers;
  const layers = readLayers(market.id);
  layers.catch(() => layerCache.delete(market.id));
  layerCache.set(market.id, { revision: market.revision, layers });
  return layers;
}

async function readLayers(marketId: string): Promise<Layer[]> {
  const bases = await basesOf(marketId);
  return Promise.all(
    bases.map(async (base) => ({
      base: readTimeframe(base),
      series: await readBars({ marketId, base, shelf: "live" }),
    })),
  );
}

/** Resolutions a market holds. */
export async function basesOf(marketId: string): Promise<string[]> {
  const rows = await BarChunk.sequelize!.query<{ base: string }>(
    "SELECT DISTINCT base FROM bar_chunks WHERE marketId = :marketId AND shelf = 'live'",
    { replacements: { marketId }, type: QueryTypes.SELECT },
  );
  return rows.map(({ base }) => base);
}
