import { CustomChart } from "echarts/charts";
import { GridComponent } from "echarts/components";
import * as echarts from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { chartOption, element, registerStrokes, STROKES, type Fonts } from "../../chart/option.ts";
import { LAMP, PAPER, type Palette } from "../../chart/palette.ts";
import type { Layout } from "../../chart/picture.ts";
import { depthOf, type Plot, type Scale } from "../../chart/scale.ts";
import type { Shape } from "../../chart/shapes.ts";
import type { Point } from "./gestures.ts";

echarts.use([CustomChart, GridComponent, CanvasRenderer]);
registerStrokes(echarts.graphic);

const FONTS: Fonts = { sans: '"Source Sans 3 Variable", sans-serif', serif: '"Source Serif 4 Variable", serif' };

type Figure = Parameters<echarts.graphic.Group["add"]>[0];

/** Room of a tag on the time axis. */
const TAG = 96;
const ON_TOP = { silent: true, zlevel: 9 };

export interface Overlay {
  /** Crosshair in pixels with its tags, if the pointer is in the plot. */
  cross?: { x: number; y: number; price?: string; time: string };
  /** The cursor of another chart: its bar, and its price where the market is the same. */
  linked?: { x: number; y?: number };
  /** The instant that is held on every chart. */
  moment?: { x: number; time: string };
  box?: { from: Point; to: Point };
  handles: Point[];
  /** Names and values of studies at the cursor. */
  heads: Shape[];
  /** Pivots of a mark that is being placed. */
  draft: Point[];
}

/** The chart library's scene: the price chart below, crosshair and handles on a layer of their own above. */
export class Scene {
  private readonly chart: echarts.ECharts;
  private readonly top = new echarts.graphic.Group();
  private palette: Palette = PAPER;

  constructor(element: HTMLElement) {
    this.chart = echarts.init(element, null, { renderer: "canvas" });
    this.chart.getZr().add(this.top);
  }

  setScheme(scheme: "light" | "dark"): void {
    this.palette = scheme === "dark" ? LAMP : PAPER;
  }

  resize(width: number, height: number): void {
    this.chart.resize({ width, height });
  }

  draw(layout: Layout, scale: Scale, market: { decimals: number }): void {
    this.chart.setOption(chartOption(layout, scale, market, this.palette, FONTS), { silent: true });
    this.chart.getZr().flush();
  }

  drawOverlay({ cross, linked, moment, box, handles, heads, draft }: Overlay, { plot }: Scale): void {
    const { ink, ink3, sheet } = this.palette;
    this.top.removeAll();
    const add = (...figures: Figure[]) => figures.forEach((figure) => this.top.add(figure));
    heads.forEach((shape) => add(this.figure(shape)));
    if (moment && inside(moment.x, plot)) {
      add(this.upright(moment.x, plot, { stroke: ink, lineWidth: 1, lineDash: [1, 3] }));
      // Two tags beside each other would cover one another: the pointer's is the one that is read.
      if (!cross || Math.abs(cross.x - moment.x) > TAG)
        add(this.tag(moment.time, moment.x, footOf(plot) + 5, "center"));
    }
    if (linked && inside(linked.x, plot)) {
      const style = { stroke: ink3, lineWidth: 1, lineDash: [3, 3] };
      add(this.upright(linked.x, plot, style));
      if (linked.y !== undefined && linked.y > plot.top && linked.y < plot.top + plot.height)
        add(this.level(linked.y, plot, style));
    }
    if (cross) {
      const style = { stroke: ink3, lineWidth: 1, lineDash: [3, 3] };
      add(this.upright(cross.x, plot, style), this.level(cross.y, plot, style));
      if (cross.price !== undefined)
        add(this.tag(cross.price, plot.left + plot.width + 6, Math.round(cross.y) + 0.5, "left"));
      add(this.tag(cross.time, Math.round(cross.x) + 0.5, footOf(plot) + 5, "center"));
    }
    if (box) {
      const shape = {
        x: Math.min(box.from.x, box.to.x),
        y: Math.min(box.from.y, box.to.y),
        width: Math.abs(box.to.x - box.from.x),
        height: Math.abs(box.to.y - box.from.y),
      };
      add(
        new echarts.graphic.Rect({
          ...ON_TOP,
          shape,
          style: { fill: "none", stroke: ink, lineWidth: 1, lineDash: [4, 3] },
        }),
      );
    }
    if (draft.length > 1)
      add(
        new echarts.graphic.Polyline({
          ...ON_TOP,
          shape: { points: draft.map(({ x, y }) => [x, y]) },
          style: { stroke: ink, lineWidth: 1.2, lineDash: [4, 3] },
        }),
      );
    for (const { x, y } of [...handles, ...draft])
      add(
        new echarts.graphic.Rect({
          ...ON_TOP,
          shape: { x: x - 4.5, y: y - 4.5, width: 9, height: 9 },
          style: { fill: sheet, stroke: ink, lineWidth: 1.6 },
        }),
      );
    this.chart.getZr().flush();
  }

  private upright(at: number, plot: Plot, style: object): Figure {
    const x = Math.round(at) + 0.5;
    return new echarts.graphic.Line({ ...ON_TOP, shape: { x1: x, y1: plot.top, x2: x, y2: footOf(plot) }, style });
  }

  /** A shape of the display list on the layer above. */
  private figure(shape: Shape): Figure {
    const { style, ...rest } = element(shape, this.palette, FONTS) as { style: { x?: number; y?: number } };
    if (shape.kind === "text") return new echarts.graphic.Text({ ...ON_TOP, style });
    const Strokes = echarts.graphic.getShapeClass(STROKES) as new (options: object) => Figure;
    return new Strokes({ ...ON_TOP, ...rest, style });
  }

  private level(at: number, { left, width }: Plot, style: object): Figure {
    const y = Math.round(at) + 0.5;
    return new echarts.graphic.Line({ ...ON_TOP, shape: { x1: left, y1: y, x2: left + width, y2: y }, style });
  }

  /** A tag on an axis. */
  private tag(text: string, x: number, y: number, align: "left" | "center"): Figure {
    const { ink3, sheet } = this.palette;
    const style = {
      text,
      x,
      y,
      align,
      verticalAlign: align === "left" ? ("middle" as const) : ("top" as const),
      fill: sheet,
      backgroundColor: ink3,
      padding: [3, 6],
      lineHeight: 15,
      font: `600 12px ${FONTS.sans}`,
    };
    return new echarts.graphic.Text({ ...ON_TOP, style });
  }

  dispose(): void {
    this.chart.dispose();
  }
}

/** Where a plot ends, its panels included. */
function footOf(plot: Plot): number {
  return plot.top + plot.height + depthOf(plot);
}

function inside(x: number, { left, width }: Plot): boolean {
  return x >= left && x <= left + width;
}
