import type { Anchor, Mark } from "#core/marks/kind";
import { axisRoom } from "../../chart/axisRoom.ts";
import { indexOfInstant, indexOfTime, instantOf, layOut, type Picture } from "../../chart/picture.ts";
import type { Scale, View } from "../../chart/scale.ts";
import { scenarioPrices } from "../../chart/scenario.ts";
import { chosenPrices } from "../../chart/bands.ts";
import { Viewport } from "../../chart/viewport.ts";
import { pressKey, type KeyedChart } from "./chartKeys.ts";
import { anchorAt, readAt, stepped, type ReadAt } from "./crosshair.ts";
import { Gestures, type GesturedChart, type Grip, type Point } from "./gestures.ts";
import { MarkReach } from "./markReach.ts";
import { heldPrices, priceGripAt } from "./scenarioGrip.ts";
import { overlayOf } from "./overlay.ts";
import { heightTo, isBeneath, panelEdgeAt } from "./panels.ts";
import { Scene } from "./scene.ts";

/** Where the pointer is: what stands under it, and the instant and price that other charts draw it at. */
export interface Pointed {
  read: ReadAt;
  instant: number;
  price: number;
  point: Point;
}

/** What the chart tells the place it stands in. */
export interface ChartHandlers {
  /** An anchor was set while a mark is being placed. */
  onAnchor(anchor: Anchor): void;
  /** Marks were chosen; `add` turns each over among those that are. */
  onSelect(ids: string[], add: boolean): void;
  /** A bar was clicked where no mark is; the instant it begins at. */
  onMoment(instant: number): void;
  /** A menu is wanted at a place of the chart, over a mark or over none. */
  onMenu(menu: { point: Point; anchor: Anchor; instant: number; mark: string | undefined }): void;
  /** A mark is being dragged (drawn at once), and marks were let go or nudged (kept). */
  onDrag(mark: Mark): void;
  onDrop(marks: Mark[]): void;
  /** A price of the scenario that is written is dragged, by its field. */
  onPrice?(field: string, price: number): void;
  /** A panel, counted from the prices down, is given another share of the chart's height. */
  onPanel?(panel: number, height: number): void;
  /** What is under the crosshair. */
  onPointed(at: Pointed | undefined): void;
  /** Another part of the market is in view. */
  onView(view: View): void;
  /** The earliest bars there are come into view. */
  onEarliest(): void;
}

/** Earlier bars are asked for this many bars before they are needed. */
const AHEAD = 600;

/** One price chart: what is in view of it, what is drawn, and what pointer and keys do there. */
export class ChartController implements KeyedChart, GesturedChart {
  private readonly scene: Scene;
  private readonly gestures: Gestures;
  private readonly viewport = new Viewport();
  private picture: Picture | undefined;
  private sized = false;
  private placing: Anchor[] | undefined;
  private measured: readonly Anchor[] | undefined;
  private moment: number | undefined;
  /** The cursor of another chart. */
  private linked: { instant: number; price?: number } | undefined;
  private box: { from: Point; to: Point } | undefined;
  /** The crosshair: where the pointer is, or where the keys have put it. */
  private pointer: Point | undefined;
  private frame = 0;
  private height = 0;

  constructor(
    private readonly host: HTMLElement,
    canvas: HTMLElement,
    private readonly handlers: ChartHandlers,
  ) {
    this.scene = new Scene(canvas);
    this.gestures = new Gestures(host, this);
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    this.gestures.dispose();
    this.scene.dispose();
  }

  setScheme(scheme: "light" | "dark"): void {
    this.scene.setScheme(scheme);
    this.schedule();
  }

  resize(width: number, height: number): void {
    if (width < 20 || height < 20) return;
    this.height = height;
    this.viewport.resize(width, height, this.picture?.studies?.heights(height));
    this.scene.resize(width, height);
    if (!this.sized) this.viewport.showLatest();
    this.sized = true;
    this.schedule();
  }

  /** Takes a new picture; `fresh` shows its latest bars, otherwise the view stays where it is, or with the last bar. */
  setPicture(picture: Picture, fresh: boolean, prepended = 0): void {
    this.picture = picture;
    this.viewport.setBars(picture.pyramid, prepended);
    this.viewport.setPanels(picture.studies?.heights(this.height) ?? []);
    this.viewport.setRoom(axisRoom(picture.pyramid, picture.market));
    const { scenarios, chosenArea, marks, selected, pyramid } = picture;
    const close = pyramid.levels[0].close.at(-1) ?? NaN;
    // A plan, an area and targets that were asked for are brought into sight.
    this.viewport.include([
      ...scenarios.flatMap(scenarioPrices),
      ...(chosenArea ? [chosenArea.bottom, chosenArea.top] : []),
      ...chosenPrices(marks, selected, close),
    ]);
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

  /** The instant that is held on every chart; one out of sight is brought into the middle. */
  setMoment(instant: number | undefined): void {
    this.moment = instant;
    if (instant !== undefined && this.picture && this.sized) {
      const index = indexOfInstant(this.picture, instant);
      const { from, to } = this.scale.view;
      // A rung whose bars begin later has nothing to show of it.
      if (index >= 0 && (index < from || index > to)) this.viewport.centre(index);
    }
    this.schedule();
  }

  setLinked(at: { instant: number; price?: number } | undefined): void {
    if (!at && !this.linked) return;
    this.linked = at;
    if (this.sized) this.drawOverlay();
  }

  /** Puts the bar of an instant into the middle. */
  goTo(time: number): void {
    this.viewport.centre(this.indexOf(time));
    this.schedule();
  }

  /** Shows the latest `bars` bars. */
  showBars(bars: number): void {
    this.viewport.showBars(bars);
    this.schedule();
  }

  /**
   * Frame costs of doing something `count` times and drawing at once, for the bench; `painted` waits for the canvas.
   */
  measure(count: number, act: (i: number) => void, painted: () => void): number[] {
    return Array.from({ length: count }, (_, i) => {
      const began = performance.now();
      act(i);
      this.draw();
      painted();
      return performance.now() - began;
    });
  }

  key(event: KeyboardEvent): boolean {
    return pressKey(this, event);
  }

  get isPlacing(): boolean {
    return this.placing !== undefined;
  }

  get isManual(): boolean {
    return this.viewport.manual;
  }

  get scale(): Scale {
    return this.viewport.scale;
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

  fit(): void {
    this.viewport.fitPrices();
    this.schedule();
  }

  place(from: number, to: number): void {
    this.viewport.place(from, to);
    this.schedule();
  }

  pan(bars: number): true {
    this.viewport.pan(bars);
    this.schedule();
    return true;
  }

  zoom(factor: number, x?: number): true {
    this.viewport.zoom(factor, x);
    this.schedule();
    return true;
  }

  setPrices(bottom: number, top: number, factor: number): void {
    this.viewport.setPrices(bottom, top, factor);
    this.schedule();
  }

  movePrices(bottom: number, top: number, share: number): void {
    this.viewport.movePrices(bottom, top, share);
    this.schedule();
  }

  /** Gives prices more or less room by keys; with `0` they are fitted again. */
  stretch(factor: number): true {
    const { bottom, top } = this.scale.view;
    this.setPrices(bottom, top, factor);
    return true;
  }

  hover(point: Point | undefined): void {
    this.pointer = point;
    if (!this.sized) return;
    if (!this.placing)
      this.host.style.cursor = point && panelEdgeAt(this.scale.plot, point) !== undefined ? "row-resize" : "default";
    this.drawOverlay();
    if (!point) this.handlers.onPointed(undefined);
  }

  /** Sets an anchor where the crosshair is; false when it is nowhere or nothing is being placed. */
  anchorHere(): boolean {
    if (!this.placing || !this.pointer || !this.picture || isBeneath(this.scale.plot, this.pointer)) return false;
    this.handlers.onAnchor(anchorAt(this.picture, this.scale, this.pointer));
    return true;
  }

  gripAt(point: Point, reach: number): Grip | undefined {
    const { picture, handlers } = this;
    const price =
      picture &&
      priceGripAt(
        picture,
        () => this.scale,
        point,
        reach + 4,
        (field, to) => handlers.onPrice?.(field, to),
      );
    if (price) return price;
    const panel = panelEdgeAt(this.scale.plot, point);
    if (panel !== undefined)
      return {
        drag: (to) => handlers.onPanel?.(panel, heightTo(this.scale.plot, panel, to) / this.height),
        drop: () => undefined,
      };
    const held = this.reach?.gripAt(point, reach);
    if (!held) return undefined;
    let moved = held.mark;
    return {
      drag: (to) => this.handlers.onDrag((moved = this.reach?.dragged(held, to) ?? moved)),
      drop: () => this.handlers.onDrop([moved]),
    };
  }

  selectAt(point: Point, reach: number, add: boolean): void {
    const { picture } = this;
    const mark = this.reach?.markAt(point, reach);
    if (!mark && picture && !add && picture.selected.length === 0)
      this.handlers.onMoment(this.instantAt(picture, point));
    if (mark || !add) this.handlers.onSelect(mark ? [mark] : [], add);
  }

  selectWithin(from: Point, to: Point): void {
    this.box = undefined;
    this.handlers.onSelect(this.reach?.within(from, to) ?? [], true);
    this.schedule();
  }

  showBox(from: Point, to: Point): void {
    this.box = { from, to };
    this.drawOverlay();
  }

  menuAt(point: Point, reach: number): void {
    if (!this.picture) return;
    this.pointer = point;
    const anchor = anchorAt(this.picture, this.scale, point);
    this.handlers.onMenu({
      point,
      anchor,
      instant: this.instantAt(this.picture, point),
      mark: this.reach?.markAt(point, reach),
    });
  }

  /** Opens the menu at the crosshair by keys; in the middle of the plot when it is nowhere. */
  menuHere(): boolean {
    const { plot } = this.scale;
    this.menuAt(this.pointer ?? { x: plot.left + plot.width / 2, y: plot.top + plot.height / 2 }, 6);
    return true;
  }

  /** Moves the crosshair by keys: sideways by bars, up and down through the four prices of its bar. */
  moveCursor(bars: number, up: number, fast: boolean): boolean {
    const next = this.picture && stepped(this.picture, this.scale, this.pointer, bars * (fast ? 10 : 1), up);
    if (next) this.hover(next);
    return next !== undefined;
  }

  /** Moves the chosen marks by ticks and by bars of this chart; false when there are none to move. */
  nudge(ticks: number, bars = 0): boolean {
    const moved = this.reach?.nudged(ticks, bars) ?? [];
    if (moved.length > 0) this.handlers.onDrop(moved);
    return moved.length > 0;
  }

  private get reach(): MarkReach | undefined {
    return this.picture && new MarkReach(this.picture, this.scale);
  }

  private instantAt(picture: Picture, { x }: Point): number {
    return instantOf(picture, Math.round(this.scale.index(x)));
  }

  private indexOf(time: number): number {
    const series = this.picture?.pyramid.levels[0];
    return series ? indexOfTime(series, this.picture?.future ?? [], time) : 0;
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
    // What studies read follows the cursor: it stands on the layer above.
    this.scene.draw({ ...layOut(this.picture, scale), heads: [] }, scale, this.picture.market);
    this.drawOverlay();
    this.host.dataset.drawn = "yes";
    this.host.dataset.panels = (scale.plot.below ?? []).join(" ");
  }

  private drawOverlay(): void {
    const { picture, scale, pointer } = this;
    if (!picture) return;
    const reach = new MarkReach(picture, scale);
    const { chosen, toPixels } = reach;
    const draft = (this.placing ?? this.measured)?.map(toPixels) ?? [];
    const near = pointer && this.placing ? [toPixels(anchorAt(picture, scale, pointer))] : [];
    const read = pointer && !this.gestures.isPanning ? readAt(picture, scale, pointer) : undefined;
    if (read && pointer)
      this.handlers.onPointed({
        read: read.at,
        instant: instantOf(picture, read.at.index),
        price: scale.price(pointer.y),
        point: pointer,
      });
    const handles = [
      ...chosen.flatMap((mark) => (mark.locked ? [] : mark.anchors.map((anchor) => reach.pixelsOf(mark, anchor)))),
      ...heldPrices(picture, scale),
    ];
    // Where they stand, for whoever drives the chart by script.
    this.host.dataset.handles = handles.map(({ x, y }) => `${Math.round(x)},${Math.round(y)}`).join(" ");
    const { linked, moment, box } = this;
    this.scene.drawOverlay(
      overlayOf({ picture, scale, read, linked, moment, box, handles, draft: [...draft, ...near] }),
      scale,
    );
  }
}
