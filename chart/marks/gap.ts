import { edges, unfilled, type GapProps, type GapState } from "#core/marks/gap";
import type { Shape } from "../shapes.ts";
import type { Draw } from "./drawing.ts";

/** Upright ticks in the part that is not filled yet: light where nobody traded; its middle a thin line. */
export const drawGap: Draw<GapProps, GapState> = (mark, life, { scale, indexOf, selected, origin }) => {
  const gap = edges(mark);
  if (!gap) return [];
  const { plot } = scale;
  const left = Math.max(plot.left, scale.x(indexOf(mark.anchors[0].time)));
  const right = plot.left + plot.width;
  if (left >= right) return [];
  const { bottom, top } =
    life.state.status === "filled"
      ? { bottom: Math.min(gap.near, gap.far), top: Math.max(gap.near, gap.far) }
      : unfilled(gap, life.state);
  const y = (price: number) => Math.round(scale.y(price)) + 0.5;
  const pigment = life.dead ? "ink3" : gap.up ? "indigo" : "ochre";
  const width = selected ? 1.8 : 0.9;
  const shapes: Shape[] = [
    {
      kind: "path",
      paths: [
        [left, y(top), right, y(top)],
        [left, y(bottom), right, y(bottom)],
      ],
      stroke: pigment,
      width,
      dash: [6, 3],
    },
  ];
  if (!life.dead)
    shapes.push({
      kind: "path",
      paths: ticks(left, right, y(top), y(bottom)),
      stroke: pigment,
      width: 0.7,
      opacity: 0.5,
    });
  const worked = life.state.share > 0 ? `${Math.round(100 * life.state.share)} % filled` : "";
  shapes.push({
    kind: "text",
    x: right - 6,
    y: gap.up ? y(bottom) + 3 : y(top) - 3,
    text: [
      mark.props.of === "fair" || mark.props.of === "fair across a close" ? "gap" : `${mark.props.of} gap`,
      origin,
      worked,
    ]
      .filter(Boolean)
      .join(", "),
    color: pigment,
    size: 11.5,
    movable: true,
    slides: right - left - 120,
    align: "right",
    baseline: gap.up ? "top" : "bottom",
    halo: "paper",
  });
  return shapes;
};

const APART = 26;

/** Short upright lines across the band, hung on absolute places so that they stand still. */
function ticks(left: number, right: number, top: number, bottom: number): number[][] {
  const out: number[][] = [];
  for (let x = Math.ceil(left / APART) * APART; x < right; x += APART) out.push([x, top, x, bottom]);
  return out;
}
