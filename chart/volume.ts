import type { Stretch } from "./nights.ts";
import { visible, type Pyramid } from "./pyramid.ts";
import type { Scale } from "./scale.ts";
import type { Shape } from "./shapes.ts";

/** Share of the plot's height that the tallest volume in view takes. */
const SHARE = 0.13;

/** Volume as pale columns at the foot of the plot, paler still where it was traded overnight. */
export function drawVolume(pyramid: Pyramid, scale: Scale, nights: readonly Stretch[]): Shape[] {
  const { view, plot } = scale;
  const { series, start, step } = visible(pyramid, view.from, view.to, plot.width);
  let most = 0;
  for (let i = 0; i < series.length; i++) if (series.volume[i] > most) most = series.volume[i];
  if (most === 0) return [];
  const foot = plot.top + plot.height;
  // Upright strokes, for a path of thousands of filled boxes takes five times as long to paint.
  const width = Math.max(1, Math.min(12, Math.floor(scale.slot * step * 0.7)));
  const middle = width % 2 === 0 ? 0 : 0.5;
  const day: number[][] = [];
  const night: number[][] = [];
  let n = 0;
  for (let i = 0; i < series.length; i++) {
    const index = start + i * step;
    while (n < nights.length && nights[n].to < index) n++;
    const x = Math.round(scale.x(start + (i + 0.5) * step - 0.5)) + middle;
    const y = foot - (series.volume[i] / most) * plot.height * SHARE;
    const inNight = n < nights.length && nights[n].from <= index;
    (inNight ? night : day).push([x, foot, x, y]);
  }
  return [
    { kind: "path", paths: day, stroke: "rule", width },
    { kind: "path", paths: night, stroke: "rule", width, opacity: 0.5 },
  ];
}
