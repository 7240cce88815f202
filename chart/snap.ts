import type { Anchor } from "#core/marks/kind";
import type { Series } from "#core/series/series";
import { timeOf } from "./picture.ts";
import type { Scale } from "./scale.ts";
import { toTick } from "#core/series/tick";

export interface SnapOptions {
  /** Bars looked at on each side of the pointer, and how near in pixels a price must be. */
  bars: number;
  pixels: number;
  tick: number;
  decimals: number;
}

export type Snapped = Anchor & { on?: "open" | "high" | "low" | "close" };

const PRICES = ["high", "low", "open", "close"] as const;

/**
 * The anchor a pointer means: the nearest open, high, low or close of the bars about it, or, when none is near, the
 * bar under it at the price under it, on the tick grid.
 */
export function snap(
  x: number,
  y: number,
  series: Series,
  future: readonly number[],
  scale: Scale,
  options: SnapOptions,
): Snapped {
  const middle = Math.round(scale.index(x));
  let best = options.pixels;
  let found: Snapped | undefined;
  for (let i = Math.max(0, middle - options.bars); i <= Math.min(series.length - 1, middle + options.bars); i++)
    for (const on of PRICES) {
      const distance = Math.hypot(scale.x(i) - x, scale.y(series[on][i]) - y);
      if (distance < best) {
        best = distance;
        found = { time: series.time[i], price: series[on][i], on };
      }
    }
  return (
    found ?? { time: timeOf(series, future, middle), price: toTick(scale.price(y), options.tick, options.decimals) }
  );
}
