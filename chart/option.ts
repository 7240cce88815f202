import type { EChartsOption } from "echarts";
import type { CustomSeriesRenderItemReturn } from "echarts";
import type { Layout } from "./picture.ts";
import { priceText } from "#core/marks/wording";
import type { Palette } from "./palette.ts";
import { axisOf, depthOf, type Scale } from "./scale.ts";
import type { Shape } from "./shapes.ts";

export interface Fonts {
  sans: string;
  serif: string;
}

/** Name under which `registerStrokes` makes known the one shape everything is drawn with. */
export const STROKES = "strokes";

interface PathContext {
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  closePath(): void;
}

interface Graphics {
  extendShape(definition: { shape: object; buildPath(context: PathContext, shape: StrokesShape): void }): unknown;
  registerShape(name: string, shape: unknown): void;
}

interface StrokesShape {
  paths: number[][];
  closed: boolean;
}

/** Any number of sub-paths in one element: what keeps a full chart at a handful of elements. */
export function registerStrokes(graphic: unknown): void {
  const { extendShape, registerShape } = graphic as Graphics;
  const shape = extendShape({
    shape: { paths: [], closed: false },
    buildPath(context, { paths, closed }) {
      for (const path of paths) {
        context.moveTo(path[0], path[1]);
        for (let i = 2; i < path.length; i += 2) context.lineTo(path[i], path[i + 1]);
        if (closed) context.closePath();
      }
    },
  });
  registerShape(STROKES, shape);
}

/** A shape as an element of the chart library's scene. */
export function element(shape: Shape, palette: Palette, fonts: Fonts): object {
  if (shape.kind === "path") {
    const { paths, stroke, fill, width = 1, dash, opacity = 1, closed = false } = shape;
    return {
      type: STROKES,
      silent: true,
      shape: { paths, closed },
      style: {
        stroke: stroke ? palette[stroke] : "none",
        fill: fill ? palette[fill] : "none",
        lineWidth: stroke ? width : 0,
        lineDash: dash ?? "solid",
        opacity,
      },
    };
  }
  const {
    x,
    y,
    text,
    color,
    size = 12,
    bold,
    serif,
    align = "left",
    baseline = "middle",
    halo,
    tag,
    opacity = 1,
  } = shape;
  return {
    type: "text",
    silent: true,
    style: {
      x,
      y,
      text,
      fill: palette[color],
      fontSize: size,
      fontWeight: bold ? 600 : 400,
      // Otherwise taken from the width of a glyph that a font may not have.
      lineHeight: Math.round(size * 1.2),
      fontFamily: serif ? fonts.serif : fonts.sans,
      align,
      verticalAlign: baseline,
      opacity,
      ...(halo ? { stroke: palette[halo], lineWidth: 3 } : {}),
      ...(tag ? { backgroundColor: palette[tag], padding: tag === "sheet" ? [0, 3] : [3, 6] } : {}),
    },
  };
}

/** The whole chart as an option of the chart library; `size` is what the library was given. */
export function chartOption(
  layout: Layout,
  scale: Scale,
  market: { decimals: number },
  palette: Palette,
  fonts: Fonts,
): EChartsOption {
  const { view, plot } = scale;
  // The library's axis is even; a log axis is an even one of logarithms, whose labels are prices.
  const [onAxis, ofAxis] = axisOf(view);
  const prices = layout.priceTicks.map(onAxis);
  const label = { color: palette.ink3, fontSize: 12, fontFamily: fonts.sans };
  const labels = new Map(layout.timeTicks.map((tick) => [tick.index, tick.label]));
  const at = layout.timeTicks.map(({ index }) => index);
  const layer = (id: string, shapes: Shape[], z: number, clip: boolean) => ({
    id,
    type: "custom" as const,
    coordinateSystem: "cartesian2d" as const,
    data: [[view.from, onAxis(view.bottom)]],
    clip,
    silent: true,
    progressive: 0,
    z,
    renderItem: () =>
      ({
        type: "group",
        children: shapes.map((shape) => element(shape, palette, fonts)),
      }) as unknown as CustomSeriesRenderItemReturn,
  });
  return {
    animation: false,
    backgroundColor: palette.paper,
    grid: { left: plot.left, top: plot.top, width: plot.width, height: plot.height, outerBoundsMode: "none" },
    xAxis: {
      type: "value",
      // Beneath the panels, where there are any.
      offset: depthOf(plot),
      min: view.from,
      max: view.to,
      axisLine: { show: false },
      splitLine: { show: false },
      axisTick: { show: false, customValues: at },
      axisLabel: {
        ...label,
        customValues: at,
        formatter: (value: number) => labels.get(value) ?? "",
        hideOverlap: true,
      },
    },
    yAxis: {
      type: "value",
      position: "right",
      min: onAxis(view.bottom),
      max: onAxis(view.top),
      axisLine: { show: false },
      axisTick: { show: false, customValues: prices },
      splitLine: { show: true, lineStyle: { color: palette.faint }, customValues: prices } as object,
      axisLabel: {
        ...label,
        margin: 12,
        customValues: prices,
        formatter: (value: number) => priceText(ofAxis(value), market),
      },
    },
    series: [
      layer("ground", layout.ground, 0, true),
      layer("candles", layout.candles, 2, true),
      layer("marks", layout.marks, 4, true),
      layer("panels", layout.panels, 5, false),
      layer("heads", layout.heads, 6, false),
      layer("tags", layout.tags, 7, false),
    ],
  };
}
