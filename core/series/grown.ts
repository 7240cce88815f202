import { COLUMNS, firstAtOrAfter, slice, type Column, type Series } from "#core/series/series";

/** Columns that were laid out with room behind them, and how many bars have been written there by anybody. */
const written = new WeakMap<Float64Array, { bars: number }>();
const rooms = new WeakMap<Series, { columns: Record<Column, Float64Array> }>();

/**
 * A series with bars put at its end, in the place of those at the same times and later. Where they only go on, they are
 * written into room behind it and nothing is copied: who holds the shorter series sees no change, for it stays as long
 * as it was. O(bars) then, otherwise O(n), with room for an eighth more. With `over` also bars that say something else
 * are written in their place: only for who alone holds the shorter series.
 */
export function grown(series: Series, bars: Series, over = false): Series {
  if (bars.length === 0) return series;
  const keep = firstAtOrAfter(series, bars.time[0]);
  const overlap = series.length - keep;
  const room = rooms.get(series);
  const isSame = overlap <= bars.length && (over || sameBars(series, keep, bars, overlap));
  const length = keep + bars.length;
  const used = room && written.get(room.columns.time);
  if (room && used && isSame && used.bars === series.length && length <= room.columns.time.length) {
    used.bars = length;
    return over ? laid(room.columns, bars, 0, keep, length) : laid(room.columns, bars, overlap, series.length, length);
  }
  const capacity = Math.ceil(length * 1.125) + 64;
  const columns = Object.fromEntries(
    COLUMNS.map((name) => {
      const column = new Float64Array(capacity);
      column.set(series[name].subarray(0, keep));
      return [name, column];
    }),
  ) as Record<Column, Float64Array>;
  written.set(columns.time, { bars: length });
  return laid(columns, bars, 0, keep, length);
}

/** Writes bars from `first` on behind the first `at` ones, and gives all of them as a series. */
function laid(columns: Record<Column, Float64Array>, bars: Series, first: number, at: number, length: number): Series {
  for (const name of COLUMNS) columns[name].set(bars[name].subarray(first, bars.length), at);
  const series = slice({ length: columns.time.length, ...columns }, 0, length);
  rooms.set(series, { columns });
  return series;
}

function sameBars(series: Series, from: number, bars: Series, count: number): boolean {
  for (let i = 0; i < count; i++)
    for (const name of COLUMNS) if (series[name][from + i] !== bars[name][i]) return false;
  return true;
}
