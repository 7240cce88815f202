import { slice, type Series } from "#core/series/series";
import { degreeOfSpan, type Degree } from "#core/waves/degrees";
import { distinct, standing, type SpanCount } from "#core/waves/odds";
import { countsFrom, isStanding, reachedBy } from "#core/waves/spanCounts";
import { turnsInLogs, type Turns } from "#core/waves/turns";

/** A stretch of bars with its best distinct counts. */
export interface Span {
  /** Indices of its first and last bar. */
  from: number;
  to: number;
  /** Of the roots of its counts, by how long it lasted. */
  degree: Degree;
  /** Odds that none of the counts holds. */
  none: number;
  counts: SpanCount[];
  /** Why no count of the whole view covers it, where none does. */
  why?: string;
}

export interface SpanOptions {
  /** Degrees a count is told down to, its root's included. */
  degrees: number;
  /** Counts of a span at most, and spans at most, the whole view among them. */
  best: number;
  spans: number;
}

export const SPANNING: SpanOptions = { degrees: 2, best: 5, spans: 3 };

/** Every so many bars all counts are worked out anew; between that they are followed, and go where price ends them. */
const ANEW = 4;
/**
 * The count that stands first is held to from one working out to the next; what stood before the last multiple of so
 * many bars, and so many multiples more, is forgotten.
 */
const FORGOTTEN = 32;
const MEMORY = 1;
/** Turns that spans are cut at, and turns a span has at least. */
const TURNS = 60;
const LEAST_TURNS = 5;

/** What is kept of a span while bars are added. */
interface Held {
  from: number;
  /** Price of the turn it begins at; none of the whole view. */
  start: number | undefined;
  /** Its counts as they were worked out, without those that price has ended since. */
  counts: SpanCount[];
  covers: boolean;
}

/**
 * Counts of several spans of a series as it stood at any of its bars: the whole view first, then from the last turn of
 * each smaller degree on, each with its best distinct counts, in logs of prices. What a bar is told is a function of
 * the bars up to it: counts are worked out anew at every fourth bar and when price has ended the first of a span, and
 * the count that stood first is held to unless another explains the turns clearly better. Cost: some seconds for the
 * first bar asked for, a tenth of one for each after it.
 */
export class SpanCounter {
  private readonly worked = new Map<string, Held[]>();

  constructor(
    private readonly series: Series,
    private readonly options: SpanOptions = SPANNING,
  ) {}

  /** The spans as they stood at the close of bar `i`. */
  at(i: number): Span[] {
    return this.heldAt(i, MEMORY).map((held, n) => this.told(held, i, n === 0));
  }

  /** The spans that were held at bar `i`; `memory` says how far back the count that stood first may have come. */
  private heldAt(i: number, memory: number): Held[] {
    const key = `${i} ${memory}`;
    let held = this.worked.get(key);
    if (held) return held;
    if (i % ANEW === 0 || i < ANEW) {
      const left = i % FORGOTTEN === 0 ? memory - 1 : memory;
      held = this.anew(i, i >= ANEW && left >= 0 ? this.heldAt(i - ANEW, left) : []);
    } else held = this.heldAt(i - 1, memory).map((one) => this.followed(one, i));
    this.worked.set(key, held);
    return held;
  }

  /** What is left of a span's counts after bar `i`; worked out anew where its first one has ended. */
  private followed(held: Held, i: number): Held {
    const { counts } = standing(held.counts, (kill) => reachedBy(kill, this.series, i), this.series.close[i]);
    return counts.length > 0 && counts[0].root === held.counts[0].root
      ? { ...held, counts }
      : this.workedOut(held, i, []);
  }

  private workedOut({ from, start }: Pick<Held, "from" | "start">, i: number, before: readonly Held[]): Held {
    const first = before.find((one) => one.from === from)?.counts.at(0);
    const candidates = countsFrom(slice(this.series, from, i + 1), {
      degrees: this.options.degrees,
      start,
      first: first && isStanding(first, this.series, i) ? first : undefined,
    });
    const counts = distinct(candidates, this.options.best);
    const covers = candidates.find(({ root }) => root === counts.at(0)?.root)?.covers ?? false;
    return { from, start, counts, covers };
  }

  private anew(i: number, before: readonly Held[]): Held[] {
    const whole = this.workedOut({ from: 0, start: undefined }, i, before);
    const out = [whole];
    for (const turn of lastTurns(turnsInLogs(slice(this.series, 0, i + 1), TURNS))) {
      if (out.length >= this.options.spans) break;
      const span = this.workedOut(turn, i, before);
      if (span.counts.length > 0) out.push(span);
    }
    return out;
  }

  private told(held: Held, i: number, isWhole: boolean): Span {
    const { series } = this;
    const span: Span = {
      ...{ from: held.from, to: i, degree: degreeOfSpan(series.time[i] - series.time[held.from]) },
      ...standing(held.counts, () => false, series.close[i]),
    };
    if (isWhole && !held.covers)
      span.why =
        held.counts.length === 0
          ? "No count of the whole view keeps all rules."
          : "No count that keeps all rules begins in the first fifth of the bars and covers four fifths of the view.";
    return span;
  }
}

/**
 * Bars of the last turns of ever smaller degrees: each more prominent than all after it, or as prominent, as both ends
 * of one leg are. The largest, which is the earliest, first.
 */
function lastTurns({ index, size, price }: Turns): { from: number; start: number }[] {
  const out: { from: number; start: number }[] = [];
  let most = 0;
  for (let n = size.length - LEAST_TURNS; n > 0; n--) {
    if (size[n] < most) continue;
    most = size[n];
    if (index[n] > 0) out.unshift({ from: index[n], start: price[n] });
  }
  return out;
}
