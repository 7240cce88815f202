import { slice, type Series } from "#core/series/series";
import { isSameCount, reachedBy } from "#core/waves/spanCounts";
import { SpanCounter, SPANNING, type Span } from "#core/waves/spans";

/** How long the first count of the whole view lived: bars walked, and changes that no price had forced. */
export interface Life {
  walked: number;
  changes: number;
  /** Median bars, of a life that ends at random at this rate; all that were walked where it never did. */
  median: number;
  spans: Span[];
}

/** Walks the last bars of a series. */
export function lifeOf(series: Series, last: number, degrees = 2): Life {
  const counter = new SpanCounter(series, { ...SPANNING, degrees, spans: 1 });
  let changes = 0;
  const spans: Span[] = [];
  for (let i = Math.max(0, series.length - last); i < series.length; i++) {
    const [span] = counter.at(i);
    const before = spans.at(-1)?.counts[0];
    const now = span.counts[0];
    if (before && !(now && isSameCount(before.root, now.root)) && !reachedBy(before.kill, series, i)) changes++;
    spans.push(span);
  }
  return { walked: spans.length, changes, median: (Math.LN2 * spans.length) / Math.max(1, changes), spans };
}

export const upTo = (series: Series, length: number): Series => slice(series, 0, length);
