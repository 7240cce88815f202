import { Heap } from "#core/levels/heap";
import type { Series } from "#core/series/series";

export type GapState = "untouched" | "partly" | "filled";

/** A fair value gap: the prices between the first and the third of three candles that neither of the two traded at. */
export interface Gap {
  /** Index of the third candle, at whose close it is known. */
  at: number;
  direction: "up" | "down";
  bottom: number;
  top: number;
  state: GapState;
  /** Deepest share that later wicks worked through from the near edge, 0 to 1. */
  filledShare: number;
  /** Indices of the first bar whose wick was strictly inside, and of the one that reached the far edge. */
  firstTouch?: number;
  filledAt?: number;
}

/**
 * Every fair value gap of a series and what later bars did to it (common practice, no source). Gaps wait in heaps by the
 * price that changes them, so a bar costs O(log gaps) for each it changes and looks at no other.
 */
export function gaps(series: Series): Gap[] {
  const { high, low, length } = series;
  const out: Gap[] = [];
  // Up gaps are met from above: their keys are turned, so that the highest comes first.
  const waiting = { up: new Heap<Gap>(), down: new Heap<Gap>() };
  const touched = { up: new Heap<Gap>(), down: new Heap<Gap>() };
  const meet = (direction: Gap["direction"], wick: number, i: number) => {
    while (waiting[direction].least < wick) {
      const gap = waiting[direction].pop();
      if (!gap) break;
      gap.state = "partly";
      gap.firstTouch = i;
      touched[direction].push(direction === "up" ? -gap.bottom : gap.top, gap);
    }
    while (touched[direction].least <= wick) {
      const gap = touched[direction].pop();
      if (!gap) break;
      gap.state = "filled";
      gap.filledShare = 1;
      gap.filledAt = i;
    }
  };
  for (let i = 0; i < length; i++) {
    meet("up", -low[i], i);
    meet("down", high[i], i);
    if (i < 2) continue;
    const found = gapAt(series, i);
    if (!found) continue;
    out.push(found);
    waiting[found.direction].push(found.direction === "up" ? -found.top : found.bottom, found);
  }
  return withShares(out, series);
}

function gapAt({ high, low }: Series, at: number): Gap | undefined {
  const fresh = { at, state: "untouched" as const, filledShare: 0 };
  if (low[at] > high[at - 2]) return { ...fresh, direction: "up", bottom: high[at - 2], top: low[at] };
  if (high[at] < low[at - 2]) return { ...fresh, direction: "down", bottom: high[at], top: low[at - 2] };
  return undefined;
}

/** How deep the gaps that were touched and not filled have been worked into: by the extreme of all bars since. */
function withShares(found: Gap[], { high, low, length }: Series): Gap[] {
  if (!found.some(({ state }) => state === "partly")) return found;
  const [lowest, highest] = [Float64Array.from(low), Float64Array.from(high)];
  for (let i = length - 2; i >= 0; i--) {
    lowest[i] = Math.min(lowest[i], lowest[i + 1]);
    highest[i] = Math.max(highest[i], highest[i + 1]);
  }
  for (const gap of found) {
    if (gap.state !== "partly" || gap.firstTouch === undefined) continue;
    const { top, bottom, firstTouch } = gap;
    gap.filledShare = (gap.direction === "up" ? top - lowest[firstTouch] : highest[firstTouch] - bottom) / (top - bottom);
  }
  return found;
}
