import { LRUCache } from "lru-cache";
import { col, fn, type Transaction } from "sequelize";
import { knownAt } from "#core/series/asOf";
import { deriveSeries } from "#core/series/formula";
import { deriveFromLayers, type Layer } from "#core/series/layers";
import { grown } from "#core/series/grown";
import { COLUMNS, firstAtOrAfter, slice, type Series } from "#core/series/series";
import { formatTimeframe, nominalLength } from "#core/time/timeframe";
import { currentTransaction } from "../database/connection.ts";
import type { Market } from "../database/models.ts";
import { BarChunk } from "../database/models.ts";
import { BAR_BYTES, readBars } from "./chunks.ts";
import { calendarOf, legsOf } from "./markets.ts";
import { readTimeframe } from "./timeframes.ts";

/** Stored bars of one market as this process last read them. */
interface Held {
  revision: number;
  history: number;
  layers: Layer[];
}

/** Bytes of bars kept in memory; those not asked for longest go first. */
const ROOM = 768 * 1024 * 1024;

const held = new LRUCache<string, Held>({
  maxSize: ROOM,
  sizeCalculation: ({ layers }) => 1 + layers.reduce((sum, { series }) => sum + bytesOf(series), 0),
});
const underway = new Map<string, Promise<Layer[]>>();

export function bytesOf({ length }: Series): number {
  return length * COLUMNS.length * 8;
}

/**
 * Every resolution a market holds, or that its legs make. When bars were only added since the last time, only those
 * are read; concurrent callers share one reading.
 */
export function layersOf(market: Market): Promise<Layer[]> {
  const known = held.get(market.id);
  if (known?.revision === market.revision && known.history === market.history) return Promise.resolve(known.layers);
  // A transaction reads for itself: one begun elsewhere may be waiting for a connection that is not to be had until
  // this ends.
  if (currentTransaction()) return readLayers(market, known?.history === market.history ? known.layers : []);
  const key = `${market.id} ${market.revision}`;
  let reading = underway.get(key);
  if (!reading) {
    reading = readLayers(market, known?.history === market.history ? known.layers : []).finally(() =>
      underway.delete(key),
    );
    underway.set(key, reading);
  }
  return reading;
}

/**
 * The same as it was known at an instant, from an earlier one on. A derived market knows a bar when the last of its
 * legs does.
 */
export async function layersKnownAt(market: Market, instant: number, since = -Infinity): Promise<Layer[]> {
  if (market.formula) return derivedLayers(market, (leg) => layersKnownAt(leg, instant, since));
  const known = knownAt(await layersOf(market), instant, calendarOf(market));
  return since === -Infinity
    ? known
    : known.map(({ base, series }) => ({ base, series: slice(series, firstAtOrAfter(series, since), series.length) }));
}

/** The same as it is stored now, whatever this process remembers of it. */
export async function freshLayers(market: Market): Promise<Layer[]> {
  return market.formula ? derivedLayers(market, freshLayers) : storedLayers(market.id, []);
}

async function readLayers(market: Market, before: readonly Layer[]): Promise<Layer[]> {
  const layers = market.formula ? await derivedLayers(market, layersOf) : await storedLayers(market.id, before);
  const { id, revision, history } = market;
  const keep = () => void held.set(id, { revision, history, layers });
  // What a transaction has read may never come to be: it is kept for others once that is sure.
  const transaction = currentTransaction();
  if (transaction) transaction.afterCommit(keep);
  else keep();
  return layers;
}

async function storedLayers(marketId: string, before: readonly Layer[]): Promise<Layer[]> {
  const bases = await basesOf(marketId);
  return Promise.all(
    bases.map(async (base) => {
      const known = before.find((layer) => formatTimeframe(layer.base) === base)?.series;
      const from = known && known.length > 0 ? known.time[known.length - 1] : -Infinity;
      const read = await readBars({ marketId, base, shelf: "live" }, from);
      // The last known bar is read again: what it says now is what counts.
      return { base: readTimeframe(base), series: known ? grown(known, read) : read };
    }),
  );
}

/** A derived market has the resolutions that each of its legs has or can make. */
async function derivedLayers(market: Market, layersOfLeg: (leg: Market) => Promise<Layer[]>): Promise<Layer[]> {
  const { formula } = market;
  if (!formula) return [];
  const legs = await Promise.all(
    (await legsOf(market)).map(async (leg) => ({ calendar: calendarOf(leg), layers: await layersOfLeg(leg) })),
  );
  const bases = new Map(legs.flatMap(({ layers }) => layers.map(({ base }) => [formatTimeframe(base), base])));
  return [...bases.values()]
    .sort((a, b) => nominalLength(b) - nominalLength(a))
    .map((base) => ({
      base,
      series: deriveSeries(
        legs.map((leg) => deriveFromLayers(leg.layers, base, leg.calendar)),
        formula,
        market,
      ),
    }))
    .filter(({ series }) => series.length > 0);
}

/**
 * Bars of one stored resolution in [from, to), for a derived market made of what its legs hold of that very resolution.
 */
export async function barsOfBase(
  market: Market,
  base: string,
  from: number,
  to = Infinity,
  transaction?: Transaction,
): Promise<Series> {
  if (!market.formula) return readBars({ marketId: market.id, base, shelf: "live" }, from, to, transaction);
  const legs = await legsOf(market, transaction);
  const series = await Promise.all(legs.map((leg) => barsOfBase(leg, base, from, to, transaction)));
  return deriveSeries(series, market.formula, market);
}

/** Resolutions a market has bars of its own in. */
async function basesOf(marketId: string): Promise<string[]> {
  const rows = await BarChunk.findAll({
    where: { marketId, shelf: "live" },
    attributes: ["base"],
    group: ["base"],
    raw: true,
  });
  return rows.map(({ base }) => base);
}

/** What is stored of a market, resolution by resolution, without reading a bar. */
export interface Holding {
  base: string;
  bars: number;
  from: number;
  to: number;
  /** Bytes in the database. */
  bytes: number;
}

export async function holdingsOf(
  marketId?: string,
  transaction?: Transaction,
): Promise<(Holding & { marketId: string })[]> {
  const rows = (await BarChunk.findAll({
    where: { shelf: "live", ...(marketId === undefined ? {} : { marketId }) },
    attributes: [
      "marketId",
      "base",
      [fn("SUM", col("length")), "bars"],
      [fn("MIN", col("startTime")), "from"],
      [fn("MAX", col("endTime")), "to"],
    ],
    group: ["marketId", "base"],
    raw: true,
    ...(transaction ? { transaction } : {}),
  })) as unknown as (Holding & { marketId: string })[];
  return (
    rows
      // Known by their number: the bars themselves are not looked at.
      .map((row) => ({ ...row, bars: Number(row.bars), bytes: Number(row.bars) * BAR_BYTES }))
      .sort((a, b) => nominalLength(readTimeframe(b.base)) - nominalLength(readTimeframe(a.base)))
  );
}
