/** What part of the market is in view: bar indices (fractional; bar i spans i - 0.5 to i + 0.5) and prices. */
export interface View {
  from: number;
  to: number;
  bottom: number;
  top: number;
  /** Equal ratios take equal room; only where every price in view is above zero. */
  log?: boolean;
}

/** The rectangle bars are drawn in, in pixels. */
export interface Plot {
  left: number;
  top: number;
  width: number;
  height: number;
  /** Heights of the panels beneath it, from the top one down. */
  below?: readonly number[];
}

export interface Scale {
  view: View;
  plot: Plot;
  /** Pixels a bar has for itself. */
  slot: number;
  x(index: number): number;
  y(price: number): number;
  index(x: number): number;
  price(y: number): number;
}

export function makeScale(view: View, plot: Plot): Scale {
  const slot = plot.width / (view.to - view.from);
  const [onAxis, ofAxis] = axisOf(view);
  const highest = onAxis(view.top);
  const perPrice = plot.height / (highest - onAxis(view.bottom));
  return {
    view,
    plot,
    slot,
    x: (index) => plot.left + (index - view.from) * slot,
    y: (price) => plot.top + (highest - onAxis(price)) * perPrice,
    index: (x) => view.from + (x - plot.left) / slot,
    price: (y) => ofAxis(highest - (y - plot.top) / perPrice),
  };
}

const same = (price: number) => price;

/** From price to the number the axis is even in, and back. A price of zero or less lies far below a log axis. */
export function axisOf({
  log,
  bottom,
}: Pick<View, "log" | "bottom">): [(price: number) => number, (value: number) => number] {
  return log && bottom > 0 ? [(price) => (price > 0 ? Math.log(price) : -1e3), Math.exp] : [same, same];
}

/** Room around the plot for the price axis at the right, where its prices need no more, and the time axis below. */
export const MARGIN = { left: 0, right: 70, top: 10, bottom: 30 };

export function plotOf(width: number, height: number, right = MARGIN.right, below: readonly number[] = []): Plot {
  return {
    left: MARGIN.left,
    top: MARGIN.top,
    width: Math.max(10, width - MARGIN.left - right),
    height: Math.max(10, height - MARGIN.top - MARGIN.bottom - depthOf({ below })),
    ...(below.length > 0 ? { below } : {}),
  };
}

/** Pixels that panels take beneath a plot. */
export function depthOf({ below = [] }: Pick<Plot, "below">): number {
  return below.reduce((sum, height) => sum + height, 0);
}
