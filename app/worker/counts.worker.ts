import { expose } from "comlink";
import { fromBuffer } from "#core/series/series";
import { SpanCounter, type Span, type SpanOptions } from "#core/waves/spans";
import { countWaves, type CountingNews, type CountingOptions } from "#core/waves/proposals";

/** Milliseconds of work between two looks for a cancellation. */
const BREATH = 10;

const cancelled = new Set<number>();
/** Lets messages in: a timer would wait longer than the work. */
const breathe = () =>
  new Promise<void>((go) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => (port1.close(), go());
    port2.postMessage(0);
  });

const worker = {
  /** Counts the waves of bars and tells what it has come to, until it is done or cancelled. */
  async count(
    id: number,
    bars: Float64Array,
    options: CountingOptions,
    tell: (news: CountingNews) => void,
  ): Promise<void> {
    let told = performance.now();
    for (const news of countWaves(fromBuffer(bars), options)) {
      const now = performance.now();
      if (!news.proposals && now - told < BREATH) continue;
      told = now;
      tell(news);
      await breathe();
      if (cancelled.delete(id)) return;
    }
  },
  /** The spans of bars at their last one. It cannot be stopped on its way: the worker is. */
  spans(bars: Float64Array, options: SpanOptions): Span[] {
    const series = fromBuffer(bars);
    return series.length === 0 ? [] : new SpanCounter(series, options).at(series.length - 1);
  },
  cancel(id: number): void {
    cancelled.add(id);
  },
};

export type CountsWorker = typeof worker;
expose(worker);
