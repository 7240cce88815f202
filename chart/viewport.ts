import { fitPrices, includePrices } from "./candles.ts";
import type { Pyramid } from "./pyramid.ts";
import { axisOf, makeScale, MARGIN, plotOf, type Plot, type Scale, type View } from "./scale.ts";

/** Pixels of a bar when a chart is first shown, and at its widest; share of the width left for the future. */
const SLOT = { first: 5.2, widest: 60 };
const FUTURE = 0.22;

/** Which bars and prices a chart shows: panned and zoomed by bars, prices fitted until they are set by hand. */
export class Viewport {
  private from = 0;
  private to = 100;
  private prices: Pick<View, "bottom" | "top"> | undefined;
  private log = false;
  private wanted: readonly number[] = [];
  private plot: Plot = plotOf(0, 0);
  private size = { width: 0, height: 0 };
  private room = MARGIN.right;
  private panels: readonly number[] = [];

  constructor(private pyramid: Pyramid | undefined = undefined) {}

  get scale(): Scale {
    const { from, to, pyramid, log } = this;
    const fitted = () =>
      pyramid ? includePrices(fitPrices(pyramid, from, to, log), this.wanted) : { bottom: 0, top: 1 };
    const prices = this.prices ? { ...this.prices, log: log && this.prices.bottom > 0 } : fitted();
    return makeScale({ from, to, ...prices }, this.plot);
  }

  private get length(): number {
    return this.pyramid?.levels[0].length ?? 0;
  }

  /** `panels`: heights of those beneath the prices; they stay when they are not said. */
  resize(width: number, height: number, panels = this.panels): void {
    this.panels = panels;
    this.size = { width, height };
    this.plot = plotOf(width, height, this.room, this.panels);
  }

  /** Pixels right of the plot, for its prices. */
  setRoom(right: number): void {
    if (right === this.room) return;
    this.room = right;
    this.resize(this.size.width, this.size.height);
  }

  /** Heights of the panels beneath the prices. */
  setPanels(heights: readonly number[]): void {
    this.resize(this.size.width, this.size.height, heights);
  }

  /**
   * Takes other bars. `prepended` of them came in front: the same bars stay in view. With new ones at the end the
   * view goes along if the last bar was in it.
   */
  setBars(pyramid: Pyramid, prepended = 0): void {
    const before = this.length;
    this.pyramid = pyramid;
    const appended = this.length - before - prepended;
    const follows = appended > 0 && prepended === 0 && this.to > before - 1;
    this.shift(prepended + (follows ? appended : 0));
  }

  showLatest(): void {
    const bars = Math.max(20, Math.round(this.plot.width / SLOT.first));
    this.to = this.length - 0.5 + Math.round(bars * FUTURE);
    this.from = this.to - bars;
    this.prices = undefined;
  }

  showBars(bars: number): void {
    this.to = this.length;
    this.from = this.to - bars;
  }

  /** Keeps at least a tenth of the width of bars in view. */
  pan(bars: number): void {
    const width = this.to - this.from;
    const from = Math.max(-width / 2, Math.min(this.from + bars, this.length - width * 0.1));
    this.shift(from - this.from);
  }

  /** Zooms about the bar at pixel `x`; without one about the last bar, for the present is what is looked at. */
  zoom(factor: number, x?: number): void {
    const width = this.to - this.from;
    const next = Math.max(this.plot.width / SLOT.widest, Math.min(width * factor, Math.max(50, this.length * 1.5)));
    const still = x === undefined ? Math.min(this.to, this.length - 1) : this.scale.index(x);
    const share = (still - this.from) / width;
    this.from = still - share * next;
    this.to = this.from + next;
  }

  /** Stretches the price range about its middle, as the axis is even. */
  setPrices(bottom: number, top: number, factor: number): void {
    const [onAxis, ofAxis] = axisOf({ log: this.log, bottom });
    const middle = (onAxis(bottom) + onAxis(top)) / 2;
    const half = ((onAxis(top) - onAxis(bottom)) / 2) * factor;
    this.prices = { bottom: ofAxis(middle - half), top: ofAxis(middle + half) };
  }

  /** Moves a price range up by a share of its height; it is set by hand from then on. */
  movePrices(bottom: number, top: number, share: number): void {
    const [onAxis, ofAxis] = axisOf({ log: this.log, bottom });
    const by = (onAxis(top) - onAxis(bottom)) * share;
    this.prices = { bottom: ofAxis(onAxis(bottom) + by), top: ofAxis(onAxis(top) + by) };
  }

  setLog(log: boolean): void {
    this.log = log;
  }

  /** Whether the price range was set by hand. */
  get manual(): boolean {
    return this.prices !== undefined;
  }

  /** Puts bar `index` into the middle, as wide as the view is. */
  centre(index: number): void {
    const half = (this.to - this.from) / 2;
    this.from = index - half;
    this.to = index + half;
    this.prices = undefined;
  }

  /** Prices that are to be in sight while prices are fitted. */
  include(prices: readonly number[]): void {
    this.wanted = prices;
  }

  fitPrices(): void {
    this.prices = undefined;
  }

  place(from: number, to: number): void {
    this.from = from;
    this.to = to;
  }

  private shift(bars: number): void {
    this.from += bars;
    this.to += bars;
  }
}
