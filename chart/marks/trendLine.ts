import type { TrendLineProps, TrendLineState } from "#core/marks/trendLine";
import type { Draw } from "./drawing.ts";

/** Points a line is drawn with where the axis bends it. */
const BENDS = 24;

/** From the first anchor through the second to the right edge, straight in bars; broken ones are grey and dotted. */
export const drawTrendLine: Draw<TrendLineProps, TrendLineState> = ({ anchors }, life, { scale, indexOf, selected, origin }) => {
  const [a, b] = anchors.map(({ time, price }) => ({ index: indexOf(time), price }));
  if (b.index <= a.index) return [];
  const perBar = (b.price - a.price) / (b.index - a.index);
  const valueAt = (index: number) => a.price + perBar * (index - a.index);
  const from = Math.max(a.index, scale.view.from);
  const to = scale.view.to;
  if (to <= from) return [];
  const steps = scale.view.log ? BENDS : 1;
  const line = Array.from({ length: steps + 1 }, (_, i) => from + ((to - from) * i) / steps).flatMap((index) => [scale.x(index), scale.y(valueAt(index))]);
  const pigment = life.dead ? "ink3" : "slate";
  const name = ["trend line", origin, life.dead ? life.status : ""].filter(Boolean).join(", ");
  // The name stands as far right as the line is still in sight.
  const { plot } = scale;
  const places = Array.from({ length: 40 }, (_, i) => to - ((to - from) * (i + 1)) / 41);
  const right = places.find((index) => scale.y(valueAt(index)) > plot.top + 20 && scale.y(valueAt(index)) < plot.top + plot.height) ?? to;
  return [
    { kind: "path", paths: [line], stroke: pigment, width: selected ? 2 : 1.3, ...(life.dead ? { dash: [2, 4] } : {}) },
    { kind: "text", x: scale.x(right), y: scale.y(valueAt(right)) - 5, text: name, color: pigment, size: 11.5, movable: true, align: "right", baseline: "bottom", halo: "paper" },
  ];
};
