import { createRequire } from "node:module";
import { CustomChart } from "echarts/charts";
import { GridComponent } from "echarts/components";
import * as echarts from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { Resvg } from "@resvg/resvg-js";
import { chartOption, registerStrokes, type Fonts } from "../../chart/option.ts";
import { PAPER } from "../../chart/palette.ts";
import type { Layout } from "../../chart/picture.ts";
import { scaleText } from "../../chart/scaleText.ts";
import { makeScale, plotOf, type View } from "../../chart/scale.ts";

const require = createRequire(import.meta.url);
/**
 * The rasteriser draws a variable font at its thinnest, so the pictures use static cuts of the same family; labels of
 * waves in circles come from a family of signs, as browsers take them from whatever they find.
 */
const FONT_FILES = [
  "source-sans-3/400Regular/SourceSans3_400Regular",
  "source-sans-3/600SemiBold/SourceSans3_600SemiBold",
  "noto-sans-symbols/400Regular/NotoSansSymbols_400Regular",
].map((file) => require.resolve(`@expo-google-fonts/${file}.ttf`));
const FONTS: Fonts = { sans: "Source Sans 3", serif: "Source Serif 4" };

echarts.use([CustomChart, GridComponent, SVGRenderer]);
registerStrokes(echarts.graphic);

export interface PictureSize {
  width: number;
  height: number;
}

/**
 * A picture that is laid out: shapes in pixels and what the axes need. Plain data, so that it can be drawn elsewhere.
 */
export interface Drawing {
  layout: Layout;
  view: View;
  size: PictureSize;
  /** Pixels right of the plot, for the prices. */
  room: number;
  /** Heights of panels beneath the plot. */
  below?: readonly number[];
  decimals: number;
  title: string;
  /** Pixels of the PNG to one of the SVG; 2 where it is not said, and no PNG at 0. */
  zoom?: number;
}

/** A picture in both its forms: the same shapes. */
export interface DrawnPicture {
  svg: string;
  /** Empty where none was asked for. */
  png: Uint8Array;
}

/** The chart as SVG text, titled for those who cannot see it, with what its places stand for. */
export function drawSvg({ layout, view, size: { width, height }, room, below, decimals, title }: Drawing): string {
  const chart = echarts.init(null, null, { renderer: "svg", ssr: true, width, height });
  try {
    const scale = makeScale(view, plotOf(width, height, room, below));
    chart.setOption(chartOption(layout, scale, { decimals }, PAPER, FONTS));
    const svg = chart.renderToSVGString().replace(/<style[^>]*>[\s\S]*?<\/style>/g, "");
    const name = `<title>${escapeXml(title)}</title>`;
    return svg.replace(/^<svg([^>]*)>/, `<svg$1 data-scale="${scaleText(scale)}">${name}`);
  } finally {
    chart.dispose();
  }
}

/**
 * The same picture as PNG, `zoom` pixels to a unit. The rasteriser is native: where it fails it may take its process
 * with it.
 */
export function drawPng(svg: string, zoom = 2): Uint8Array {
  const resvg = new Resvg(svg, {
    fitTo: { mode: "zoom", value: zoom },
    font: { loadSystemFonts: false, fontFiles: FONT_FILES, defaultFontFamily: FONTS.sans },
  });
  return new Uint8Array(resvg.render().asPng());
}

function escapeXml(text: string): string {
  return text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);
}
