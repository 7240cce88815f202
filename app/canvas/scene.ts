import { CustomChart } from "echarts/charts";
import { GridComponent } from "echarts/components";
import * as echarts from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { chartOption, registerStrokes, type Fonts } from "../../chart/option.ts";
import { LAMP, PAPER, type Palette } from "../../chart/palette.ts";
import type { Layout } from "../../chart/picture.ts";
import type { Scale } from "../../chart/scale.ts";

echarts.use([CustomChart, GridComponent, CanvasRenderer]);
registerStrokes(echarts.graphic);

const FONTS: Fonts = { sans: '"Source Sans 3 Variable", sans-serif', serif: '"Source Serif 4 Variable", serif' };

export interface Overlay {
  /** Crosshair in pixels with its tags, if the pointer is in the plot. */
  cross?: { x: number; y: number; price: string; time: string };
  handles: { x: number; y: number }[];
  /** Pivots of a mark that is being placed. */
  draft: { x: number; y: number }[];
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

  drawOverlay({ cross, handles, draft }: Overlay, { plot }: Scale): void {
    const { ink, ink3, sheet } = this.palette;
    const on = { silent: true, zlevel: 9 };
    this.top.removeAll();
    if (cross) {
      const right = plot.left + plot.width;
      const bottom = plot.top + plot.height;
      const style = { stroke: ink3, lineWidth: 1, lineDash: [3, 3] };
      const [x, y] = [Math.round(cross.x) + 0.5, Math.round(cross.y) + 0.5];
      this.top.add(new echarts.graphic.Line({ ...on, shape: { x1: x, y1: plot.top, x2: x, y2: bottom }, style }));
      this.top.add(new echarts.graphic.Line({ ...on, shape: { x1: plot.left, y1: y, x2: right, y2: y }, style }));
      const tag = { fill: sheet, backgroundColor: ink3, padding: [3, 6], lineHeight: 15, font: `600 12px ${FONTS.sans}` };
      this.top.add(new echarts.graphic.Text({ ...on, style: { ...tag, text: cross.price, x: right + 6, y, verticalAlign: "middle" } }));
      this.top.add(new echarts.graphic.Text({ ...on, style: { ...tag, text: cross.time, x, y: bottom + 5, align: "center" } }));
    }
    if (draft.length > 1)
      this.top.add(
        new echarts.graphic.Polyline({
          ...on,
          shape: { points: draft.map(({ x, y }) => [x, y]) },
          style: { stroke: ink, lineWidth: 1.2, lineDash: [4, 3] },
        }),
      );
    for (const { x, y } of [...handles, ...draft])
      this.top.add(new echarts.graphic.Rect({ ...on, shape: { x: x - 4.5, y: y - 4.5, width: 9, height: 9 }, style: { fill: sheet, stroke: ink, lineWidth: 1.6 } }));
    this.chart.getZr().flush();
  }

  dispose(): void {
    this.chart.dispose();
  }
}
