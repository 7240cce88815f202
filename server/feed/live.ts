import { EventEmitter } from "node:events";
import type { Hours } from "#core/series/hours";
import { firstAtOrAfter, slice } from "#core/series/series";
import { newestFiring } from "../alerts/alerts.ts";
import { Market } from "../database/models.ts";
import { encode } from "../bars/chunks.ts";
import { seriesOf } from "../bars/series.ts";
import { log } from "../log.ts";
import { readClock, type MarketClock } from "../clock.ts";

/** A chart that is open somewhere. */
export interface OpenChart {
  market: string;
  rung: string;
  hours: Hours;
}

/** What one open chart is told: the bars of its rung that are new or still being made. */
export interface ChartMessage extends OpenChart {
  revision: number;
  /** Changes when bars that had been closed were changed: what a chart has loaded is then of no use. */
  history: number;
  /** Columns of the changed bars as base64 of doubles. */
  bars: string;
}

/**
 * What an open page is told: the clock, its charts that have news, and the markets' counts of changes of their marks.
 */
export interface LiveMessage extends MarketClock {
  charts: ChartMessage[];
  marked: Record<string, number>;
  /** Number of the newest firing of an alert, of anybody's. */
  fired: number;
}

/**
 * One look at the database every third of a second for all open charts of this process together: revisions and the
 * clock. Nothing is passed from the feed in memory, so it may run in another process.
 */
class Watch extends EventEmitter {
  private readers = 0;
  private timer: NodeJS.Timeout | undefined;
  private seen = "";

  join(listener: () => void): () => void {
    this.on("change", listener);
    if (++this.readers === 1) this.look();
    return () => {
      this.off("change", listener);
      if (--this.readers === 0) clearTimeout(this.timer);
    };
  }

  private look = async (): Promise<void> => {
    try {
      const [markets, clock, fired] = await Promise.all([
        Market.findAll({ attributes: ["id", "revision", "marked"], raw: true }),
        readClock(),
        newestFiring(),
      ]);
      const now = JSON.stringify([markets, clock.speed, Math.floor(clock.now / 1000), fired]);
      if (now !== this.seen) this.emit("change");
      this.seen = now;
    } catch (error) {
      log.warn({ error: String(error) }, "the live watch could not look");
    }
    if (this.readers > 0) this.timer = setTimeout(this.look, 330);
  };
}

const watch = new Watch();
watch.setMaxListeners(0);

/** How far a chart has been told. */
interface Told {
  revision: number;
  /** Time of the last bar it knows: it may have been unfinished. */
  from: number;
}

/** Messages for the charts of one page, until `signal` ends; each chart is told its last bar at once. */
export async function* liveMessages(charts: readonly OpenChart[], signal: AbortSignal): AsyncGenerator<LiveMessage> {
  let wake = () => {};
  let pending = true;
  const leave = watch.join(() => {
    pending = true;
    wake();
  });
  signal.addEventListener("abort", () => wake(), { once: true });
  const told = new Map<OpenChart, Told>();
  const marked: Record<string, number> = {};
  try {
    while (!signal.aborted) {
      if (!pending) await new Promise<void>((resolve) => (wake = resolve));
      if (signal.aborted) return;
      pending = false;
      const clock = await readClock();
      const markets = await Market.findAll({ where: { id: charts.map(({ market }) => market) } });
      const message: LiveMessage = { ...clock, charts: [], marked: {}, fired: await newestFiring() };
      for (const market of markets) {
        if (marked[market.id] !== market.marked) message.marked[market.id] = marked[market.id] = market.marked;
        for (const chart of charts.filter((one) => one.market === market.id)) {
          const before = told.get(chart);
          if (before?.revision === market.revision) continue;
          const news = await newsOf(chart, market, before);
          told.set(chart, news.told);
          message.charts.push(news.message);
        }
      }
      yield message;
    }
  } finally {
    leave();
  }
}

async function newsOf(
  chart: OpenChart,
  market: Market,
  before: Told | undefined,
): Promise<{ message: ChartMessage; told: Told }> {
  const { revision, history } = market;
  const series = await seriesOf(market, chart.rung, chart.hours);
  const first = before ? firstAtOrAfter(series, before.from) : Math.max(0, series.length - 1);
  const bars = encode(slice(series, first, series.length)).toString("base64");
  const from = series.length > 0 ? series.time[series.length - 1] : -Infinity;
  return { message: { ...chart, revision, history, bars }, told: { revision, from } };
}
