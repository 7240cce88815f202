import type { Series } from "#core/series/series";

/** Where a member of a group stands by its return over a window of common bars. */
export interface Rank {
  name: string;
  window: number;
  /** Over the window, as a share, and less that of the market the group is held against. */
  return: number;
  excess: number;
  /** From 1, the highest return first; equal ones share a rank. */
  rank: number;
  /** Ranks risen since `ago` bars earlier; absent where that cannot be known. */
  change?: number;
}

/** Returns that differ by less than this are one. */
const EQUAL = 1e-12;

/** Closes of several markets at the labels all of them have. */
export function commonCloses(series: readonly Series[]): { time: number[]; closes: number[][] } {
  const [first, ...others] = series;
  const time: number[] = [];
  const closes: number[][] = series.map(() => []);
  const at = others.map(() => 0);
  for (let i = 0; i < first.length; i++) {
    const label = first.time[i];
    others.forEach((one, k) => {
      while (at[k] < one.length && one.time[at[k]] < label) at[k]++;
    });
    if (!others.every((one, k) => at[k] < one.length && one.time[at[k]] === label)) continue;
    time.push(label);
    closes[0].push(first.close[i]);
    others.forEach((one, k) => closes[k + 1].push(one.close[at[k]]));
  }
  return { time, closes };
}

/**
 * Members of a group by their returns over windows of common bars, against `market`: windows as asked, then by rank,
 * then by name in code units. A window longer than there are bars has no rows. (Common practice, no source.)
 */
export function ranksOf(
  market: Series,
  members: readonly { name: string; series: Series }[],
  { windows, ago }: { windows: readonly number[]; ago: number },
): { time: number; rows: Rank[] } | undefined {
  const { time, closes } = commonCloses([market, ...members.map(({ series }) => series)]);
  const last = time.length - 1;
  if (last < 0) return undefined;
  const [own, ...others] = closes;
  const rows = windows.flatMap((window): Rank[] => {
    if (window > last) return [];
    const now = others.map((column) => returnAt(column, last, window));
    const before = last - ago >= window ? others.map((column) => returnAt(column, last - ago, window)) : undefined;
    const of = returnAt(own, last, window);
    return members
      .map(({ name }, k): Rank => {
        const rank = rankOf(now, k);
        return {
          ...{ name, window, return: now[k], excess: now[k] - of, rank },
          ...(before ? { change: rankOf(before, k) - rank } : {}),
        };
      })
      .sort((a, b) => a.rank - b.rank || (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
  });
  return { time: time[last], rows };
}

const returnAt = (column: readonly number[], at: number, window: number) => column[at] / column[at - window] - 1;
const rankOf = (returns: readonly number[], k: number) =>
  1 + returns.filter((other) => other > returns[k] + EQUAL).length;
