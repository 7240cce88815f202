import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import type { Pyramid } from "./pyramid.ts";
import { MARGIN } from "./scale.ts";
import { textWidth } from "./shapes.ts";

/** Points of the axis' text, and pixels around it: from the plot, and within a tag. */
const SIZE = 12;
const AROUND = 22;

/**
 * Pixels the price axis needs right of the plot: for the longest price the bars have, with the cross before it that
 * ends a count.
 */
export function axisRoom({ levels }: Pyramid, market: Pick<MarketFacts, "decimals">): number {
  const coarsest = levels[levels.length - 1];
  let longest = 0;
  // Lowest and highest are the longest: a price between has as many digits, or the sign of the lowest.
  for (let i = 0; i < coarsest.length; i++)
    longest = Math.max(longest, priceText(coarsest.high[i], market).length, priceText(coarsest.low[i], market).length);
  return Math.max(MARGIN.right, Math.ceil(textWidth("\u00d7 ".padEnd(longest + 2, "0"), SIZE) + AROUND));
}
