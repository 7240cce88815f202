import { poolName, poolPrice, type PoolProps, type PoolState } from "#core/marks/pool";
import { priceText } from "#core/marks/wording";
import type { Shape } from "../shapes.ts";
import type { Draw } from "./drawing.ts";

/**
 * A long-dashed line at the price orders rest beyond, with a tick at every swing it is made of; one that was run is
 * grey.
 */
export const drawPool: Draw<PoolProps, PoolState> = (mark, life, { scale, market, indexOf, selected, origin }) => {
  const { plot } = scale;
  const price = poolPrice(mark);
  const up = mark.props.side === "high";
  const y = Math.round(scale.y(price)) + 0.5;
  const at = mark.anchors.map((anchor) => ({ x: scale.x(indexOf(anchor.time)), y: scale.y(anchor.price) }));
  const left = Math.max(plot.left, Math.min(...at.map(({ x }) => x)));
  const right = plot.left + plot.width;
  if (left >= right) return [];
  const pigment = life.dead ? "ink3" : "slate";
  const tick = up ? -5 : 5;
  const said = [poolName(mark), origin, life.status === "untouched" ? "" : life.status];
  const shapes: Shape[] = [
    {
      kind: "path",
      paths: [[left, y, right, y]],
      stroke: pigment,
      width: selected ? 2 : 1.1,
      dash: life.dead ? [2, 4] : [9, 4],
    },
    {
      kind: "path",
      paths: at.map((point) => [point.x, point.y, point.x, point.y + tick]),
      stroke: pigment,
      width: 1.6,
    },
    {
      kind: "text",
      x: right - 6,
      y: up ? y - 3 : y + 3,
      text: `${said.filter(Boolean).join(", ")} ${priceText(price, market)}`,
      color: pigment,
      size: 11.5,
      movable: true,
      slides: right - left - 120,
      align: "right",
      baseline: up ? "bottom" : "top",
      halo: "paper",
    },
  ];
  return shapes;
};
