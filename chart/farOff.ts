import type { Life, Mark, MarketFacts, PriceBand } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import { bandsOf } from "./bands.ts";
import type { Scale } from "./scale.ts";
import type { Shape } from "./shapes.ts";

/** Levels named at each edge, and the room a line of them takes. */
const MOST = 3;
const LINE = 15;
const SIZE = 11.5;

type Lived = readonly { mark: Mark; life: Life }[];

/**
 * What lies out of sight above and below: the nearest levels at either edge, with their price and how far off price
 * they are.
 */
export function drawFarOff(marks: Lived, { plot, view }: Scale, close: number, market: MarketFacts): Shape[] {
  const bands = bandsOf(marks).filter(({ role }) => role !== "target" && role !== "kill");
  const above = bands.filter(({ bottom }) => bottom > view.top).slice(0, MOST);
  const below = bands
    .filter(({ top }) => top < view.bottom)
    .sort((a, b) => b.top - a.top)
    .slice(0, MOST);
  const right = plot.left + plot.width - 6;
  const line = ({ label }: PriceBand, price: number, y: number, arrow: string): Shape => {
    const text =
      `${arrow} ${priceText(price, market)} ${label}, ` +
      `${price > close ? "+" : ""}${percentText((price - close) / Math.abs(close))}`;
    return {
      kind: "text",
      x: right,
      y,
      text,
      color: "slate",
      size: SIZE,
      align: "right",
      baseline: "middle",
      halo: "paper",
    };
  };
  return [
    ...above.map((band, i) => line(band, band.bottom, plot.top + 10 + i * LINE, "\u2191")),
    ...below.map((band, i) => line(band, band.top, plot.top + plot.height - 10 - i * LINE, "\u2193")),
  ];
}
