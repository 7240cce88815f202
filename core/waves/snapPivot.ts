import { firstAtOrAfter, lastAtOrBefore, type Series } from "#core/series/series";
import type { Pivot } from "#core/waves/wave";

/** A swing stands beyond so many bars on each side; at the right edge beyond those there are. */
const SIDE = 2;
/** Where none is near, one is looked for this many times as far. */
const FURTHER = 4;

/**
 * The swing a click means: of the highs (lows) within `reach` bars that stand beyond their two neighbours on each side
 * the highest (lowest), after the pivot before. Whether a high or a low is meant follows from the pivot before, for the
 * first one from the nearer extreme of its bar. Where there is none near, the next one further off; where there is none
 * at all, the extreme of the bar that was clicked. It lies before `until`.
 */
export function snapPivot(
  series: Series,
  click: Pivot,
  before: Pivot | undefined,
  reach: number,
  until = Infinity,
): Pivot {
  const { high, low, time } = series;
  const length = until === Infinity ? series.length : firstAtOrAfter(series, until);
  if (length === 0) return click;
  const first = before ? firstAtOrAfter(series, before.time + 1) : 0;
  const at = Math.min(length - 1, Math.max(first, lastAtOrBefore(series, click.time), 0));
  const isHigh = before
    ? click.price >= before.price
    : Math.abs(high[at] - click.price) <= Math.abs(low[at] - click.price);
  const [values, sign] = isHigh ? [high, 1] : [low, -1];
  const stands = (i: number) => {
    for (let step = 1; step <= SIDE; step++)
      if (sign * values[i - step] > sign * values[i] || sign * values[i + step] > sign * values[i]) return false;
    return true;
  };
  let best = -1;
  for (let i = Math.max(first, at - reach); i <= Math.min(length - 1, at + reach); i++)
    if ((best < 0 || sign * values[i] > sign * values[best]) && stands(i)) best = i;
  for (let off = reach + 1; best < 0 && off <= FURTHER * reach; off++)
    best = [at - off, at + off].find((i) => i >= first && i < length && stands(i)) ?? -1;
  const bar = best < 0 ? at : best;
  return { time: time[bar], price: values[bar] };
}
