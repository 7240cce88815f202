import { EventEmitter } from "node:events";
import type { Hours } from "#core/series/hours";
import { firstAtOrAfter, slice } from "#core/series/series";
import { Market } from "../database/models.ts";
import { encode } from "../bars/chunks.ts";
import { seriesOf } from "../bars/series.ts";
import { log } from "../log.ts";
import { readClock, type MarketClock } from "./clock.ts";

/** What an open chart is told: the clock, and the bars of its rung that are new or still being made. */
export interface LiveMessage extends MarketClock {
  revision?: number;
  /** Changes when bars that had been closed were changed: what a chart has loaded is then of no use. */
  history?: number;
  /** Columns of the changed bars as base64 of doubles; absent when none changed. */
  bars?: string;
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
      const [markets, clock] = await Promise.all([Market.findAll({ attributes: ["id", "revision"], raw: true }), readClock()]);
      const now = JSON.stringify([markets, clock.speed, Math.floor(clock.now / 1000)]);
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

/** Messages for one chart, until `signal` ends. */
export async function* liveMessages(marketId: string, rung: string, signal: AbortSignal, hours: Hours = "all"): AsyncGenerator<LiveMessage> {
  let wake = () => {};
  let pending = true;
  const leave = watch.join(() => {
    pending = true;
    wake();
  });
  signal.addEventListener("abort", () => wake(), { once: true });
  let revision = -1;
  let from = -Infinity;
  try {
    while (!signal.aborted) {
      if (!pending) await new Promise<void>((resolve) => (wake = resolve));
      if (signal.aborted) return;
      pending = false;
      const clock = await readClock();
      const market = marketId ? await Market.findByPk(marketId) : null;
      if (!market || market.revision === revision) {
        yield clock;
        continue;
      }
      const series = await seriesOf(market, rung, hours);
      const first = revision < 0 ? Math.max(0, series.length - 1) : firstAtOrAfter(series, from);
      const changed = slice(series, first, series.length);
      revision = market.revision;
      from = series.length > 0 ? series.time[series.length - 1] : -Infinity;
      yield { ...clock, revision, history: market.history, bars: encode(changed).toString("base64") };
    }
  } finally {
    leave();
  }
}
