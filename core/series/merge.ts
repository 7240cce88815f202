import { allocate, barAt, COLUMNS, setBar, slice, type Series } from "#core/series/series";

export interface Merge {
  series: Series;
  /** Times only the incoming series had, times both had alike, times both had with other values. */
  added: number;
  same: number;
  differing: number;
  /** First time at which the result is not what was stored; Infinity when nothing changed. */
  changedFrom: number;
  /** Stretches of bars in a row that only the incoming series had: first and last time, pair after pair. */
  addedRuns: Float64Array;
  /** Stored bars whose place an incoming one took. */
  replaced: Series;
}

/** Puts two series together by time. Where both have a bar with other values `prefer` says which stands. O(n + m). */
export function merge(stored: Series, incoming: Series, prefer: "stored" | "incoming"): Merge {
  const out = allocate(stored.length + incoming.length);
  const result = { added: 0, same: 0, differing: 0, changedFrom: Infinity };
  const runs: number[] = [];
  const replaced: number[] = [];
  let [i, j, n] = [0, 0, 0];
  let running = false;
  while (i < stored.length || j < incoming.length) {
    const a = i < stored.length ? stored.time[i] : Infinity;
    const b = j < incoming.length ? incoming.time[j] : Infinity;
    if (b < a) {
      setBar(out, n++, barAt(incoming, j++));
      result.added++;
      if (running) runs[runs.length - 1] = b;
      else runs.push(b, b);
      running = true;
      if (b < result.changedFrom) result.changedFrom = b;
      continue;
    }
    running = false;
    if (a < b) {
      setBar(out, n++, barAt(stored, i++));
      continue;
    }
    const alike = COLUMNS.every((name) => stored[name][i] === incoming[name][j]);
    const takeIncoming = !alike && prefer === "incoming";
    if (alike) result.same++;
    else result.differing++;
    if (takeIncoming) {
      replaced.push(i);
      if (b < result.changedFrom) result.changedFrom = b;
    }
    setBar(out, n++, barAt(takeIncoming ? incoming : stored, takeIncoming ? j : i));
    i++;
    j++;
  }
  return { ...result, series: slice(out, 0, n), addedRuns: Float64Array.from(runs), replaced: pick(stored, replaced) };
}

function pick(series: Series, indices: readonly number[]): Series {
  const out = allocate(indices.length);
  indices.forEach((i, n) => setBar(out, n, barAt(series, i)));
  return out;
}

/** Takes what a merge had added out again and puts what it had replaced back. O(n). */
export function unmerge(series: Series, { addedRuns, replaced }: Pick<Merge, "addedRuns" | "replaced">): Series {
  const out = allocate(series.length);
  let [n, run, old] = [0, 0, 0];
  for (let i = 0; i < series.length; i++) {
    const time = series.time[i];
    while (run < addedRuns.length && addedRuns[run + 1] < time) run += 2;
    if (run < addedRuns.length && time >= addedRuns[run]) continue;
    while (old < replaced.length && replaced.time[old] < time) old++;
    const back = old < replaced.length && replaced.time[old] === time;
    setBar(out, n++, back ? barAt(replaced, old) : barAt(series, i));
  }
  return slice(out, 0, n);
}
