import { allocate, concat, slice, type Series } from "#core/series/series";
import { bucketAt, labelBucket } from "#core/time/boundaries";
import type { Calendar } from "#core/time/calendar";
import { DAY, dayNumber } from "#core/time/dates";
import { isIntraday, labelOf, nominalLength, type Timeframe } from "#core/time/timeframe";

/**
 * Bars of `timeframe` put together from finer bars (`base` must divide `timeframe`). Opens with the first, closes
 * with the last, extremes over all, volume summed. A bar without base bars does not exist; the last bar may be
 * unfinished. O(n): a bucket is looked up once and then kept until a bar leaves it.
 */
export function resample(series: Series, base: Timeframe, timeframe: Timeframe, calendar: Calendar): Series {
  // Bars of the very length are what they are, wherever their seller cut them.
  if (isIntraday(base) && nominalLength(base) === nominalLength(timeframe)) return series;
  let out = allocate(Math.min(series.length, 1024));
  const fromDates = !isIntraday(base);
  let n = -1;
  let label = NaN;
  let until = -Infinity;
  for (let i = 0; i < series.length; i++) {
    const time = series.time[i];
    if (time >= until) {
      if (fromDates) {
        const day = dayNumber(time);
        const next = labelOf(day, timeframe) * DAY;
        until = time + DAY;
        if (next !== label) out = begin(out, ++n, (label = next));
      } else {
        const bucket = bucketAt(time, timeframe, calendar);
        until = bucket.to;
        if (bucket.time !== label) out = begin(out, ++n, (label = bucket.time));
      }
    }
    if (Number.isNaN(out.open[n])) {
      out.open[n] = series.open[i];
      out.high[n] = series.high[i];
      out.low[n] = series.low[i];
    } else {
      if (series.high[i] > out.high[n]) out.high[n] = series.high[i];
      if (series.low[i] < out.low[n]) out.low[n] = series.low[i];
    }
    out.close[n] = series.close[i];
    out.volume[n] += series.volume[i];
  }
  return slice(out, 0, n + 1);
}

/**
 * Room for bar `n`, which begins at `time`; doubled when it is used up, so that a year's bars take no room of minutes.
 */
function begin(full: Series, n: number, time: number): Series {
  const out = n < full.length ? full : concat([full, allocate(Math.max(1, full.length))]);
  out.time[n] = time;
  out.open[n] = NaN;
  return out;
}

/** When the bar at `time` of `timeframe` is closed and what it says is known (ms UTC). */
export function closeOfBar(time: number, timeframe: Timeframe, calendar: Calendar): number {
  if (isIntraday(timeframe)) return bucketAt(time, timeframe, calendar).to;
  const day = dayNumber(time);
  const first = calendar.trades(day) ? day : calendar.nextTradingDate(day);
  return labelBucket(labelOf(first, timeframe) * DAY === time ? first : day, timeframe, calendar).to;
}
