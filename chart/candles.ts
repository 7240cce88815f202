import type { Series } from "#core/series/series";
import { visible, type Pyramid } from "./pyramid.ts";
import type { Scale, View } from "./scale.ts";
import type { Shape } from "./shapes.ts";

const WIDEST = 13;

/** Candles in ink: hollow when the close is above the open, filled when below; a cross bar when equal. */
export function drawCandles(pyramid: Pyramid, scale: Scale, unfinished = false): Shape[] {
  const { series, start, step } = visible(pyramid, scale.view.from, scale.view.to, scale.plot.width);
  const slot = scale.slot * step;
  const body = slot < 3 ? 0 : Math.min(WIDEST, Math.max(1, Math.floor(slot * 0.7)));
  const half = Math.floor(body / 2);
  const wicks: number[][] = [];
  const hollow: number[][] = [];
  const filled: number[][] = [];
  for (let i = 0; i < series.length; i++) {
    const x = Math.round(scale.x(start + (i + 0.5) * step - 0.5)) + 0.5;
    const high = Math.round(scale.y(series.high[i])) + 0.5;
    const low = Math.round(scale.y(series.low[i])) + 0.5;
    if (body === 0) {
      wicks.push([x, high, x, Math.max(low, high + 1)]);
      continue;
    }
    const open = Math.round(scale.y(series.open[i])) + 0.5;
    const close = Math.round(scale.y(series.close[i])) + 0.5;
    const [top, bottom] = open < close ? [open, close] : [close, open];
    if (high < top) wicks.push([x, high, x, top]);
    if (low > bottom) wicks.push([x, bottom, x, low]);
    const left = x - half;
    const right = x + half;
    if (top === bottom) wicks.push([left, top, right + 0.5, top]);
    else if (series.close[i] >= series.open[i]) hollow.push([left, top, right, top, right, bottom, left, bottom]);
    else
      filled.push([left - 0.5, top - 0.5, right + 0.5, top - 0.5, right + 0.5, bottom + 0.5, left - 0.5, bottom + 0.5]);
  }
  const last = unfinished && step === 1 ? lastBarShapes(hollow, filled, series, start, pyramid) : [];
  return [
    { kind: "path", paths: wicks, stroke: "ink", width: 1 },
    { kind: "path", paths: hollow, stroke: "ink", fill: "sheet", width: 1, closed: true },
    { kind: "path", paths: filled, fill: "ink", closed: true },
    ...last,
  ];
}

/** The bar that is still being made: its body is lifted out of the batch and drawn lighter. */
function lastBarShapes(
  hollow: number[][],
  filled: number[][],
  series: Series,
  start: number,
  pyramid: Pyramid,
): Shape[] {
  const isLast = start + series.length === pyramid.levels[0].length;
  if (!isLast || series.length === 0) return [];
  const i = series.length - 1;
  if (series.open[i] === series.close[i]) return [];
  const body = series.close[i] > series.open[i] ? hollow.pop() : filled.pop();
  if (!body) return [];
  const up = series.close[i] > series.open[i];
  return [{ kind: "path", paths: [body], stroke: "ink3", fill: up ? "sheet" : "rule", width: 1, closed: true }];
}

/** A price range widened, where it must be, so that the prices of a scenario are in it. */
export function includePrices(range: Prices, prices: readonly number[]): Prices {
  const [low, high] = [Math.min(...prices), Math.max(...prices)];
  const { bottom, top } = padded(Math.min(range.bottom, low), Math.max(range.top, high), 0.05, range.log === true);
  return { ...range, bottom: low < range.bottom ? bottom : range.bottom, top: high > range.top ? top : range.top };
}

type Prices = Pick<View, "bottom" | "top" | "log">;

/** A range with a share of its height as air at both ends: by ratio on a log axis, where every price is above zero. */
function padded(bottom: number, top: number, share: number, log: boolean): Prices {
  if (log && bottom > 0) {
    const air = top > bottom ? (top / bottom) ** share : 1.01;
    return { bottom: bottom / air, top: top * air, log };
  }
  const air = top > bottom ? (top - bottom) * share : Math.abs(top) * 0.01 || 1;
  return { bottom: bottom - air, top: top + air };
}

/** Lowest low and highest high in view, with 6 % of air; a flat or empty view gets room about its price. */
export function fitPrices(pyramid: Pyramid, from: number, to: number, log = false): Prices {
  const { series } = visible(pyramid, from, to, 2000);
  let bottom = Infinity;
  let top = -Infinity;
  for (let i = 0; i < series.length; i++) {
    if (series.low[i] < bottom) bottom = series.low[i];
    if (series.high[i] > top) top = series.high[i];
  }
  if (bottom > top) return { bottom: 0, top: 1 };
  return padded(bottom, top, 0.06, log);
}
