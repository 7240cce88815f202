import type { Series } from "#core/series/series";
import { swings, type Swing } from "#core/structure/swings";

/** What price and an oscillator said at two swings of one side. */
export interface Divergence {
  /** The second swing's bar, and that at whose close it is known. */
  time: number;
  kind: "regular" | "hidden";
  direction: "up" | "down";
  from: { time: number; price: number; value: number };
  to: { time: number; price: number; value: number };
  bars: number;
  knownAt: number;
}

/** Values of an oscillator this near are the same. */
const equal = (x: number, y: number) => Math.abs(x - y) <= 1e-9 * Math.max(1, Math.abs(x), Math.abs(y));

/**
 * Swings (strict on both sides, k bars) against those directly before them on their side, at most `longest` bars back,
 * where price and oscillator moved apart (common practice, no source): a lower low with a higher value, or a higher
 * high with a lower one, is regular; a higher low with a lower value, or a lower high with a higher one, hidden. In
 * order of time, up before down. Prices are compared in whole ticks.
 */
export function divergencesOf(
  series: Series,
  values: Float64Array,
  { k, longest, tick }: { k: number; longest: number; tick: number },
): Divergence[] {
  const found = swings(series, k, "none");
  const of = (side: "low" | "high") => {
    const own = found.filter((swing) => swing.side === side);
    return own.slice(1).flatMap((to, n) => apart(own[n], to));
  };
  return [...of("low"), ...of("high")].sort(
    (a, b) => a.time - b.time || Number(a.direction === "down") - Number(b.direction === "down"),
  );

  function apart(from: Swing, to: Swing): Divergence[] {
    const [before, now] = [values[from.index], values[to.index]];
    const moved = Math.sign(Math.round((to.price - from.price) / tick));
    const bars = to.index - from.index;
    if (bars > longest || Number.isNaN(before) || Number.isNaN(now) || moved === 0 || equal(before, now)) return [];
    const felt = now > before ? 1 : -1;
    if (moved === felt) return [];
    const isLow = to.side === "low";
    return [
      {
        time: to.time,
        kind: moved < 0 === isLow ? "regular" : "hidden",
        direction: isLow ? "up" : "down",
        from: { time: from.time, price: from.price, value: before },
        to: { time: to.time, price: to.price, value: now },
        bars,
        knownAt: series.time[to.knownAt],
      },
    ];
  }
}
