import { LRUCache } from "lru-cache";
import type { RungWorth } from "#core/measure/worth";
import { slice } from "#core/series/series";
import { calendarOf } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { readClock } from "../clock.ts";
import { WorthRow, type Market } from "../database/models.ts";
import { log } from "../log.ts";
import { runTask } from "../pool/pool.ts";
import { closedBars } from "./readings.ts";

/** Goes up when it is measured otherwise: what older rules measured is not read any more. */
const RULES = 2;
/** Bars that are sent to be measured at most: as many as are looked back on. */
const SENT = 20_000;
/** Measured anew once so many bars have come, and this share of those there were: the figures move slowly. */
const ANEW = { least: 20, share: 0.01 };

export interface MarketWorth {
  /** What is known, by rung; as of the bar each says. */
  rungs: RungWorth[];
  /** Rungs that are being measured at this moment. */
  measuring: string[];
}

/** What is being measured by this process, by market and rung. */
const working = new Map<string, Promise<void>>();
/** What could not be measured, with the number of bars it was tried on: not tried again on the same. */
const failed = new LRUCache<string, number>({ max: 1_000 });

/**
 * What findings of a market's rungs were worth, as far as it is known. What is not known yet, or grew old, is measured
 * meanwhile in a process of its own: ask again. One that could not be measured is tried again when there are more bars.
 */
export async function worthOfMarket(market: Market, rungs: readonly string[]): Promise<MarketWorth> {
  const { now } = await readClock();
  const rows = await WorthRow.findAll({ where: { marketId: market.id, rung: [...rungs], rules: RULES } });
  const measuring: string[] = [];
  for (const rung of rungs) {
    const row = rows.find((one) => one.rung === rung && one.history === market.history);
    if (await measureIfDue(market, rung, row, now)) measuring.push(rung);
  }
  const known = rungs.flatMap((rung) => rows.find((row) => row.rung === rung && row.history === market.history) ?? []);
  return { rungs: known.map(({ worth }) => worth), measuring };
}

/** What is kept, and nothing is begun for it: for pages that must not wait. */
export async function keptWorth(market: Market, rungs: readonly string[]): Promise<RungWorth[]> {
  const where = { marketId: market.id, rung: [...rungs], rules: RULES, history: market.history };
  return (await WorthRow.findAll({ where })).map(({ worth }) => worth);
}

/** Whether it is being measured. */
async function measureIfDue(market: Market, rung: string, row: WorthRow | undefined, now: number): Promise<boolean> {
  const key = `${market.id} ${rung}`;
  if (working.has(key)) return true;
  const series = await seriesOf(market, rung);
  const timeframe = readTimeframe(rung);
  const calendar = calendarOf(market);
  const closed = closedBars(series, timeframe, calendar, now);
  if (closed === 0 || failed.get(key) === closed) return false;
  if (row) {
    const fresh = countAfter(series.time, row.until, closed);
    if (fresh < Math.max(ANEW.least, ANEW.share * row.worth.bars)) return false;
  }
  const { id: marketId, history, tick } = market;
  const bars = slice(series, Math.max(0, closed - SENT), closed);
  const work = runTask("measureWorth", { series: bars, timeframe, calendar: calendar.spec, tick })
    .then(async (worth) => {
      if (worth) await WorthRow.upsert({ marketId, rung, rules: RULES, history, until: worth.to, worth });
    })
    .catch((error: unknown) => {
      failed.set(key, closed);
      log.warn({ error: String(error), key }, "what findings were worth was not measured");
    })
    .finally(() => working.delete(key));
  working.set(key, work);
  return true;
}

/** Of the first `closed` bars those later than an instant, which is near their end. */
function countAfter(time: ArrayLike<number>, until: number, closed: number): number {
  let first = closed;
  while (first > 0 && time[first - 1] > until) first--;
  return closed - first;
}

/** Everything that is being measured has ended. */
export async function measured(): Promise<void> {
  await Promise.all(working.values());
}
