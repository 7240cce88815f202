import { firstAtOrAfter, lastAtOrBefore, type Series } from "#core/series/series";
import type { Pivot } from "#core/waves/wave";

/** A swing stands beyond so many bars on each side; at the right edge beyond those there are. */
const SIDE = 2;

/**
 * The swing a click means: of the highs (lows) within `reach` bars that stand beyond their two neighbours on each side the
 * highest (lowest), after the pivot before. Whether a high or a low is meant follows from the pivot before, for the first
 * one from the nearer extreme of its bar. The click itself where there is none.
 */
export function snapPivot(series: Series, click: Pivot, before: Pivot | undefined, reach: number): Pivot {
  const { high, low, time, length } = series;
  const at = Math.max(0, lastAtOrBefore(series, click.time));
  const isHigh = before ? click.price >= before.price : Math.abs(high[at] - click.price) <= Math.abs(low[at] - click.price);
  const [values, sign] = isHigh ? [high, 1] : [low, -1];
  const first = before ? firstAtOrAfter(series, before.time + 1) : 0;
  let best = -1;
  for (let i = Math.max(first, at - reach); i <= Math.min(length - 1, at + reach); i++) {
    if (best >= 0 && sign * values[i] <= sign * values[best]) continue;
    let stands = true;
    for (let step = 1; step <= SIDE && stands; step++) stands = !(sign * values[i - step] > sign * values[i] || sign * values[i + step] > sign * values[i]);
    if (stands) best = i;
  }
  return best < 0 ? click : { time: time[best], price: values[best] };
}
