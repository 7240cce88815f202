import type { Anchor } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { barAt, type Bar } from "#core/series/series";
import { isIntraday } from "#core/time/timeframe";
import { timeOf, type Picture } from "../../chart/picture.ts";
import { depthOf, type Scale } from "../../chart/scale.ts";
import { toTick } from "#core/series/tick";
import { snap } from "../../chart/snap.ts";
import type { Point } from "./gestures.ts";
import type { Overlay } from "./scene.ts";

/** The bar under the crosshair, the close before it, and the point that is meant. */
export interface ReadAt {
  index: number;
  /** Absent in the future's room. */
  bar?: Bar;
  before?: number;
  anchor: Anchor;
}

const SNAP = { bars: 2, pixels: 12 };

/** The bar and price a pointer means. */
export function anchorAt({ market, pyramid, future }: Picture, scale: Scale, { x, y }: Point): Anchor {
  const { time, price } = snap(x, y, pyramid.levels[0], future, scale, {
    ...SNAP,
    tick: market.tick,
    decimals: market.decimals,
  });
  return { time, price };
}

/** The crosshair at a pointer and what stands under it; nothing beside the plot. */
export function readAt(
  picture: Picture,
  scale: Scale,
  pointer: Point,
): { at: ReadAt; cross: NonNullable<Overlay["cross"]> } | undefined {
  const { plot } = scale;
  if (pointer.x > plot.left + plot.width || pointer.y > plot.top + plot.height + depthOf(plot)) return undefined;
  const series = picture.pyramid.levels[0];
  const index = Math.round(scale.index(pointer.x));
  const bar = index >= 0 && index < series.length ? { bar: barAt(series, index) } : {};
  const before = index > 0 && index < series.length ? { before: series.close[index - 1] } : {};
  const { tick, decimals } = picture.market;
  // In a panel there is no price to read.
  const isPrice = pointer.y <= plot.top + plot.height;
  const price = priceText(toTick(scale.price(pointer.y), tick, decimals), picture.market);
  return {
    at: { index, ...bar, ...before, anchor: anchorAt(picture, scale, pointer) },
    cross: { x: scale.x(index), y: pointer.y, ...(isPrice ? { price } : {}), time: instantText(picture, index) },
  };
}

/** When a bar is: a date for those of a day and longer, the market's clock for shorter ones. */
export function instantText({ pyramid, future, timeframe, calendar }: Picture, index: number): string {
  const time = timeOf(pyramid.levels[0], future, index);
  if (!isIntraday(timeframe)) return new Date(time).toISOString().slice(0, 10);
  return new Intl.DateTimeFormat("en-GB", {
    timeZone: calendar.spec.zone,
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  }).format(time);
}

/**
 * Where keys put the crosshair: so many bars on, and up or down among the prices of the bar there; nowhere without
 * bars.
 */
export function stepped(
  { pyramid }: Picture,
  scale: Scale,
  pointer: Point | undefined,
  bars: number,
  up: number,
): Point | undefined {
  const series = pyramid.levels[0];
  const last = series.length - 1;
  if (last < 0) return undefined;
  const { plot } = scale;
  const start = pointer ?? { x: scale.x(last), y: scale.y(series.close[last]) };
  const index = Math.max(0, Math.min(last, Math.round(scale.index(start.x)) + bars));
  const { open, high, low, close } = barAt(series, index);
  const prices = [low, Math.min(open, close), Math.max(open, close), high];
  const here = scale.price(start.y);
  const nearest = prices.reduce(
    (best, price, i) => (Math.abs(price - here) < Math.abs(prices[best] - here) ? i : best),
    0,
  );
  const price = prices[Math.max(0, Math.min(3, nearest + up))];
  return { x: Math.max(plot.left, Math.min(plot.left + plot.width - 1, scale.x(index))), y: scale.y(price) };
}
