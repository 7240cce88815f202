import { allocate, barAt, COLUMNS, setBar, slice, type Series } from "#core/series/series";

export interface Merge {
  series: Series;
  /** Times only the incoming series had, times both had alike, times both had with other values. */
  added: number;
  same: number;
  differing: number;
  /** First time at which the result is not what was stored; Infinity when nothing changed. */
  changedFrom: number;
}

/** Puts two series together by time. Where both have a bar with other values `prefer` says which stands. O(n + m). */
export function merge(stored: Series, incoming: Series, prefer: "stored" | "incoming"): Merge {
  const out = allocate(stored.length + incoming.length);
  const result = { added: 0, same: 0, differing: 0, changedFrom: Infinity };
  let [i, j, n] = [0, 0, 0];
  const change = (time: number) => (result.changedFrom = Math.min(result.changedFrom, time));
  while (i < stored.length || j < incoming.length) {
    const a = i < stored.length ? stored.time[i] : Infinity;
    const b = j < incoming.length ? incoming.time[j] : Infinity;
    if (a < b) setBar(out, n, barAt(stored, i++));
    else if (b < a) {
      setBar(out, n, barAt(incoming, j++));
      result.added++;
      change(b);
    } else {
      const alike = COLUMNS.every((name) => stored[name][i] === incoming[name][j]);
      const takeIncoming = !alike && prefer === "incoming";
      if (alike) result.same++;
      else result.differing++;
      if (takeIncoming) change(b);
      setBar(out, n, barAt(takeIncoming ? incoming : stored, takeIncoming ? j : i));
      i++;
      j++;
    }
    n++;
  }
  return { ...result, series: slice(out, 0, n) };
}
