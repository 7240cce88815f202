import { createHash } from "node:crypto";
import { LRUCache } from "lru-cache";
import type { Found } from "#core/finding/found";
import { mergeFindings } from "#core/finding/merge";
import { readFrom, type FindingParams } from "#core/finding/params";
import { RungReader } from "#core/finding/reader";
import { readingOf, summaryOf, type Reading, type RungReading, type RungSummary } from "#core/finding/reading";
import { closeOfBar } from "#core/series/resample";
import { barAt, slice, type Series } from "#core/series/series";
import { nextTimes } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import type { Timeframe } from "#core/time/timeframe";
import { calendarOf } from "../bars/markets.ts";
import { seriesAsOf, seriesOf } from "../bars/series.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import type { Market } from "../database/models.ts";
import { ReadingRow } from "../database/models.ts";
import { readClock } from "../clock.ts";

/** Goes up when detectors change what they find: what was kept by older ones is not read any more. */
const DETECTORS = 9;
/** Readers that wait for the next bar of their rung. */
const MOST_READERS = 400;

interface Waiting {
  history: number;
  start: number;
  reader: RungReader;
}

const waiting = new LRUCache<string, Waiting>({ max: MOST_READERS });

export interface MarketReadings {
  rungs: RungReading[];
  /** What was found on all of them, each fact once, nearest to price first. */
  facts: Found[];
}

/** What every rung of a market says at its last closed bar. */
export async function readingsOf(
  market: Market,
  rungs: readonly string[],
  params: FindingParams,
  asOf?: number,
): Promise<MarketReadings> {
  const readings =
    asOf === undefined
      ? (await presentReadings(market, rungs, params, (await readClock()).now)).map(({ reading }) => reading)
      : await pastReadings(market, rungs, params, asOf);
  return {
    rungs: readings.map(withoutFound),
    facts: mergeFindings(
      readings.map(({ found }) => found),
      market.tick,
      readings.findLast(({ until }) => until !== undefined)?.close ?? 0,
    ),
  };
}

function withoutFound({
  rung,
  until,
  atr,
  close,
  trend,
  legs,
  labels,
  lastBar,
  barBefore,
  candle,
  candles,
  bearing,
}: Reading): RungReading {
  return { rung, until, atr, close, trend, legs, labels, lastBar, barBefore, candle, candles, bearing };
}

async function pastReadings(
  market: Market,
  rungs: readonly string[],
  params: FindingParams,
  asOf: number,
): Promise<Reading[]> {
  const out: Reading[] = [];
  for (const rung of rungs) {
    const series = await seriesAsOf(market, rung, "all", asOf);
    out.push(readingOf(readerOf(series, stretchOf(series, rung, market, params, asOf), market, params)));
    await others();
  }
  return out;
}

/** A reading and the instant at which its rung's next bar closes; at once where there is none yet to reckon from. */
export interface HeldReading {
  reading: Reading;
  validUntil: number;
}

export async function presentReadings(
  market: Market,
  rungs: readonly string[],
  params: FindingParams,
  now: number,
): Promise<HeldReading[]> {
  const key = keyOf(params);
  const { history } = market;
  const rows = await ReadingRow.findAll({ where: { marketId: market.id, rung: [...rungs], params: key } });
  // Until its next bar closes a rung says the same, unless closed bars were changed.
  const kept = new Map(
    rows
      .filter((row) => row.history === history && now < row.validUntil)
      .map((row) => [row.rung, { reading: row.reading as Reading, validUntil: row.validUntil }]),
  );
  const out: HeldReading[] = [];
  for (const rung of rungs) {
    const known = kept.get(rung);
    if (known) {
      out.push(known);
      continue;
    }
    const held = await presentReading(market, rung, params, now);
    out.push(held);
    await ReadingRow.upsert({
      marketId: market.id,
      rung,
      params: key,
      history,
      validUntil: held.validUntil,
      summary: summaryOf(held.reading),
      reading: held.reading,
    });
    await others();
  }
  return out;
}

async function presentReading(market: Market, rung: string, params: FindingParams, now: number): Promise<HeldReading> {
  const series = await seriesOf(market, rung);
  const stretch = stretchOf(series, rung, market, params, now);
  const { start, closed } = stretch;
  const key = `${market.id} ${rung} ${keyOf(params)}`;
  let known = waiting.get(key);
  // A reader goes on where it stood, unless bars it has seen were changed or its stretch has moved on.
  if (known?.history !== market.history || known.start !== start || known.start + known.reader.track.length > closed) {
    known = { history: market.history, start, reader: readerOf(series, stretch, market, params) };
    waiting.set(key, known);
  } else for (let i = start + known.reader.track.length; i < closed; i++) known.reader.push(barAt(series, i));
  return { reading: readingOf(known.reader), validUntil: nextClose(series, stretch) };
}

/** The bars of a rung that are read: those closed by an instant, as far as it is looked back. */
interface Stretch {
  timeframe: Timeframe;
  calendar: Calendar;
  start: number;
  closed: number;
}

function stretchOf(series: Series, rung: string, market: Market, { lookBack }: FindingParams, now: number): Stretch {
  const timeframe = readTimeframe(rung);
  const calendar = calendarOf(market);
  const closed = closedBars(series, timeframe, calendar, now);
  return { timeframe, calendar, start: readFrom(closed, lookBack), closed };
}

function readerOf(
  series: Series,
  { timeframe, calendar, start, closed }: Stretch,
  market: Market,
  params: FindingParams,
): RungReader {
  return new RungReader(slice(series, start, closed), timeframe, calendar, market.tick, params);
}

/** Number of bars that are closed by an instant: what is found is known at closes. */
export function closedBars(series: Series, timeframe: Timeframe, calendar: Calendar, now: number): number {
  let closed = series.length;
  while (closed > 0 && closeOfBar(series.time[closed - 1], timeframe, calendar) > now) closed--;
  return closed;
}

/** When the bar after the closed ones closes; at once where there is none yet to reckon from. */
function nextClose({ time, length }: Series, { closed, timeframe, calendar }: Stretch): number {
  if (length === 0) return 0;
  const next = closed < length ? time[closed] : nextTimes(time[length - 1], timeframe, calendar, 1)[0];
  return closeOfBar(next, timeframe, calendar);
}

/** Under which everything is kept that was found by these parameters. */
export function keyOf(params: FindingParams): string {
  return createHash("sha256")
    .update(JSON.stringify([DETECTORS, params]))
    .digest("hex")
    .slice(0, 32);
}

/** A kept summary, which holds until its rung's next bar closes. */
export interface HeldSummary {
  summary: RungSummary;
  validUntil: number;
}

/**
 * The kept summaries of many markets by market, those whose next bar has closed meanwhile too; one question to the
 * database for all of them.
 */
export async function keptSummaries(
  markets: readonly Market[],
  rungs: readonly string[],
  params: FindingParams,
): Promise<Map<string, HeldSummary[]>> {
  const rows = await ReadingRow.findAll({
    attributes: ["marketId", "rung", "history", "validUntil", "summary"],
    where: { marketId: markets.map(({ id }) => id), rung: [...rungs], params: keyOf(params) },
  });
  const histories = new Map(markets.map(({ id, history }) => [id, history]));
  const out = new Map<string, HeldSummary[]>(markets.map(({ id }) => [id, []]));
  for (const { marketId, history, summary, validUntil } of rows)
    if (histories.get(marketId) === history) out.get(marketId)?.push({ summary, validUntil });
  return out;
}

/** Readings by parameters that nobody uses any more. */
export async function forgetReadings(params: FindingParams): Promise<void> {
  await ReadingRow.destroy({ where: { params: keyOf(params) } });
}

/** Others are served between two rungs. */
function others(): Promise<void> {
  return new Promise((done) => setImmediate(done));
}
