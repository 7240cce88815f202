import type { Anchor, Mark } from "#core/marks/kind";
import { barAt } from "#core/series/series";
import { drawMark, indexOfTime, layOut, type LivedMark, type Picture } from "../../chart/picture.ts";
import { hits } from "../../chart/hit.ts";
import type { Scale, View } from "../../chart/scale.ts";
import { planPrices } from "../../chart/scenario.ts";
import { Viewport } from "../../chart/viewport.ts";
import { toTick } from "../../chart/snap.ts";
import { pressKey } from "./chartKeys.ts";
import { anchorAt, readAt, type ReadAt } from "./crosshair.ts";
import { Scene } from "./scene.ts";

/** What the chart tells the place it stands in. */
export interface ChartHandlers {
  /** An anchor was set while a mark is being placed. */
  onAnchor(anchor: Anchor): void;
  onSelect(id: string | undefined): void;
  /** A mark is being dragged (drawn at once), and was let go (kept). */
  onDrag(mark: Mark): void;
  onDrop(mark: Mark): void;
  /** What is under the crosshair. */
  onReadout(at: ReadAt | undefined): void;
  /** Another part of the market is in view. */
  onView(view: View): void;
  /** The earliest bars there are come into view. */
  onEarliest(): void;
}

type Mode =
  | { mode: "idle" }
  | { mode: "panning"; x: number; y: number; moved: boolean; from: number; to: number }
  | { mode: "pinching"; apart: number; middle: number }
  | { mode: "scaling"; y: number; bottom: number; top: number }
  | { mode: "dragging"; mark: Mark; anchor: number };

const REACH = { mouse: 6, touch: 16, pen: 10 };
/** Earlier bars are asked for this many bars before they are needed. */
const AHEAD = 600;

/** Owns the view of one price chart and turns pointer and keys into panning, placing and dragging. */
export class ChartController {
  private readonly scene: Scene;
  private picture: Picture | undefined;
  private readonly viewport = new Viewport();
  private sized = false;
  private mode: Mode = { mode: "idle" };
  private placing: Anchor[] | undefined;
  private measured: readonly Anchor[] | undefined;
  /** Fingers on the glass, by their ids. */
  private readonly fingers = new Map<number, { x: number; y: number }>();
  /** The crosshair: where the pointer is, or where the keys have put it. */
  private pointer: { x: number; y: number } | undefined;
  private frame = 0;

  constructor(
    private readonly host: HTMLElement,
    canvas: HTMLElement,
    private readonly handlers: ChartHandlers,
  ) {
    this.scene = new Scene(canvas);
    host.addEventListener("pointerdown", this.down);
    host.addEventListener("pointermove", this.move);
    host.addEventListener("pointerup", this.up);
    host.addEventListener("pointercancel", this.up);
    host.addEventListener("pointerleave", this.leave);
    host.addEventListener("dblclick", this.refit);
    host.addEventListener("wheel", this.wheel, { passive: false });
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    this.scene.dispose();
  }

  setScheme(scheme: "light" | "dark"): void {
    this.scene.setScheme(scheme);
    this.schedule();
  }

  resize(width: number, height: number): void {
    if (width < 20 || height < 20) return;
    this.viewport.resize(width, height);
    this.scene.resize(width, height);
    if (!this.sized) this.viewport.showLatest();
    this.sized = true;
    this.schedule();
  }

  /** Takes a new picture; `fresh` shows its latest bars, otherwise the view stays where it is, or with the last bar. */
  setPicture(picture: Picture, fresh: boolean, prepended = 0): void {
    this.picture = picture;
    this.viewport.setBars(picture.pyramid, prepended);
    this.viewport.include(picture.scenarios.flatMap(planPrices));
    if (fresh) this.viewport.showLatest();
    this.schedule();
  }

  setPlacing(anchors: Anchor[] | undefined): void {
    this.placing = anchors;
    this.host.style.cursor = anchors ? "crosshair" : "default";
    this.schedule();
  }

  /** Points that were measured between, until there are none. */
  setMeasured(anchors: readonly Anchor[] | undefined): void {
    this.measured = anchors;
    this.schedule();
  }

  setLog(log: boolean): void {
    this.viewport.setLog(log);
    this.schedule();
  }

  /** Puts the bar of an instant into the middle. */
  goTo(time: number): void {
    this.viewport.centre(this.indexOf(time));
    this.schedule();
  }

  /** Fits the prices to the bars in view again. */
  fit(): void {
    this.viewport.fitPrices();
    this.schedule();
  }

  /** Shows the latest `bars` bars. */
  showBars(bars: number): void {
    this.viewport.showBars(bars);
    this.schedule();
  }

  /** Frame costs of `count` small pans, for the bench: each is drawn at once. */
  measurePans(count: number): number[] {
    const out: number[] = [];
    for (let i = 0; i < count; i++) {
      const began = performance.now();
      this.pan(i % 2 === 0 ? 7 : -6);
      this.draw();
      out.push(performance.now() - began);
    }
    return out;
  }

  key(event: KeyboardEvent): boolean {
    return pressKey(this, event);
  }

  get isPlacing(): boolean {
    return this.placing !== undefined;
  }

  /** Bars from the left edge of the view to the right one. */
  get width(): number {
    const { from, to } = this.scale.view;
    return to - from;
  }

  showLatest(): void {
    this.viewport.showLatest();
    this.schedule();
  }

  /** Sets an anchor where the crosshair is; false when it is nowhere or nothing is being placed. */
  anchorHere(): boolean {
    if (!this.placing || !this.pointer || !this.picture) return false;
    this.handlers.onAnchor(anchorAt(this.picture, this.scale, this.pointer));
    return true;
  }

  private get scale(): Scale {
    return this.viewport.scale;
  }

  private schedule(): void {
    if (this.frame) return;
    this.frame = requestAnimationFrame(() => {
      this.frame = 0;
      this.draw();
    });
  }

  private draw(): void {
    if (!this.picture || !this.sized) return;
    const scale = this.scale;
    this.handlers.onView(scale.view);
    if (scale.view.from < AHEAD) this.handlers.onEarliest();
    this.scene.draw(layOut(this.picture, scale), scale, this.picture.market);
    this.drawOverlay(scale);
    this.host.dataset.drawn = "yes";
  }

  private drawOverlay(scale: Scale): void {
    const picture = this.picture;
    if (!picture) return;
    const selected = picture.marks.find(({ mark }) => mark.id === picture.selected);
    const toPixels = ({ time, price }: Anchor) => ({ x: scale.x(this.indexOf(time)), y: scale.y(price) });
    const draft = (this.placing ?? this.measured)?.map(toPixels) ?? [];
    const near = this.pointer && this.placing ? [toPixels(anchorAt(picture, scale, this.pointer))] : [];
    const read = this.pointer && this.mode.mode !== "panning" ? readAt(picture, scale, this.pointer) : undefined;
    if (read) this.handlers.onReadout(read.at);
    this.scene.drawOverlay({ ...(read ? { cross: read.cross } : {}), handles: selected?.mark.anchors.map(toPixels) ?? [], draft: [...draft, ...near] }, scale);
  }

  private indexOf(time: number): number {
    const series = this.picture?.pyramid.levels[0];
    return series ? indexOfTime(series, this.picture?.future ?? [], time) : 0;
  }

  private at(event: PointerEvent | WheelEvent): { x: number; y: number } {
    const box = this.host.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  private handleAt(x: number, y: number, reach: number): { mark: Mark; anchor: number } | undefined {
    const picture = this.picture;
    const found = picture?.marks.find(({ mark }) => mark.id === picture.selected);
    if (!found) return undefined;
    const scale = this.scale;
    const anchor = found.mark.anchors.findIndex(
      ({ time, price }) => Math.hypot(scale.x(this.indexOf(time)) - x, scale.y(price) - y) <= reach + 4,
    );
    return anchor >= 0 ? { mark: found.mark, anchor } : undefined;
  }

  private markAt(x: number, y: number, reach: number): LivedMark | undefined {
    const picture = this.picture;
    if (!picture) return undefined;
    const scale = this.scale;
    return picture.marks.findLast((lived) => hits(drawMark(lived, picture, scale), x, y, reach));
  }

  private down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    this.host.focus({ preventScroll: true });
    this.host.setPointerCapture(event.pointerId);
    const { x, y } = this.at(event);
    this.pointer = { x, y };
    this.fingers.set(event.pointerId, { x, y });
    if (this.fingers.size === 2) {
      this.mode = { mode: "pinching", ...this.pinch() };
      return;
    }
    const { plot, view } = this.scale;
    if (x > plot.left + plot.width) {
      this.mode = { mode: "scaling", y, bottom: view.bottom, top: view.top };
      return;
    }
    if (this.placing) {
      this.anchorHere();
      return;
    }
    const reach = REACH[event.pointerType as keyof typeof REACH] ?? REACH.mouse;
    const handle = this.handleAt(x, y, reach);
    this.mode = handle ? { mode: "dragging", ...handle } : { mode: "panning", x, y, moved: false, from: view.from, to: view.to };
  };

  private move = (event: PointerEvent): void => {
    const { x, y } = this.at(event);
    this.pointer = { x, y };
    if (this.fingers.has(event.pointerId)) this.fingers.set(event.pointerId, { x, y });
    switch (this.mode.mode) {
      case "pinching": {
        const { apart, middle } = this.pinch();
        this.viewport.zoom(this.mode.apart / apart, middle);
        this.viewport.pan((this.mode.middle - middle) / this.scale.slot);
        this.mode = { mode: "pinching", apart, middle };
        break;
      }
      case "panning": {
        const slot = this.scale.slot;
        const dx = x - this.mode.x;
        if (!this.mode.moved && Math.abs(dx) < 4) return;
        this.mode.moved = true;
        this.viewport.place(this.mode.from - dx / slot, this.mode.to - dx / slot);
        break;
      }
      case "scaling": {
        this.viewport.setPrices(this.mode.bottom, this.mode.top, Math.exp((y - this.mode.y) / 200));
        break;
      }
      case "dragging": {
        const { mark, anchor } = this.mode;
        const { picture, scale } = this;
        if (!picture) return;
        this.mode.mark = { ...mark, anchors: mark.anchors.map((one, i) => (i === anchor ? anchorAt(picture, scale, { x, y }) : one)) };
        this.handlers.onDrag(this.mode.mark);
        return;
      }
      case "idle":
        this.drawOverlay(this.scale);
        return;
    }
    this.schedule();
  };

  /** Distance and middle of two fingers, along the bars. */
  private pinch(): { apart: number; middle: number } {
    const [a, b] = [...this.fingers.values()];
    return { apart: Math.max(20, Math.abs(a.x - b.x)), middle: (a.x + b.x) / 2 };
  }

  private up = (event: PointerEvent): void => {
    const { x, y } = this.at(event);
    this.fingers.delete(event.pointerId);
    const mode = this.mode;
    this.mode = { mode: "idle" };
    if (mode.mode === "dragging") this.handlers.onDrop(mode.mark);
    if (mode.mode === "panning" && !mode.moved) {
      const reach = REACH[event.pointerType as keyof typeof REACH] ?? REACH.mouse;
      this.handlers.onSelect(this.markAt(x, y, reach)?.mark.id);
    }
    this.schedule();
  };

  private leave = (): void => {
    if (this.mode.mode !== "idle") return;
    this.pointer = undefined;
    this.handlers.onReadout(undefined);
    this.drawOverlay(this.scale);
  };

  private refit = (): void => this.fit();

  private wheel = (event: WheelEvent): void => {
    event.preventDefault();
    const { x } = this.at(event);
    const { from, to } = this.scale.view;
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) this.pan(((event.deltaX || event.deltaY) / 800) * (to - from));
    else this.zoom(Math.exp(event.deltaY / 500), x);
  };

  pan(bars: number): true {
    this.viewport.pan(bars);
    this.schedule();
    return true;
  }

  /** Gives prices more or less room by keys; with `0` they are fitted again. */
  stretch(factor: number): true {
    const { bottom, top } = this.scale.view;
    this.viewport.setPrices(bottom, top, factor);
    this.schedule();
    return true;
  }

  zoom(factor: number, x?: number): true {
    this.viewport.zoom(factor, x);
    this.schedule();
    return true;
  }

  /** Moves the crosshair by keys: sideways by bars, up and down through the four prices of its bar. */
  moveCursor(bars: number, up: number, fast: boolean): boolean {
    const picture = this.picture;
    if (!picture || picture.pyramid.levels[0].length === 0) return false;
    const series = picture.pyramid.levels[0];
    const scale = this.scale;
    const { plot } = scale;
    const start = this.pointer ?? { x: scale.x(series.length - 1), y: scale.y(series.close[series.length - 1]) };
    const index = Math.max(0, Math.min(series.length - 1, Math.round(scale.index(start.x)) + bars * (fast ? 10 : 1)));
    const bar = barAt(series, index);
    const prices = [bar.low, Math.min(bar.open, bar.close), Math.max(bar.open, bar.close), bar.high];
    const here = scale.price(start.y);
    const nearest = prices.reduce((best, price, i) => (Math.abs(price - here) < Math.abs(prices[best] - here) ? i : best), 0);
    const price = prices[Math.max(0, Math.min(3, nearest + up))];
    this.pointer = { x: Math.max(plot.left, Math.min(plot.left + plot.width - 1, scale.x(index))), y: scale.y(price) };
    this.drawOverlay(scale);
    return true;
  }

  /** Moves the selected mark by ticks. */
  nudge(ticks: number): boolean {
    const picture = this.picture;
    const found = picture?.marks.find(({ mark }) => mark.id === picture.selected);
    if (!picture || !found) return false;
    const { tick, decimals } = picture.market;
    const anchors = found.mark.anchors.map(({ time, price }) => ({ time, price: toTick(price + ticks * tick, tick, decimals) }));
    this.handlers.onDrop({ ...found.mark, anchors });
    return true;
  }
}
