import type { Series } from "#core/series/series";
import type { Bars } from "#core/studies/study";

/** The close of another market at a bar's time, where it has a bar of that very time; bars are asked in order. */
export function closeBeside(other: Series): (time: number) => number | undefined {
  let at = 0;
  return (time) => {
    while (at < other.length && other.time[at] < time) at++;
    return at < other.length && other.time[at] === time ? other.close[at] : undefined;
  };
}

/** Simple returns of both over consecutive common bars; `undefined` where there is no pair of them. */
export function returnsBeside(other: Series): (bars: Bars, i: number) => readonly [number, number] | undefined {
  const beside = closeBeside(other);
  let before: readonly [number, number] | undefined;
  return (bars, i) => {
    const close = beside(bars.time[i]);
    if (close === undefined) return undefined;
    const last = before;
    before = [bars.close[i], close];
    return last && ([bars.close[i] / last[0] - 1, close / last[1] - 1] as const);
  };
}
