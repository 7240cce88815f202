import type { Series } from "#core/series/series";
import { sma } from "#core/studies/sma";

/** How many of a group go one way at a bar; shares are of those that can be asked. */
export interface Breadth {
  time: number;
  /** Members with this bar and one before it. */
  n: number;
  advancing: number;
  declining: number;
  /** Share above their own average, of those that have one. */
  above?: number;
  /** Members beyond all of their bars before, and the highs less the lows. */
  newHighs?: number;
  newLows?: number;
  net?: number;
}

/** A close above its average by less than this share of itself is at it. */
const EQUAL = 1e-9;

/** What one member says at each of its bars. */
interface Told {
  moved: number;
  above?: boolean;
  high?: boolean;
  low?: boolean;
}

/**
 * Breadth of a group at each bar of `market`'s labels at which at least one member has a bar and one before it. A new
 * high is above every one of the `extremes` bars before. O(bars x members x extremes). (Common practice, no source.)
 */
export function breadthOf(
  market: Pick<Series, "time" | "length">,
  members: readonly Series[],
  { period, extremes }: { period: number; extremes: number },
): Breadth[] {
  const told = members.map((one) => toldBy(one, period, extremes));
  const out: Breadth[] = [];
  for (let i = 0; i < market.length; i++) {
    const time = market.time[i];
    const own = told.flatMap((of) => of.get(time) ?? []);
    if (own.length === 0) continue;
    const share = (is: (one: Told) => boolean, of = own) => of.filter(is).length / of.length;
    const averaged = own.filter(({ above }) => above !== undefined);
    const ranged = own.filter(({ high }) => high !== undefined);
    const [highs, lows] = [ranged.filter(({ high }) => high).length, ranged.filter(({ low }) => low).length];
    out.push({
      ...{
        time,
        n: own.length,
        advancing: share(({ moved }) => moved > 0),
        declining: share(({ moved }) => moved < 0),
      },
      ...(averaged.length > 0 ? { above: share(({ above }) => above === true, averaged) } : {}),
      ...(ranged.length > 0 ? { newHighs: highs, newLows: lows, net: highs - lows } : {}),
    });
  }
  return out;
}

function toldBy(series: Series, period: number, extremes: number): Map<number, Told> {
  const { time, high, low, close, length } = series;
  const average = sma(close, period);
  const out = new Map<number, Told>();
  for (let i = 1; i < length; i++) {
    const told: Told = { moved: close[i] - close[i - 1] };
    if (!Number.isNaN(average[i])) told.above = close[i] - average[i] > EQUAL * close[i];
    if (i >= extremes) {
      let [top, bottom] = [-Infinity, Infinity];
      for (let j = i - extremes; j < i; j++) {
        if (high[j] > top) top = high[j];
        if (low[j] < bottom) bottom = low[j];
      }
      [told.high, told.low] = [high[i] > top, low[i] < bottom];
    }
    out.set(time[i], told);
  }
  return out;
}
