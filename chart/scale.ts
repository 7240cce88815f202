/** What part of the market is in view: bar indices (fractional; bar i spans i - 0.5 to i + 0.5) and prices. */
export interface View {
  from: number;
  to: number;
  bottom: number;
  top: number;
}

/** The rectangle bars are drawn in, in pixels. */
export interface Plot {
  left: number;
  top: number;
  width: number;
  height: number;
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
  const perPrice = plot.height / (view.top - view.bottom);
  return {
    view,
    plot,
    slot,
    x: (index) => plot.left + (index - view.from) * slot,
    y: (price) => plot.top + (view.top - price) * perPrice,
    index: (x) => view.from + (x - plot.left) / slot,
    price: (y) => view.top - (y - plot.top) / perPrice,
  };
}

/** Room around the plot for the price axis at the right and the time axis below. */
export const MARGIN = { left: 0, right: 70, top: 10, bottom: 30 };

export function plotOf(width: number, height: number): Plot {
  return {
    left: MARGIN.left,
    top: MARGIN.top,
    width: Math.max(10, width - MARGIN.left - MARGIN.right),
    height: Math.max(10, height - MARGIN.top - MARGIN.bottom),
  };
}
