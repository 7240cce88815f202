import { Spans, type ClosedBar } from "#core/observe/closedBar";
import { asLabel, EVER, NEVER, type Instant } from "#core/observe/instant";
import type { Layer } from "#core/series/layers";
import { firstAtOrAfter, type Series } from "#core/series/series";
import { bucketAt, labelBucket, type Bucket } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { dayNumber } from "#core/time/dates";
import { isIntraday, nominalLength, type Timeframe } from "#core/time/timeframe";

/**
 * What a market's stored bars tell, each stretch of time once, from the finest bars that cover it, in order: the bars
 * that opened at or after `after` and were closed by `until`.
 *
 * A finer resolution is told from its first bar that opens where a bar of the next coarser one opens by the calendar. A
 * coarser bar is told where no finer one opened within it. Who was told up to a bar's `to` and asks again from there on
 * is told the rest, whatever bars have arrived since for times before: nothing is told twice, and telling in parts is
 * telling at once. O(log n) to begin, then O(resolutions) a bar.
 */
export function* closedBars(
  layers: readonly Layer[],
  calendar: Calendar,
  after: Instant = EVER,
  until: Instant = NEVER,
): Generator<ClosedBar> {
  const readers = readersOf(layers, calendar);
  for (const reader of readers) reader.seek(after);
  let cursor = after;
  for (;;) {
    const next = nextOf(readers, cursor);
    if (!next) return;
    const bar = next.take();
    if (bar.to > until) return;
    cursor = bar.to;
    yield bar;
  }
}

/** The bar that opens first; of two that open together the finer. */
function nextOf(readers: readonly Reader[], cursor: Instant): Reader | undefined {
  let next: Reader | undefined;
  // From the finest up, so that each knows what is told within its bars.
  for (const reader of readers) {
    reader.skip(cursor);
    if (reader.from < (next?.from ?? Infinity)) next = reader;
  }
  return next;
}

/** From the finest to the coarsest, each with those below it. */
function readersOf(layers: readonly Layer[], calendar: Calendar): Reader[] {
  // Also those without a bar yet: where a finer one begins to be told must not hang on when a coarser bar closed.
  const sorted = [...layers].sort((a, b) => nominalLength(b.base) - nominalLength(a.base));
  const out: Reader[] = [];
  sorted.forEach((layer, i) => out.unshift(new Reader(layer, sorted[i - 1], calendar)));
  out.forEach((reader, i) => (reader.finer = out.slice(0, i)));
  return out;
}

/** One resolution, read in order. */
class Reader {
  finer: readonly Reader[] = [];
  from = NEVER;
  private readonly series: Series;
  private readonly spans: Spans;
  private readonly first: number;
  private i: number;
  /** The bar that was last found to have no finer one within it. */
  private alone = -1;

  constructor(
    { base, series }: Layer,
    coarser: Layer | undefined,
    private readonly calendar: Calendar,
  ) {
    this.series = series;
    this.spans = new Spans(base, calendar);
    this.first = coarser ? this.firstWithin(coarser.base) : 0;
    this.i = this.first;
    this.look();
  }

  /** The first bar that opens where a bar of `coarser` opens. */
  private firstWithin(coarser: Timeframe): number {
    const { series, spans } = this;
    for (let i = 0; i < series.length; i++) {
      const label = series.time[i];
      if (bucketOfTold(label, spans.base, coarser, this.calendar).from === spans.of(label).from) return i;
    }
    return series.length;
  }

  private look(): void {
    this.from = this.i < this.series.length ? this.spans.of(this.series.time[this.i]).from : NEVER;
  }

  /** Stands at the first bar that may open at or after an instant. */
  seek(after: Instant): void {
    if (after === EVER) return;
    // A bar of a day and longer opens within two days of its label, wherever its market is.
    const label = isIntraday(this.spans.base) ? after : after - 3 * 86_400_000 - nominalLength(this.spans.base);
    this.i = Math.max(this.first, firstAtOrAfter(this.series, label));
    this.look();
  }

  /** Passes over what opened before an instant, and over bars within which finer ones are told. */
  skip(cursor: Instant): void {
    while (this.i < this.series.length && (this.from < cursor || this.isToldFiner())) {
      this.i++;
      this.look();
    }
  }

  private isToldFiner(): boolean {
    if (this.alone === this.i) return false;
    if (this.finer.some((one) => one.tellsWithin(this))) return true;
    this.alone = this.i;
    return false;
  }

  /** Whether a bar of this resolution opened within the bar that a coarser one stands at. */
  private tellsWithin(coarser: Reader): boolean {
    const label = coarser.series.time[coarser.i];
    const { from, to } = coarser.spans.of(label);
    const day = isIntraday(this.spans.base) ? from : label;
    for (let i = Math.max(this.first, firstAtOrAfter(this.series, day)); i < this.series.length; i++) {
      const span = this.spans.of(this.series.time[i]);
      if (span.from >= to) break;
      if (span.from >= from) return true;
    }
    return false;
  }

  take(): ClosedBar {
    const { series, i, spans } = this;
    const bar: ClosedBar = {
      time: asLabel(series.time[i]),
      open: series.open[i],
      high: series.high[i],
      low: series.low[i],
      close: series.close[i],
      volume: series.volume[i],
      ...spans.of(series.time[i]),
      base: spans.base,
    };
    this.i++;
    this.look();
    return bar;
  }
}

/** The bucket of `timeframe` that a bar of `base` belongs to: by its date where it has one, else by its opening. */
export function bucketOfTold(label: number, base: Timeframe, timeframe: Timeframe, calendar: Calendar): Bucket {
  return isIntraday(base) || isIntraday(timeframe)
    ? bucketAt(label, timeframe, calendar)
    : labelBucket(dayNumber(label), timeframe, calendar);
}
