import type { Scale } from "../../chart/scale.ts";

export interface Point {
  x: number;
  y: number;
}

/** Something on a chart that is held by its handle. */
export interface Grip {
  drag(point: Point): void;
  drop(): void;
}

/** What a pointer can do with a chart. */
export interface GesturedChart {
  readonly scale: Scale;
  readonly isPlacing: boolean;
  /** Whether the price range was set by hand: then dragging moves it, too. */
  readonly isManual: boolean;
  hover(point: Point | undefined): void;
  anchorHere(): boolean;
  gripAt(point: Point, reach: number): Grip | undefined;
  /** Chooses what is at a point; `add` keeps what was chosen before. */
  selectAt(point: Point, reach: number, add: boolean): void;
  selectWithin(from: Point, to: Point): void;
  showBox(from: Point, to: Point): void;
  menuAt(point: Point, reach: number): void;
  place(from: number, to: number): void;
  setPrices(bottom: number, top: number, factor: number): void;
  movePrices(bottom: number, top: number, share: number): void;
  pan(bars: number): void;
  zoom(factor: number, x?: number): void;
  fit(): void;
}

type Mode =
  | { mode: "idle" }
  | { mode: "aiming" }
  | { mode: "panning"; start: Point; moved: boolean; from: number; to: number; bottom: number; top: number }
  | { mode: "boxing"; start: Point; moved: boolean }
  | { mode: "pinching"; apart: number; middle: number }
  | { mode: "scaling"; y: number; bottom: number; top: number }
  | { mode: "dragging"; grip: Grip };

const REACH = { mouse: 6, touch: 16, pen: 10 };
/** Pixels a pointer may stray in a click, and milliseconds a finger rests until the menu opens. */
const STRAY = 4;
const LONG_PRESS = 500;

/** Turns mouse, pen and fingers on a chart into panning, zooming, choosing, dragging and placing. */
export class Gestures {
  private mode: Mode = { mode: "idle" };
  /** Fingers on the glass, by their ids. */
  private readonly fingers = new Map<number, Point>();
  private resting: ReturnType<typeof setTimeout> | undefined;
  private readonly ended = new AbortController();

  constructor(
    private readonly host: HTMLElement,
    private readonly chart: GesturedChart,
  ) {
    const { signal } = this.ended;
    host.addEventListener("pointerdown", this.down, { signal });
    host.addEventListener("pointermove", this.move, { signal });
    host.addEventListener("pointerup", this.up, { signal });
    host.addEventListener("pointercancel", this.cancel, { signal });
    host.addEventListener("pointerleave", this.leave, { signal });
    host.addEventListener("contextmenu", this.menu, { signal });
    host.addEventListener("dblclick", () => chart.fit(), { signal });
    host.addEventListener("wheel", this.wheel, { passive: false, signal });
  }

  dispose(): void {
    clearTimeout(this.resting);
    this.ended.abort();
  }

  /** Whether the plot is being moved: nothing is read off meanwhile. */
  get isPanning(): boolean {
    return this.mode.mode === "panning" && this.mode.moved;
  }

  private at(event: { clientX: number; clientY: number }): Point {
    const box = this.host.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  private down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    const { chart } = this;
    this.host.focus({ preventScroll: true });
    this.host.setPointerCapture(event.pointerId);
    const point = this.at(event);
    this.fingers.set(event.pointerId, point);
    chart.hover(point);
    clearTimeout(this.resting);
    if (this.fingers.size === 2) {
      this.mode = { mode: "pinching", ...this.pinch() };
      return;
    }
    const { plot, view } = chart.scale;
    const reach = reachOf(event);
    if (point.x > plot.left + plot.width) {
      this.mode = { mode: "scaling", y: point.y, bottom: view.bottom, top: view.top };
      return;
    }
    if (chart.isPlacing) {
      // A finger covers what it points at: it aims until it is lifted.
      if (event.pointerType === "touch") this.mode = { mode: "aiming" };
      else chart.anchorHere();
      return;
    }
    const grip = chart.gripAt(point, reach);
    if (grip) this.mode = { mode: "dragging", grip };
    else if (event.shiftKey) this.mode = { mode: "boxing", start: point, moved: false };
    else
      this.mode = {
        mode: "panning",
        start: point,
        moved: false,
        from: view.from,
        to: view.to,
        bottom: view.bottom,
        top: view.top,
      };
    if (event.pointerType === "touch" && !grip)
      this.resting = setTimeout(() => {
        if (this.mode.mode !== "panning" || this.mode.moved) return;
        this.mode = { mode: "idle" };
        chart.menuAt(point, reach);
      }, LONG_PRESS);
  };

  private move = (event: PointerEvent): void => {
    const { chart, mode } = this;
    const point = this.at(event);
    if (this.fingers.has(event.pointerId)) this.fingers.set(event.pointerId, point);
    switch (mode.mode) {
      case "pinching": {
        const { apart, middle } = this.pinch();
        chart.zoom(mode.apart / apart, middle);
        chart.pan((mode.middle - middle) / chart.scale.slot);
        this.mode = { mode: "pinching", apart, middle };
        return;
      }
      case "panning": {
        const [dx, dy] = [point.x - mode.start.x, point.y - mode.start.y];
        if (!mode.moved && Math.hypot(dx, dy) < STRAY) return;
        mode.moved = true;
        clearTimeout(this.resting);
        const { slot, plot } = chart.scale;
        chart.place(mode.from - dx / slot, mode.to - dx / slot);
        if (chart.isManual) chart.movePrices(mode.bottom, mode.top, dy / plot.height);
        chart.hover(point);
        return;
      }
      case "boxing":
        mode.moved ||= Math.hypot(point.x - mode.start.x, point.y - mode.start.y) >= STRAY;
        if (mode.moved) chart.showBox(mode.start, point);
        return;
      case "scaling":
        chart.setPrices(mode.bottom, mode.top, Math.exp((point.y - mode.y) / 200));
        return;
      case "dragging":
        chart.hover(point);
        mode.grip.drag(point);
        return;
      case "aiming":
      case "idle":
        chart.hover(point);
    }
  };

  /** Distance and middle of two fingers, along the bars. */
  private pinch(): { apart: number; middle: number } {
    const [a, b] = [...this.fingers.values()];
    return { apart: Math.max(20, Math.abs(a.x - b.x)), middle: (a.x + b.x) / 2 };
  }

  private up = (event: PointerEvent): void => {
    const { chart, mode } = this;
    const point = this.at(event);
    clearTimeout(this.resting);
    this.fingers.delete(event.pointerId);
    this.mode = { mode: "idle" };
    if (mode.mode === "dragging") mode.grip.drop();
    if (mode.mode === "aiming") {
      chart.hover(point);
      chart.anchorHere();
    }
    if (mode.mode === "boxing" && mode.moved) chart.selectWithin(mode.start, point);
    else if ((mode.mode === "panning" || mode.mode === "boxing") && !mode.moved)
      chart.selectAt(point, reachOf(event), mode.mode === "boxing");
    chart.hover(event.pointerType === "touch" ? undefined : point);
  };

  private cancel = (event: PointerEvent): void => {
    clearTimeout(this.resting);
    this.fingers.delete(event.pointerId);
    // What was dragged stays where it was last drawn; a box that was not closed chooses nothing.
    if (this.mode.mode === "dragging") this.mode.grip.drop();
    this.mode = { mode: "idle" };
  };

  private leave = (): void => {
    if (this.mode.mode === "idle") this.chart.hover(undefined);
  };

  private menu = (event: MouseEvent): void => {
    event.preventDefault();
    // On glass the resting finger has opened it already.
    if (this.fingers.size === 0) this.chart.menuAt(this.at(event), REACH.mouse);
  };

  private wheel = (event: WheelEvent): void => {
    event.preventDefault();
    const { x } = this.at(event);
    const { from, to } = this.chart.scale.view;
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY))
      this.chart.pan(((event.deltaX || event.deltaY) / 800) * (to - from));
    else this.chart.zoom(Math.exp(event.deltaY / 500), x);
  };
}

function reachOf({ pointerType }: PointerEvent): number {
  return REACH[pointerType as keyof typeof REACH] ?? REACH.mouse;
}
